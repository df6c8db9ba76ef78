package ablecrate.format;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.Optional;
import java.util.stream.Stream;

/// Finds the files that an instrument beside them names: `\` and `/` both separate folders, and letter cases may differ from the disk's.
public final class PathsBeside {
    private PathsBeside() {}

    /// @return where the file would be; empty if the name is absolute, or none
    public static Optional<Path> resolve(Path folder, String name) {
        return exact(folder, name).map(exact -> Files.exists(exact) ? exact : inAnyCase(folder, slashed(name)).orElse(exact));
    }

    /// Where the file would be if its name is written as on the disk; the disk is not asked.
    static Optional<Path> exact(Path folder, String name) {
        String slashed = slashed(name);
        if (slashed.isEmpty() || slashed.startsWith("/") || slashed.matches("[A-Za-z]:.*") || slashed.indexOf('\0') >= 0) return Optional.empty();
        try {
            return Optional.of(folder.resolve(slashed).normalize());
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    private static String slashed(String name) { return name.replace('\\', '/').strip(); }

    private static Optional<Path> inAnyCase(Path folder, String slashed) {
        Path at = folder;
        for (String part : slashed.split("/+")) {
            if (part.equals(".")) continue;
            Path next = at.resolve(part).normalize();
            if (part.equals("..") || Files.exists(next)) {
                at = next;
                continue;
            }
            try (Stream<Path> inside = Files.list(at)) {
                Optional<Path> same = inside.filter(p -> p.getFileName().toString().equalsIgnoreCase(part)).min(Comparator.naturalOrder());
                if (same.isEmpty()) return Optional.empty();
                at = same.get();
            } catch (IOException e) {
                return Optional.empty();
            }
        }
        return Optional.of(at);
    }
}
