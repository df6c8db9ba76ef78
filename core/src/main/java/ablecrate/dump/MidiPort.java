package ablecrate.dump;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import java.util.stream.Stream;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MidiDevice;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.MidiUnavailableException;
import javax.sound.midi.Receiver;
import javax.sound.midi.Sequencer;
import javax.sound.midi.Synthesizer;
import javax.sound.midi.SysexMessage;

/// A MIDI connection of this machine.
public final class MidiPort implements MidiCable {
    private final MidiDevice out;
    private final Optional<MidiDevice> in;
    private final Receiver receiver;
    private final BlockingQueue<byte[]> arrived = new LinkedBlockingQueue<>();
    private final long opened = System.nanoTime();

    /// Names of ports that sounds can be sent to.
    public static List<String> outputs() { return devices(d -> d.getMaxReceivers() != 0).map(d -> d.getDeviceInfo().getName()).distinct().toList(); }

    /// Names of ports that sounds can come from.
    public static List<String> inputs() { return devices(d -> d.getMaxTransmitters() != 0).map(d -> d.getDeviceInfo().getName()).distinct().toList(); }

    private static Stream<MidiDevice> devices(Predicate<MidiDevice> wanted) {
        return Arrays.stream(MidiSystem.getMidiDeviceInfo()).flatMap(info -> {
            try {
                return Stream.of(MidiSystem.getMidiDevice(info));
            } catch (MidiUnavailableException e) {
                return Stream.empty();
            }
        }).filter(d -> !(d instanceof Synthesizer) && !(d instanceof Sequencer)).filter(wanted);
    }

    /// @param to name of the port that is sent to
    /// @param from name of the one that answers come from; without it that of the same name, and if there is none, nobody confirms anything
    /// @throws IOException if there is none of the name, or another program has it
    public static MidiPort to(String to, Optional<String> from) throws IOException {
        return open(to, from.or(() -> inputs().stream().filter(to::equals).findFirst()));
    }

    /// @param from name of the port that sounds come from
    /// @param to name of the one that they are asked for by; without it that of the same name
    /// @throws IOException if there is none of the name, or another program has it
    public static MidiPort from(String from, Optional<String> to) throws IOException { return open(to.orElse(from), Optional.of(from)); }

    private static MidiPort open(String to, Optional<String> from) throws IOException {
        MidiDevice out = named(to, devices(d -> d.getMaxReceivers() != 0));
        Optional<MidiDevice> in = from.isEmpty() ? Optional.empty() : Optional.of(named(from.get(), devices(d -> d.getMaxTransmitters() != 0)));
        try {
            return new MidiPort(out, in);
        } catch (MidiUnavailableException e) {
            throw new IOException("MIDI port '" + to + "' is in use by another program", e);
        }
    }

    private static MidiDevice named(String name, Stream<MidiDevice> devices) throws IOException {
        return devices.filter(d -> d.getDeviceInfo().getName().equals(name)).findFirst()
                .orElseThrow(() -> new IOException("no MIDI port '" + name + "'; is it connected and switched on?"));
    }

    MidiPort(MidiDevice out, Optional<MidiDevice> in) throws MidiUnavailableException {
        this.out = out;
        this.in = in;
        out.open();
        receiver = out.getReceiver();
        if (in.isPresent()) {
            in.get().open();
            in.get().getTransmitter().setReceiver(new Incoming());
        }
    }

    /// Messages may come in pieces: the first begins with F0, those after it have F7 for a status.
    private final class Incoming implements Receiver {
        private static final int MOST = 1 << 12;

        private final ByteArrayOutputStream message = new ByteArrayOutputStream();

        @Override public void send(MidiMessage piece, long timeStamp) {
            if (!(piece instanceof SysexMessage sysex)) return;
            if (sysex.getStatus() == SysexMessage.SYSTEM_EXCLUSIVE) {
                message.reset();
                message.write(SysexMessage.SYSTEM_EXCLUSIVE);
            }
            if (message.size() < MOST) message.writeBytes(sysex.getData());
            byte[] all = message.toByteArray();
            if (all.length > 1 && (all[all.length - 1] & 0xFF) == SysexMessage.SPECIAL_SYSTEM_EXCLUSIVE) {
                arrived.add(all);
                message.reset();
            }
        }

        @Override public void close() {}
    }

    @Override public void send(byte[] message) throws IOException {
        try {
            long start = System.nanoTime();
            receiver.send(new SysexMessage(message, message.length), -1);
            // Ports may take a message at once and pass it on later.
            long left = MidiCable.timeOf(message.length).toNanos() - (System.nanoTime() - start);
            if (left > 0) TimeUnit.NANOSECONDS.sleep(left);
        } catch (InvalidMidiDataException e) {
            throw new IllegalArgumentException(e);
        } catch (IllegalStateException e) {
            throw new IOException("the MIDI port is gone", e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Override public Optional<byte[]> receive(Duration most) {
        try {
            return Optional.ofNullable(arrived.poll(most.toNanos(), TimeUnit.NANOSECONDS));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        }
    }

    @Override public Duration time() { return Duration.ofNanos(System.nanoTime() - opened); }

    @Override public void close() {
        in.ifPresent(MidiDevice::close);
        out.close();
    }
}
