package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.Stream;

/// What a card holds; each file takes whole clusters of it.
record CardCapacity(long bytes, int cluster) {
    /// @return why a card is none of this kind; empty if it is
    Optional<Device.Refusal> refusal(Path card) throws IOException {
        long taken = 0;
        try (Stream<Path> all = Files.walk(card)) {
            for (Path file : all.filter(Files::isRegularFile).toList())
                taken += (Files.size(file) + cluster - 1) / cluster * cluster;
        }
        return taken <= bytes ? Optional.empty() : Optional.of(new Device.Refusal(".", "files take " + taken + " bytes; a card has " + bytes));
    }
}
