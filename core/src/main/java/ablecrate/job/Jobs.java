package ablecrate.job;

import ablecrate.disk.SafeFile;
import ablecrate.json.Json;
import ablecrate.option.OptionValues;
import ablecrate.option.PackOptions;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;

/// Saves and opens jobs.
public final class Jobs {
    /// Of job files, with its dot.
    public static final String EXTENSION = ".ablecrate";

    private Jobs() {}

    /// The file is the old one or the new one, whatever happens meanwhile.
    public static void save(Job job, Path file) throws IOException { SafeFile.write(file, Json.write(JobFile.of(job, JobPaths.of(file)))); }

    /// Options with the keys that they have in a job file, and the destination with them.
    public static Map<String, Object> keys(PackOptions options, String destination) {
        Map<String, Object> keys = new LinkedHashMap<>(Map.of("destination", destination));
        keys.putAll(OptionValues.of(options));
        return keys;
    }

    /// @param lengths of files that are treated otherwise than the rest, as they were when the job was saved
    public record Opened(Job job, Map<Path, Long> lengths) {
        public Opened {
            lengths = Map.copyOf(lengths);
        }
    }

    /// @throws Json.JsonFault if the file is no job; the message says where
    public static Opened read(Path file) throws IOException, Json.JsonFault {
        JobFile read = Json.read(file, JobFile.class);
        JobPaths paths = JobPaths.of(file);
        return new Opened(read.job(file.toString(), paths), read.lengths(paths));
    }

    /// The job alone, see [#read].
    public static Job open(Path file) throws IOException, Json.JsonFault { return read(file).job(); }
}
