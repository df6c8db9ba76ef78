package ablecrate.standins;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
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

/// What a MIDI file plays on a preset, rendered.
public final class Performance {
    public static final int RATE_HZ = 44_100;
    private static final int TEMPO = 0x51, SUSTAIN = 64, TAIL_SECONDS = 20, MOST_SECONDS = 3600;

    private record Event(double seconds, ShortMessage message) {}

    private Performance() {}

    /// `[left, right][frame]`
    /// @throws IOException if the file is no MIDI file, or longer than an hour
    public static double[][] render(Preset preset, Path midi) throws IOException {
        List<Event> events = events(midi);
        double end = events.isEmpty() ? 0 : events.getLast().seconds;
        if (end > MOST_SECONDS) throw new IOException("it plays for more than an hour");
        DevicePlayer player = new DevicePlayer(preset, RATE_HZ);
        double[][] out = new double[2][(int) ((end + TAIL_SECONDS) * RATE_HZ)];
        int at = 0;
        for (Event event : events) {
            int next = (int) Math.round(event.seconds * RATE_HZ);
            player.render(out, at, next - at);
            at = next;
            play(player, event.message);
        }
        while (!player.isSilent() && at < out[0].length) {
            int count = Math.min(1024, out[0].length - at);
            player.render(out, at, count);
            at += count;
        }
        return new double[][]{Arrays.copyOf(out[0], at), Arrays.copyOf(out[1], at)};
    }

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

    /// A WAV file of 24 bits; what is beyond full scale is cut off.
    public static void write(double[][] sides, Path file) throws IOException {
        byte[] bytes = new byte[sides[0].length * 6];
        int at = 0;
        for (int i = 0; i < sides[0].length; i++)
            for (double[] side : sides) {
                int value = Math.clamp(Math.round(side[i] * 8_388_608), -8_388_608, 8_388_607);
                bytes[at++] = (byte) value;
                bytes[at++] = (byte) (value >> 8);
                bytes[at++] = (byte) (value >> 16);
            }
        AudioFormat format = new AudioFormat(RATE_HZ, 24, 2, true, false);
        AudioSystem.write(new AudioInputStream(new ByteArrayInputStream(bytes), format, sides[0].length), AudioFileFormat.Type.WAVE, file.toFile());
    }
}
