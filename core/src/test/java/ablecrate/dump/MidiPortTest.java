package ablecrate.dump;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.sound.midi.MidiDevice;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.Receiver;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.SysexMessage;
import javax.sound.midi.Transmitter;
import org.junit.jupiter.api.Test;

/// A port of the machine, played by one that answers at once.
class MidiPortTest {
    private static final byte[] ACK = {(byte) 0xF0, 0x7E, 0, 0x7F, 0, (byte) 0xF7};

    /// An interface with both directions; what is sent is kept.
    private static final class Wire implements MidiDevice, Transmitter, Receiver {
        private final List<byte[]> sent = new ArrayList<>();
        private Receiver listener;
        private boolean isOpen;

        void arrives(MidiMessage message) { listener.send(message, -1); }

        @Override public void send(MidiMessage message, long timeStamp) {
            if (!isOpen) throw new IllegalStateException("pulled");
            sent.add(message.getMessage());
        }

        @Override public Info getDeviceInfo() { return new Info("Wire", "", "", "") {}; }

        @Override public void open() { isOpen = true; }

        @Override public void close() { isOpen = false; }

        @Override public boolean isOpen() { return isOpen; }

        @Override public long getMicrosecondPosition() { return -1; }

        @Override public int getMaxReceivers() { return -1; }

        @Override public int getMaxTransmitters() { return -1; }

        @Override public Receiver getReceiver() { return this; }

        @Override public List<Receiver> getReceivers() { return List.of(this); }

        @Override public Transmitter getTransmitter() { return this; }

        @Override public List<Transmitter> getTransmitters() { return List.of(this); }

        @Override public void setReceiver(Receiver receiver) { listener = receiver; }
    }

    @Test void messagesGoOutAsTheyAreAndNotFasterThanTheCable() throws Exception {
        Wire wire = new Wire();
        try (MidiPort port = new MidiPort(wire, Optional.of(wire))) {
            Duration before = port.time();
            for (int i = 0; i < 5; i++)
                port.send(new byte[]{(byte) 0xF0, 0x7E, 0, 3, (byte) i, 0, (byte) 0xF7});
            assertThat(port.time().minus(before)).as("five of seven bytes").isGreaterThanOrEqualTo(MidiCable.timeOf(35));
            assertThat(wire.sent).hasSize(5).last().isEqualTo(new byte[]{(byte) 0xF0, 0x7E, 0, 3, 4, 0, (byte) 0xF7});
        }
        assertThat(wire.isOpen()).isFalse();
    }

    /// The pieces of a long message have F7 for a status; clocks and notes between them are none of ours.
    @Test void aMessageInPiecesIsPutTogether() throws Exception {
        Wire wire = new Wire();
        try (MidiPort port = new MidiPort(wire, Optional.of(wire))) {
            wire.arrives(new SysexMessage(new byte[]{(byte) 0xF0, 0x7E, 0}, 3));
            wire.arrives(new ShortMessage(ShortMessage.TIMING_CLOCK));
            wire.arrives(new ShortMessage(ShortMessage.NOTE_ON, 0, 60, 100));
            wire.arrives(new SysexMessage(0xF7, new byte[]{0x7F, 0, (byte) 0xF7}, 3));
            assertThat(port.receive(Duration.ofSeconds(1))).hasValueSatisfying(m -> assertThat(m).isEqualTo(ACK));
            wire.arrives(new SysexMessage(new byte[]{(byte) 0xF0, 0x7E, 0, 0x7E}, 4));
            wire.arrives(new SysexMessage(ACK, ACK.length));
            assertThat(port.receive(Duration.ofSeconds(1))).as("one that never ended is forgotten").hasValueSatisfying(m -> assertThat(m).isEqualTo(ACK));
            assertThat(port.receive(Duration.ofMillis(1))).isEmpty();
        }
    }

    @Test void aPortThatIsPulledIsToldAsSuch() throws Exception {
        Wire wire = new Wire();
        try (MidiPort port = new MidiPort(wire, Optional.empty())) {
            wire.close();
            assertThatThrownBy(() -> port.send(ACK)).isInstanceOf(IOException.class).hasMessage("the MIDI port is gone");
        }
        assertThatThrownBy(() -> MidiPort.to("Lowfield", Optional.empty())).isInstanceOf(IOException.class)
                .hasMessage("no MIDI port 'Lowfield'; is it connected and switched on?");
    }
}
