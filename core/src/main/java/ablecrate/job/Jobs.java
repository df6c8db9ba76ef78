package ablecrate.job;

import ablecrate.disk.SafeFile;
import ablecrate.json.Json;
import java.io.IOException;
import ablecrate.plan.PackOptions;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/// Saves and opens jobs.
public final class Jobs {
    /// Of job files, with its dot.
    public static final String EXTENSION = ".ablecrate";

    private Jobs() {}

    /// The file is the old one or the new one, whatever happens meanwhile.
    public static void save(Job job, Path file) throws IOException { SafeFile.write(file, Json.write(JobFile.of(job))); }

    /// Options with the keys that they have in a job file.
    public static Map<String, Object> keys(PackOptions options, String destination) {
        Map<String, Object> keys = Json.tree(JobFile.of(Job.EMPTY.withOptions(options)));
        keys.put("destination", destination);
        List.of("version", "sources", "removed", "edits", "into").forEach(keys::remove);
        return keys;
    }

    /// @throws Json.JsonFault if the file is no job; the message says where
    public static Job open(Path file) throws IOException, Json.JsonFault { return Json.read(file, JobFile.class).job(file.toString()); }
}
