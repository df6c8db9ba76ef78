package ablecrate.standins;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import javax.sound.sampled.AudioFileFormat;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioInputStream;
import javax.sound.sampled.AudioSystem;

/// What a MIDI file plays on a preset, made as it is read.
public final class Performance {
    public static final int RATE_HZ = 44_100;
    private static final int TEMPO = 0x51, WHEEL = 1, SUSTAIN = 64, TAIL_SECONDS = 20, MOST_SECONDS = 3600, BLOCK = 4096, TURN_VELOCITY = 100;
    private static final double TURN_SECONDS = 0.6;

    private record Event(double seconds, ShortMessage message) {
        boolean starts() { return message.getCommand() == ShortMessage.NOTE_ON && message.getData2() > 0; }

        boolean isNote() { return message.getCommand() == ShortMessage.NOTE_ON || message.getCommand() == ShortMessage.NOTE_OFF; }
    }

    private final List<Event> events;
    private final DevicePlayer player;
    private final int rateHz;
    private long frame;
    private int next;

    private Performance(List<Event> events, DevicePlayer player, int rateHz) {
        this.events = events;
        this.player = player;
        this.rateHz = rateHz;
    }

    /// @throws IOException if the file is no MIDI file, or longer than an hour
    public static Performance of(Preset preset, Path midi, int rateHz) throws IOException {
        List<Event> events = events(midi).stream().filter(e -> preset.playing().channel() == 0 || e.message.getChannel() == preset.playing().channel() - 1)
                .toList();
        if (!events.isEmpty() && events.getLast().seconds > MOST_SECONDS) throw new IOException("it plays for more than an hour");
        return new Performance(events, new DevicePlayer(preset, rateHz), rateHz);
    }

    /// Each sound of a preset once, one after another; sounds that lie on the same keys together.
    public static Performance inTurn(Preset preset, int rateHz) {
        List<Event> events = new ArrayList<>();
        double at = 0;
        for (int key : preset.keys()) {
            double end = at + preset.slots().stream().filter(s -> s.key() == key).mapToDouble(s -> s.isOneShot() ? s.seconds() : TURN_SECONDS).max()
                    .orElse(TURN_SECONDS);
            events.add(new Event(at, note(ShortMessage.NOTE_ON, key, TURN_VELOCITY)));
            events.add(new Event(end, note(ShortMessage.NOTE_OFF, key, 0)));
            at = end;
        }
        return new Performance(events, new DevicePlayer(preset, rateHz), rateHz);
    }

    private static ShortMessage note(int command, int key, int velocity) {
        try {
            return new ShortMessage(command, key, velocity);
        } catch (InvalidMidiDataException e) {
            throw new IllegalArgumentException(e);
        }
    }

    /// Whether no note of it is played.
    public boolean isEmpty() { return events.stream().noneMatch(Event::starts); }

    /// Until its last note is let go.
    public double seconds() { return events.isEmpty() ? 0 : events.getLast().seconds; }

    /// Keys that are held at a moment. From any thread.
    public Set<Integer> keysAt(double seconds) {
        Set<Integer> held = new TreeSet<>();
        for (Event event : events) {
            if (event.seconds > seconds) break;
            if (event.starts())
                held.add(event.message.getData1());
            else
                if (event.isNote()) held.remove(event.message.getData1());
        }
        return held;
    }

    /// Fills `[left, right][at … at + count)`.
    /// @return how many frames there are; 0 once all has died away
    public int read(double[][] out, int at, int count) {
        int made = 0;
        while (made < count) {
            while (next < events.size() && frameOf(events.get(next)) <= frame)
                play(player, events.get(next++).message);
            boolean isOver = next == events.size();
            if (isOver && (player.isSilent() || frame >= (seconds() + TAIL_SECONDS) * rateHz)) break;
            int n = isOver ? Math.min(1024, count - made) : (int) Math.min(count - made, frameOf(events.get(next)) - frame);
            for (double[] side : out)
                Arrays.fill(side, at + made, at + made + n, 0);
            player.render(out, at + made, n);
            made += n;
            frame += n;
        }
        return made;
    }

    private long frameOf(Event event) { return Math.round(event.seconds * rateHz); }

    private static void play(DevicePlayer player, ShortMessage message) {
        switch (message.getCommand()) {
            case ShortMessage.NOTE_ON -> {
                if (message.getData2() > 0)
                    player.noteOn(message.getData1(), message.getData2());
                else
                    player.noteOff(message.getData1());
            }
            case ShortMessage.NOTE_OFF -> player.noteOff(message.getData1());
            case ShortMessage.CONTROL_CHANGE -> {
                if (message.getData1() == SUSTAIN) player.sustain(message.getData2() >= 64);
                if (message.getData1() == WHEEL) player.wheel(message.getData2() / 127.0);
            }
            case ShortMessage.PITCH_BEND -> player.bend(((message.getData2() << 7 | message.getData1()) - 8192) / 8192.0);
            default -> {
            }
        }
    }

    private static List<Event> events(Path midi) throws IOException {
        Sequence sequence;
        try {
            sequence = MidiSystem.getSequence(midi.toFile());
        } catch (InvalidMidiDataException e) {
            throw new IOException("no MIDI file: " + e.getMessage(), e);
        }
        List<MidiEvent> all = new ArrayList<>();
        for (Track track : sequence.getTracks())
            for (int i = 0; i < track.size(); i++)
                all.add(track.get(i));
        all.sort(Comparator.comparingLong(MidiEvent::getTick));
        List<Event> out = new ArrayList<>();
        double seconds = 0, perTick = sequence.getDivisionType() == Sequence.PPQ
                ? 0.5 / sequence.getResolution()
                : 1 / (sequence.getDivisionType() * sequence.getResolution());
        long tick = 0;
        for (MidiEvent event : all) {
            seconds += (event.getTick() - tick) * perTick;
            tick = event.getTick();
            if (event.getMessage() instanceof MetaMessage meta && meta.getType() == TEMPO && sequence.getDivisionType() == Sequence.PPQ) {
                byte[] data = meta.getData();
                perTick = ((data[0] & 0xFF) << 16 | (data[1] & 0xFF) << 8 | data[2] & 0xFF) / 1e6 / sequence.getResolution();
            }
            if (event.getMessage() instanceof ShortMessage message) out.add(new Event(seconds, message));
        }
        return out;
    }

    /// Plays all of it into a WAV file of 24 bits; what is beyond full scale is cut off.
    public void write(Path file) throws IOException {
        AudioFormat format = new AudioFormat(rateHz, 24, 2, true, false);
        // The platform enters the length once it is known.
        try (InputStream in = new Samples(this)) {
            AudioSystem.write(new AudioInputStream(in, format, AudioSystem.NOT_SPECIFIED), AudioFileFormat.Type.WAVE, file.toFile());
        }
    }

    private static final class Samples extends InputStream {
        private static final int FRAME_BYTES = 6;
        private final Performance from;
        private final double[][] block = new double[2][BLOCK];
        private final byte[] bytes = new byte[BLOCK * FRAME_BYTES];
        private int at, end;

        Samples(Performance from) { this.from = from; }

        private boolean isAtEnd() {
            if (at < end) return false;
            int frames = from.read(block, 0, BLOCK);
            at = 0;
            end = 0;
            for (int i = 0; i < frames; i++)
                for (double[] side : block) {
                    int value = Math.clamp(Math.round(side[i] * 8_388_608), -8_388_608, 8_388_607);
                    bytes[end++] = (byte) value;
                    bytes[end++] = (byte) (value >> 8);
                    bytes[end++] = (byte) (value >> 16);
                }
            return end == 0;
        }

        @Override public int read() { return isAtEnd() ? -1 : bytes[at++] & 0xFF; }

        @Override public int read(byte[] into, int offset, int length) {
            if (isAtEnd()) return -1;
            int n = Math.min(length, end - at);
            System.arraycopy(bytes, at, into, offset, n);
            at += n;
            return n;
        }
    }
}
