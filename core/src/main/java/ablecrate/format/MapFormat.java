package ablecrate.format;

import ablecrate.instrument.Instrument;
import java.util.List;

/// A format that is a text beside its sounds.
public interface MapFormat extends InstrumentFormat {
    /// @param sounds paths of the samples as seen from the file, `/` between folders, in the order of the zones' sample numbers
    byte[] write(Instrument instrument, List<String> sounds);
}
