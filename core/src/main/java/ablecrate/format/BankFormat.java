package ablecrate.format;

import ablecrate.audio.SeekableSource;
import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// A format that holds its sounds.
public interface BankFormat extends InstrumentFormat {
    /// One sound of a bank to be written.
    /// @param metadata loops, root and tuning that belong to the sound itself
    record BankSound(String name, OutputShape shape, SoundMetadata metadata) {}

    /// Gives the samples of the sounds, on the steps of their depth. A format that keeps channels or bytes apart opens a sound several times.
    interface Feed {
        SeekableSource open(int sound) throws IOException;
    }

    /// How many bytes of audio a bank takes at most.
    long limitBytes();

    /// How many zones there is room for in a bank, about, where stereo sounds take two; 0 is no limit.
    default int mostZones() { return 0; }

    /// Whether the sides of a stereo sound are two samples.
    default boolean hasSidesApart() { return false; }

    /// What a bank of these would have more of than it can count; empty if it holds them.
    default Optional<String> tooMany(List<Instrument> instruments, List<BankSound> sounds) { return Optional.empty(); }

    /// Bytes that stand in a file in the place of others.
    record Patch(long at, Bytes bytes) {}

    /// What gives an instrument another name in its file.
    /// @param number of the instrument, in the order of the file
    /// @return empty if the format has no way for it, or there is no such instrument
    default Optional<Patch> renamed(Path file, int number, String name) throws IOException, FormatException { return Optional.empty(); }

    /// Writes in one direction.
    /// @param about of the bank as a whole
    void write(OutputStream out, About about, List<Instrument> instruments, List<BankSound> sounds, Feed feed) throws IOException;
}
