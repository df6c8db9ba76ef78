package ablecrate.standins;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Optional;

/// What a card holds; each file takes whole clusters of it. What cannot be read is passed over.
record CardCapacity(long bytes, int cluster) {
    /// @return why a card is none of this kind; empty if it is
    Optional<Device.Refusal> refusal(Path card) throws IOException {
        long[] sum = {0};
        Files.walkFileTree(card, new SimpleFileVisitor<>() {
            @Override public FileVisitResult visitFile(Path file, BasicFileAttributes about) {
                if (about.isRegularFile()) sum[0] += (about.size() + cluster - 1) / cluster * cluster;
                return FileVisitResult.CONTINUE;
            }

            @Override public FileVisitResult visitFileFailed(Path file, IOException why) { return FileVisitResult.CONTINUE; }
        });
        long taken = sum[0];
        return taken <= bytes ? Optional.empty() : Optional.of(new Device.Refusal(".", "files take " + taken + " bytes; a card has " + bytes));
    }
}
