package ablecrate.cli;

import ablecrate.library.FrameReader;
import ablecrate.standins.HostSound;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/// Any file that is read here, for the stand-in that plays a session.
final class Sounds {
    private Sounds() {}

    static Optional<HostSound> open(Path path) throws IOException {
        return FrameReader.open(path).map(r -> HostSound.of(r.file().rateHz(), r.file().channels(), r.file().frames(), r::read));
    }
}
