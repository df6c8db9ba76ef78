package ablecrate.format;

import ablecrate.codec.FormatException;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.PlayingSettings;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// A format that is a text beside its sounds.
public interface MapFormat extends InstrumentFormat {
    /// @param sounds paths of the samples as seen from the file, `/` between folders, in the order of the zones' sample numbers
    /// @param playing used where the format says it
    byte[] write(Instrument instrument, List<String> sounds, PlayingSettings playing);

    /// A file of this format with another name in it.
    /// @return empty where files do not say a name
    default Optional<byte[]> renamed(Path file, String name) throws IOException, FormatException { return Optional.empty(); }

    /// One that is played as usual.
    default byte[] write(Instrument instrument, List<String> sounds) { return write(instrument, sounds, PlayingSettings.USUAL); }
}
