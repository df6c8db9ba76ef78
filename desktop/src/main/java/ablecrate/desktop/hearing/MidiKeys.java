package ablecrate.desktop.hearing;

import java.util.ArrayList;
import java.util.List;
import javax.sound.midi.MidiDevice;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.MidiUnavailableException;
import javax.sound.midi.Receiver;
import javax.sound.midi.Sequencer;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Synthesizer;
import org.slf4j.LoggerFactory;

/// Notes, pedal and wheels from whatever MIDI keyboards are connected.
public final class MidiKeys implements AutoCloseable {
    /// Told of notes from the devices' threads.
    public interface Notes {
        void on(int key, int velocity);

        void off(int key);

        /// The sustain pedal.
        void sustain(boolean isDown);

        /// @param position of the bend wheel, −1 to 1
        void bend(double position);

        /// @param position of the modulation wheel, 0 to 1
        void wheel(double position);
    }

    private final List<MidiDevice> open = new ArrayList<>();

    /// Opens all inputs there are; devices that are taken by others stay with them.
    public MidiKeys(Notes notes) {
        for (MidiDevice.Info info : MidiSystem.getMidiDeviceInfo())
            try {
                MidiDevice device = MidiSystem.getMidiDevice(info);
                // Software sequencers and synthesizers are no keyboards.
                if (device.getMaxTransmitters() == 0 || device instanceof Sequencer || device instanceof Synthesizer) continue;
                device.open();
                open.add(device);
                device.getTransmitter().setReceiver(new NoteReceiver(notes));
            } catch (MidiUnavailableException e) {
                LoggerFactory.getLogger(MidiKeys.class).info("MIDI input {} is not to be had: {}", info.getName(), e.getMessage());
            }
    }

    public int inputs() { return open.size(); }

    @Override public void close() { open.forEach(MidiDevice::close); }

    private record NoteReceiver(Notes notes) implements Receiver {
        private static final int WHEEL = 1, SUSTAIN = 64, DOWN = 64, BEND_MIDDLE = 8192;
        private static final double MOST = 127;

        @Override public void send(MidiMessage message, long timeStamp) {
            if (!(message instanceof ShortMessage note)) return;
            switch (note.getCommand()) {
                case ShortMessage.NOTE_ON -> {
                    if (note.getData2() > 0)
                        notes.on(note.getData1(), note.getData2());
                    else
                        notes.off(note.getData1());
                }
                case ShortMessage.NOTE_OFF -> notes.off(note.getData1());
                case ShortMessage.CONTROL_CHANGE -> {
                    if (note.getData1() == SUSTAIN) notes.sustain(note.getData2() >= DOWN);
                    if (note.getData1() == WHEEL) notes.wheel(note.getData2() / MOST);
                }
                case ShortMessage.PITCH_BEND -> notes.bend(((note.getData2() << 7 | note.getData1()) - BEND_MIDDLE) / (double) BEND_MIDDLE);
                default -> {
                }
            }
        }

        @Override public void close() {}
    }
}
