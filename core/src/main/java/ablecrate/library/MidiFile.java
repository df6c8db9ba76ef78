package ablecrate.library;

import java.io.EOFException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;

/// A Standard MIDI File: notes, no sound. Told apart from sounds by how long it plays and how many tracks it has.
final class MidiFile {
    private static final long MOST_BYTES = 4 << 20;

    private MidiFile() {}

    /// What it is, in one sentence.
    static String told(Path file) throws IOException {
        if (Files.size(file) <= MOST_BYTES)
            try {
                Sequence sequence = MidiSystem.getSequence(file.toFile());
                double seconds = sequence.getMicrosecondLength() / 1e6;
                int tracks = sequence.getTracks().length;
                return String.format(Locale.ROOT, "it holds notes, no sound: %d track%s, %d:%04.1f long; render it with an instrument first", tracks,
                        tracks == 1 ? "" : "s", (int) (seconds / 60), seconds % 60);
            } catch (InvalidMidiDataException | EOFException | RuntimeException e) {
                // Damaged notes are no sound either.
            }
        return "it holds notes, no sound; render it with an instrument first";
    }
}
