package ablecrate.verify;

import ablecrate.disk.Checksums;
import ablecrate.sidecar.Sidecar;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/// Reads a small file beside sounds again and compares it with what it was made of.
public final class SidecarComparison {
    private SidecarComparison() {}

    /// @param crc32c of the bytes that were handed to the disk
    public static List<Outcome> of(Path file, Sidecar planned, long crc32c) throws IOException {
        Sidecar.Found found = planned.found(Files.readAllBytes(file));
        return List.of(
                Checksums.crc32c(file) == crc32c
                        ? new Outcome.Held(Check.BYTES, "as written")
                        : new Outcome.Failed(Check.BYTES, "the bytes that were written", "others"),
                found.isAsPlanned()
                        ? new Outcome.Held(Check.PLACES, found.text())
                        : new Outcome.Failed(Check.PLACES, planned.entries() + " " + planned.noun() + "s as planned", found.text()));
    }
}
