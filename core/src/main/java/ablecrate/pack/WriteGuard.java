package ablecrate.pack;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.text.Normalizer;
import java.util.Collection;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/// Decides, for every file that a run writes, whether its place may be taken: never that of a source of the run, whatever name, link or spelling leads there,
/// and never one outside of the folder that was chosen.
final class WriteGuard {
    private final Path root;
    /// What the file system knows the sources by, where it tells; and their real paths as file systems compare them that tell no cases apart.
    private final Set<Object> keys = new HashSet<>();
    private final Set<String> paths = new HashSet<>();

    /// @param root the folder that is written into; it is there
    /// @param sources files that are read
    WriteGuard(Path root, Collection<Path> sources) throws IOException {
        this.root = root.toRealPath();
        for (Path source : sources)
            try {
                Object key = Files.readAttributes(source, BasicFileAttributes.class).fileKey();
                if (key != null)
                    keys.add(key);
                else
                    paths.add(alike(source.toRealPath()));
            } catch (IOException e) {
                // One that is gone cannot be written over; its line says so.
            }
    }

    /// As file systems see it that tell neither cases nor ways of writing an accent apart.
    private static String alike(Path path) { return Normalizer.normalize(path.toString(), Normalizer.Form.NFC).toLowerCase(Locale.ROOT); }

    /// @throws IOException if a link leads out of the folder
    /// @throws ItemFault if it is the place of a source
    void check(Path target) throws IOException, ItemFault {
        Path there = target.getParent();
        while (there != null && !Files.exists(there, LinkOption.NOFOLLOW_LINKS))
            there = there.getParent();
        if (there == null || !there.toRealPath().startsWith(root))
            throw new IOException(target + " would lie outside of " + root + ": a link leads there; choose another folder, or take the link away");
        if (!Files.exists(target)) return;
        Object key = Files.readAttributes(target, BasicFileAttributes.class).fileKey();
        if (key != null ? keys.contains(key) : paths.contains(alike(target.toRealPath())))
            throw new ItemFault("the result would take the place of a source of this run, " + target.getFileName()
                    + "; pack into another folder, or in place");
    }
}
