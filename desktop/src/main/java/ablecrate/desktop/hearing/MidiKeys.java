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

/// Notes from whatever MIDI keyboards are connected.
public final class MidiKeys implements AutoCloseable {
    /// Told of notes from the devices' threads.
    public interface Notes {
        void on(int key, int velocity);

        void off(int key);
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
        @Override public void send(MidiMessage message, long timeStamp) {
            if (!(message instanceof ShortMessage note)) return;
            if (note.getCommand() == ShortMessage.NOTE_ON && note.getData2() > 0)
                notes.on(note.getData1(), note.getData2());
            else
                if (note.getCommand() == ShortMessage.NOTE_ON || note.getCommand() == ShortMessage.NOTE_OFF) notes.off(note.getData1());
        }

        @Override public void close() {}
    }
}
