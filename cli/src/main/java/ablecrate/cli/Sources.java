package ablecrate.cli;

import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// What the paths of a command stand for: files and folders, and those of the jobs among them.
/// @param job the first job that was named; its destination, options and edits hold where nothing else is said
record Sources(List<Path> paths, Set<Path> removed, Optional<Job> job) {
    static Sources of(List<Path> given) throws IOException, Json.JsonFault {
        List<Path> paths = new ArrayList<>();
        Set<Path> removed = new LinkedHashSet<>();
        Optional<Job> first = Optional.empty();
        for (Path path : given) {
            if (!path.toString().endsWith(Jobs.EXTENSION)) {
                paths.add(path);
                continue;
            }
            Job job = Jobs.open(path);
            paths.addAll(job.sources());
            removed.addAll(job.removed());
            if (first.isEmpty()) first = Optional.of(job);
        }
        return new Sources(paths, removed, first);
    }
}
