package ablecrate.dump;

import ablecrate.codec.sds.DumpExtension;
import ablecrate.codec.sds.DumpHeader;
import ablecrate.codec.sds.DumpPacket;
import ablecrate.dump.Message.Kind;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BooleanSupplier;

/// Asks for sounds by number, or takes what is sent.
///
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard.
public final class DumpReceiver {
    private static final Duration LOST = Duration.ofMillis(500);
    private static final int ASKED = 3, SILENT = 8, DAMAGED = 40;

    /// @param dump empty if it did not arrive whole
    /// @param note why not, or what was to be said
    public record Received(Optional<Dump> dump, Outcome outcome, Duration time, String note) {}

    private final Exchange exchange;
    private final Progress.Listener listener;

    public DumpReceiver(MidiCable cable, Progress.Listener listener, BooleanSupplier stopped) { this(new Exchange(cable, stopped), listener); }

    DumpReceiver(Exchange exchange, Progress.Listener listener) {
        this.exchange = exchange;
        this.listener = listener;
    }

    /// A sound that is asked for.
    /// @throws IOException if the port is gone
    public Received receive(int sound) throws IOException {
        Duration start = exchange.time();
        // Headers have no checksum, so it is asked for twice.
        Optional<DumpHeader> header = exchange.header(sound).header();
        if (header.isEmpty() && exchange.sendsOn()) {
            exchange.send(Message.request(sound));
            header = exchange.first(Exchange.THINKING, DumpReceiver::header);
            if (header.isPresent()) return packets(start, header.get(), false);
        }
        if (header.isEmpty()) return failed(start, exchange.isStopped() ? "stopped" : "the device does not send sound " + sound);
        for (int i = 0; i < ASKED && !exchange.isStopped(); i++) {
            exchange.send(Message.request(sound));
            Optional<DumpHeader> again = exchange.first(Exchange.THINKING, DumpReceiver::header);
            if (again.equals(header)) return packets(start, header.get(), true);
            if (again.isPresent()) exchange.answer(Kind.CANCEL, 0);
            exchange.drain();
        }
        return failed(start, "the device does not send sound " + sound);
    }

    /// What somebody sends at the device.
    /// @param most how long it is waited for
    /// @return empty if nothing comes
    public Optional<Received> next(Duration most) throws IOException {
        Duration start = exchange.time();
        Optional<DumpHeader> header = exchange.first(most, DumpReceiver::header);
        if (header.isEmpty()) return Optional.empty();
        return Optional.of(packets(start, header.get(), false));
    }

    private static Optional<DumpHeader> header(Message message) {
        return message instanceof Message.Header h ? Optional.of(h.header()) : Optional.empty();
    }

    private Received failed(Duration start, String note) {
        return new Received(Optional.empty(), Outcome.FAILED, exchange.time().minus(start), note);
    }

    private Received packets(Duration start, DumpHeader header, boolean isAgreed) throws IOException {
        int all = header.packets(), silent = 0, damaged = 0;
        String name = "sound " + header.number();
        List<byte[]> packets = new ArrayList<>();
        exchange.answer(Kind.ACK, 0);
        while (packets.size() < all) {
            int wanted = packets.size();
            // A device that did not hear the answer to its header goes on by itself after a while.
            Optional<Message> message = exchange.next(wanted == 0 ? Exchange.THINKING.plus(LOST) : LOST);
            String arrived = String.format(Locale.ROOT, "; %,d of %,d packets arrived", wanted, all);
            if (exchange.isStopped()) {
                exchange.answer(Kind.CANCEL, wanted);
                return failed(start, "stopped" + arrived);
            }
            if (message.isPresent() && message.get() instanceof Message.Handshake(Kind kind, int _) && kind == Kind.CANCEL)
                return failed(start, "the device cancelled it" + arrived);
            if (message.isPresent() && message.get() instanceof Message.Packet p && DumpPacket.isWhole(p.bytes()) && p.number() == (wanted & 0x7F)) {
                packets.add(p.bytes());
                silent = damaged = 0;
                exchange.answer(Kind.ACK, wanted);
                listener.at(new Progress(name, new Progress.Count(0, 1), new Progress.Count(packets.size(), all), exchange.time(),
                        MidiCable.timeOf((long) (all - packets.size()) * DumpPacket.BYTES)));
                continue;
            }
            if (isBefore(message, wanted)) {
                exchange.answer(Kind.ACK, Math.max(0, wanted - 1));
                continue;
            }
            silent = message.isEmpty() ? silent + 1 : 0;
            damaged++;
            if (silent == SILENT) return failed(start, "the device has gone silent" + arrived);
            if (damaged == DAMAGED) return failed(start, "packet " + wanted + " does not come through" + arrived);
            // Either the packet was lost, or our answer to the one before.
            if (silent > 0 && silent % 2 == 0)
                exchange.answer(Kind.ACK, Math.max(0, wanted - 1));
            else
                exchange.answer(Kind.NAK, wanted);
        }
        return whole(start, header, packets, isAgreed);
    }

    /// Whether it is the packet before, or the header, sent again as its answer was lost.
    private static boolean isBefore(Optional<Message> message, int wanted) {
        if (wanted == 0) return message.flatMap(DumpReceiver::header).isPresent();
        return message.isPresent() && message.get() instanceof Message.Packet p && DumpPacket.isWhole(p.bytes())
                && p.number() == (wanted - 1 & 0x7F);
    }

    private Received whole(Duration start, DumpHeader header, List<byte[]> packets, boolean isAgreed) throws IOException {
        exchange.drain();
        int sound = header.number();
        boolean isConfirmed = isAgreed || exchange.header(sound).header().filter(header::equals).isPresent();
        Optional<DumpExtension.Name> name = exchange.name(sound);
        List<DumpExtension> more = new ArrayList<>(exchange.furtherLoops(sound));
        name.ifPresent(more::add);
        Dump dump = new Dump(name.map(DumpExtension.Name::text).filter(n -> !n.isBlank()).orElse("sound " + sound), header, packets, more);
        return new Received(Optional.of(dump), isConfirmed ? Outcome.CONFIRMED : Outcome.ACKNOWLEDGED, exchange.time().minus(start),
                isConfirmed ? "" : "the device does not send its header again");
    }
}
