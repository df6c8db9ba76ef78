package ablecrate.format;

import ablecrate.codec.FormatException;
import ablecrate.instrument.Instrument;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// A format that is a text beside its sounds.
public interface MapFormat extends InstrumentFormat {
    /// @param sounds paths of the samples as seen from the file, `/` between folders, in the order of the zones' sample numbers
    byte[] write(Instrument instrument, List<String> sounds);

    /// A file of this format with another name in it.
    /// @return empty where files do not say a name
    default Optional<byte[]> renamed(Path file, String name) throws IOException, FormatException { return Optional.empty(); }

}
