package ablecrate.sidecar;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;

/// A MIDI file that plays a clip's slices: one track (type 0), one tempo, full velocity, as slices have their own levels.
///
/// A tick lasts at most 0.1 ms: the division is the least multiple of 960 ticks a quarter note that is that fine, so that triplets and sixty-fourth notes fall on
/// whole ticks. At 120 beats a minute these are 5,760; at 20, the slowest, 30,720 of 32,767 that there may be.
///
/// Source: MIDI Manufacturers Association, *Standard MIDI Files 1.0* (RP-001).
/// @param name of the track
/// @param bpm beats a minute
/// @param isQuantised whether notes are moved to a grid, and do not lie as they do in the clip
/// @param clipSeconds where the clip's start would be
/// @param notes in any order
public record RhythmFile(String name, double bpm, boolean isQuantised, double clipSeconds, List<Note> notes) implements Sidecar {
    private static final int TRACK_NAME = 0x03, SET_TEMPO = 0x51, TIME_SIGNATURE = 0x58, TYPE = 0, CHANNEL = 0, VELOCITY = 127, STEP = 960;
    private static final double LONGEST_TICK_MICROS = 100, MICROS = 1e6;
    /// Four quarter notes a bar, a click each, eight thirty-second notes a quarter.
    private static final byte[] FOUR_QUARTERS = {4, 2, 24, 8};

    /// @param key 0…127
    /// @param sound that it plays, among those beside the file
    public record Note(int key, double startSeconds, double seconds, int sound) {}

    /// Where a note begins once its time is one of ticks.
    public double writtenSeconds(Note note) { return tick(note.startSeconds()) * (quarterMicros() / MICROS) / division(); }

    public RhythmFile {
        notes = notes.stream().distinct().sorted(Comparator.comparingDouble(Note::startSeconds)).toList();
    }

    @Override public String id() { return "midi"; }

    @Override public String label() { return isQuantised ? "quantised MIDI file" : "MIDI file"; }

    @Override public String extension() { return "mid"; }

    @Override public int entries() { return notes.size(); }

    @Override public String noun() { return "note"; }

    private int quarterMicros() { return (int) Math.round(60 * MICROS / bpm); }

    /// Ticks a quarter note.
    private int division() { return STEP * (int) Math.ceil(quarterMicros() / LONGEST_TICK_MICROS / STEP); }

    private long tick(double seconds) { return Math.round(seconds * MICROS / quarterMicros() * division()); }

    @Override public byte[] bytes(List<String> sounds) {
        try {
            Sequence sequence = new Sequence(Sequence.PPQ, division());
            Track track = sequence.createTrack();
            byte[] text = name.getBytes(StandardCharsets.UTF_8), tempo = ByteBuffer.allocate(Integer.BYTES).putInt(quarterMicros()).array();
            track.add(new MidiEvent(new MetaMessage(TRACK_NAME, text, text.length), 0));
            track.add(new MidiEvent(new MetaMessage(SET_TEMPO, new byte[]{tempo[1], tempo[2], tempo[3]}, 3), 0));
            track.add(new MidiEvent(new MetaMessage(TIME_SIGNATURE, FOUR_QUARTERS, FOUR_QUARTERS.length), 0));
            for (Note note : notes) {
                long start = tick(note.startSeconds());
                track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, CHANNEL, note.key(), VELOCITY), start));
                track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, CHANNEL, note.key(), 0),
                        Math.max(start + 1, tick(note.startSeconds() + note.seconds()))));
            }
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            MidiSystem.write(sequence, TYPE, out);
            return out.toByteArray();
        } catch (InvalidMidiDataException | IOException e) {
            throw new IllegalStateException(e);
        }
    }

    @Override public Found found(byte[] written) {
        Sequence read;
        try {
            read = MidiSystem.getSequence(new ByteArrayInputStream(written));
        } catch (InvalidMidiDataException | IOException e) {
            return new Found(false, "no MIDI file: " + e);
        }
        List<Note> found = new ArrayList<>();
        double tickSeconds = 0;
        for (int i = 0; i < read.getTracks()[0].size(); i++) {
            MidiEvent event = read.getTracks()[0].get(i);
            MidiMessage message = event.getMessage();
            if (message instanceof MetaMessage meta && meta.getType() == SET_TEMPO)
                tickSeconds = ByteBuffer.allocate(Integer.BYTES).put((byte) 0).put(meta.getData()).getInt(0) / MICROS / read.getResolution();
            if (message instanceof ShortMessage note && note.getCommand() == ShortMessage.NOTE_ON && note.getData2() > 0)
                found.add(new Note(note.getData1(), event.getTick() * tickSeconds, 0, 0));
        }
        if (found.size() != notes.size()) return new Found(false, found.size() + " notes");
        // Notes on one tick may be told in any order.
        List<Note> wanted = notes.stream().sorted(Comparator.comparingLong((Note n) -> tick(n.startSeconds())).thenComparingInt(Note::key)).toList();
        found.sort(Comparator.comparingLong((Note n) -> tick(n.startSeconds())).thenComparingInt(Note::key));
        double farthest = 0;
        for (int i = 0; i < wanted.size(); i++) {
            if (wanted.get(i).key() != found.get(i).key()) return new Found(false, "note " + (i + 1) + " on key " + found.get(i).key());
            farthest = Math.max(farthest, Math.abs(wanted.get(i).startSeconds() - found.get(i).startSeconds()));
        }
        return new Found(farthest <= tickSeconds, String.format(Locale.ROOT, "%d notes, at most %.3f ms from their places", found.size(), farthest * 1e3));
    }
}
