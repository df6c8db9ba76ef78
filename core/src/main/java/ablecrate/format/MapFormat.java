package ablecrate.format;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.PlayingSettings;
import java.util.List;

/// A format that is a text beside its sounds.
public interface MapFormat extends InstrumentFormat {
    /// @param sounds paths of the samples as seen from the file, `/` between folders, in the order of the zones' sample numbers
    /// @param playing used where the format says it
    byte[] write(Instrument instrument, List<String> sounds, PlayingSettings playing);

    /// One that is played as usual.
    default byte[] write(Instrument instrument, List<String> sounds) { return write(instrument, sounds, PlayingSettings.USUAL); }
}
