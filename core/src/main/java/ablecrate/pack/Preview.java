package ablecrate.pack;

import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.SoundPath;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/// One sound as packing would write it, in a folder of its own: what is heard and measured before packing is then what packing gives.
public final class Preview {
    private Preview() {}

    /// @param folder that the caller deletes
    /// @return the file as it reads back; empty if it was stopped
    public static Optional<SoundFile> write(PlannedOutput output, SoundPath path, Path folder, StopSignal stop) throws IOException {
        Path file = folder.resolve("preview." + SoundFormats.written(output.formatId()).orElseThrow().extensions().getFirst());
        try {
            new SoundWriter(path, stop, _ -> {}).write(output, folder.resolve("preview.spool"),
                    () -> new BufferedOutputStream(Files.newOutputStream(file), 1 << 16));
        } catch (StopSignal.StoppedException e) {
            return Optional.empty();
        }
        try {
            return Optional.of(SoundFormats.byId(output.formatId()).orElseThrow().read(file));
        } catch (FormatException e) {
            throw new IOException("what was written does not read back: " + e.getMessage(), e);
        }
    }
}
