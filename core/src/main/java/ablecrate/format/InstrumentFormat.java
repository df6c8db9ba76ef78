package ablecrate.format;

import ablecrate.codec.FormatException;
import ablecrate.instrument.Instrument;
import java.io.IOException;
import java.nio.file.Path;
import java.util.function.UnaryOperator;

/// A format of instruments: recognises itself, reads, and writes in one of two ways, see [MapFormat] and [BankFormat]. Stateless, safe for threads.
public interface InstrumentFormat {
    /// As on the command line and in sheets: `sfz`.
    String id();

    /// For people: `SoundFont 2`.
    String name();

    /// Lower case, without the dot.
    String extension();

    InstrumentCapabilities capabilities();

    /// @param head the first bytes of a file
    /// @param fileName lower case
    boolean recognises(byte[] head, String fileName);

    /// Whether each sound says in its own chunks how it is played, so that each zone has a sound of its own.
    default boolean zonesInSounds() { return false; }

    /// Whether its files say how an instrument is played as a whole, see [ablecrate.instrument.PlayingSettings].
    default boolean saysPlaying() { return false; }

    /// The number in a bank as it comes back when this one is written and read.
    default Instrument.Program fit(Instrument.Program program) { return program; }

    /// Reads the instruments and describes their samples. Damage that leaves something usable is told in the problems.
    /// @throws FormatException if nothing of the file can be used
    InstrumentFile read(Path path) throws IOException, FormatException;

    /// Reads instruments whose sounds do not lie where they are named yet.
    /// @param lies where a sound lies meanwhile that is named at a path
    default InstrumentFile read(Path path, UnaryOperator<Path> lies) throws IOException, FormatException { return read(path); }
}
