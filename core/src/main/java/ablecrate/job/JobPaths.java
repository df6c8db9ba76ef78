package ablecrate.job;

import java.io.File;
import java.nio.file.Path;
import java.util.Optional;

/// How paths stand in a job's file. What lies below the file's folder, or below the folder above that, stands as seen from there, with `/` between names: so
/// the file and its sounds can be moved, or carried to another system, together. Other paths stand in full.
/// @param folder of the job's file; empty for what is in no file
record JobPaths(Optional<Path> folder) {
    /// A folder above that holds everything is none to move.
    private static final int LEAST_DEPTH = 2;

    static JobPaths of(Path file) { return new JobPaths(Optional.of(file.toAbsolutePath().normalize().getParent())); }

    String text(Path path) {
        boolean isNear = folder.isPresent() && (path.startsWith(folder.get())
                || folder.get().getNameCount() > LEAST_DEPTH && path.startsWith(folder.get().getParent()));
        if (!isNear) return path.toString();
        String relative = folder.get().relativize(path).toString().replace(File.separatorChar, '/');
        return relative.isEmpty() ? "." : relative;
    }

    /// @throws java.nio.file.InvalidPathException if it is none
    Path path(String text) { return folder.map(f -> f.resolve(text).normalize()).orElseGet(() -> Path.of(text)); }

    /// Of a destination that is a sheet in a file; a built-in one has a plain name.
    String sheetText(String destination) {
        if (folder.isEmpty() || !Path.of(destination).isAbsolute()) return destination;
        String text = text(Path.of(destination));
        return text.startsWith(".") || Path.of(text).isAbsolute() ? text : "./" + text;
    }

    String sheet(String text) { return folder.isPresent() && text.startsWith(".") ? path(text).toString() : text; }
}
