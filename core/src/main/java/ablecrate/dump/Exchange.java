package ablecrate.dump;

import ablecrate.codec.sds.DumpExtension;
import ablecrate.codec.sds.DumpHeader;
import ablecrate.dump.Message.Handshake;
import ablecrate.dump.Message.Kind;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.BooleanSupplier;
import java.util.function.Function;

/// A cable with the other side of the standard on it: what is asked, and how long it is waited for.
final class Exchange {
    /// The standard gives the other side two seconds to think about a header.
    static final Duration THINKING = Duration.ofSeconds(2);
    /// And as long as it wants after WAIT; a device that says nothing for a minute is gone.
    static final Duration WAITING = Duration.ofMinutes(1);
    private static final Duration SHORT = Duration.ofMillis(500);
    private static final int ASKED = 4, MOST_LOOPS = 127;

    private final MidiCable cable;
    private final BooleanSupplier stopped;
    private boolean saysNames = true, saysLoops = true, sendsOn;

    Exchange(MidiCable cable, BooleanSupplier stopped) {
        this.cable = cable;
        this.stopped = stopped;
    }

    boolean saysNames() { return saysNames; }

    /// Whether it sends to the end what it once began, whatever it is told.
    boolean sendsOn() { return sendsOn; }

    boolean isStopped() { return stopped.getAsBoolean(); }

    Duration time() { return cable.time(); }

    void send(byte[] message) throws IOException { cable.send(message); }

    void answer(Kind kind, int packet) throws IOException { cable.send(new Handshake(kind, packet).bytes()); }

    /// The next message that the other side means for us.
    Optional<Message> next(Duration most) throws IOException { return cable.receive(most).map(Message::of); }

    /// The first message that is what is wanted, within that time; others go by.
    <T> Optional<T> first(Duration most, Function<Message, Optional<T>> wanted) throws IOException {
        Duration end = cable.time().plus(most);
        for (;;) {
            Duration left = end.minus(cable.time());
            if (left.isNegative() || isStopped()) return Optional.empty();
            Optional<Message> message = next(left);
            if (message.isEmpty()) return Optional.empty();
            Optional<T> found = wanted.apply(message.get());
            if (found.isPresent()) return found;
        }
    }

    /// What comes late is not taken for what is asked next.
    /// @return how long it went on
    Duration drain() throws IOException {
        Duration start = cable.time();
        while (next(Duration.ofMillis(100)).isPresent()) {}
        return cable.time().minus(start);
    }

    private interface Asking<T> {
        Optional<T> ask() throws IOException;
    }

    /// These messages have no checksum: what is said twice alike is believed.
    private <T> Optional<T> agreed(Asking<T> asking) throws IOException {
        Optional<T> before = Optional.empty();
        for (int i = 0; i < ASKED && !isStopped() && !sendsOn; i++) {
            Optional<T> now = asking.ask();
            if (now.isPresent() && now.equals(before)) return now;
            if (now.isPresent()) before = now;
        }
        return Optional.empty();
    }

    /// What the other side says when it is asked for a sound.
    /// @param header empty if it says nothing, or has none
    /// @param isRefused whether it says that it does not send it
    record Asked(Optional<DumpHeader> header, boolean isRefused) {}

    /// The header of a sound of the other side, with nothing of its packets.
    Asked header(int sound) throws IOException {
        // It does not stop where it is told to: asking costs as much as the whole sound.
        if (sendsOn) return new Asked(Optional.empty(), false);
        AtomicBoolean isRefused = new AtomicBoolean();
        Optional<DumpHeader> agreed = agreed(() -> {
            send(Message.request(sound));
            Optional<Optional<DumpHeader>> answer = first(THINKING, m -> switch (m) {
                case Message.Header h when h.header().number() == sound -> Optional.of(Optional.of(h.header()));
                case Handshake(Kind kind, int _) when kind == Kind.CANCEL -> Optional.of(Optional.empty());
                default -> Optional.empty();
            });
            isRefused.set(answer.isPresent() && answer.get().isEmpty());
            if (answer.isPresent() && answer.get().isPresent()) answer(Kind.CANCEL, 0);
            sendsOn = drain().compareTo(THINKING) > 0;
            return answer.flatMap(a -> a);
        });
        return new Asked(agreed, isRefused.get());
    }

    /// The name that the other side has for a sound; empty if it does not know the message.
    Optional<DumpExtension.Name> name(int sound) throws IOException {
        if (!saysNames) return Optional.empty();
        Optional<DumpExtension.Name> name = agreed(() -> {
            send(Message.nameRequest(sound));
            return first(SHORT, m -> m instanceof Message.Further(DumpExtension.Name n) && n.sound() == sound ? Optional.of(n) : Optional.empty());
        });
        saysNames = name.isPresent();
        return name;
    }

    /// A loop of a sound; empty if the other side does not know the message.
    private Optional<DumpExtension.FurtherLoop> loop(int sound, int loop) throws IOException {
        return agreed(() -> {
            send(Message.loopRequest(sound, loop));
            return first(SHORT,
                    m -> m instanceof Message.Further(DumpExtension.FurtherLoop l) && l.sound() == sound && l.loop() == loop
                            ? Optional.of(l)
                            : Optional.empty());
        });
    }

    /// Loops beyond that of the header.
    List<DumpExtension.FurtherLoop> furtherLoops(int sound) throws IOException {
        List<DumpExtension.FurtherLoop> all = new ArrayList<>();
        if (!saysLoops) return all;
        // A device that names loops without end is not believed.
        for (int number = 1; number <= MOST_LOOPS; number++) {
            Optional<DumpExtension.FurtherLoop> loop = loop(sound, number);
            if (number == 1) saysLoops = loop.isPresent();
            if (loop.isEmpty() || loop.get().points().kind() == DumpHeader.LoopPoints.OFF) return all;
            all.add(loop.get());
        }
        return all;
    }

    /// Says more of a sound, where the other side knows the message.
    /// @return what it did not take
    List<DumpExtension> say(int sound, List<DumpExtension> more) throws IOException {
        List<DumpExtension> left = new ArrayList<>();
        for (DumpExtension each : more)
            if (!takes(sound, each)) left.add(each);
        return left;
    }

    private boolean takes(int sound, DumpExtension said) throws IOException {
        for (int i = 0; i < ASKED; i++) {
            Optional<? extends DumpExtension> held = switch (said) {
                case DumpExtension.Name _ -> name(sound);
                case DumpExtension.FurtherLoop l -> saysLoops ? loop(sound, l.loop()) : Optional.empty();
            };
            if (held.isEmpty()) return false;
            if (held.get().equals(said)) return true;
            send(said.bytes());
        }
        return false;
    }
}
