package ablecrate.dump;

import ablecrate.codec.sds.DumpExtension;
import ablecrate.codec.sds.DumpHeader;
import ablecrate.dump.Message.Handshake;
import ablecrate.dump.Message.Kind;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import java.util.stream.Collectors;

/// Sends sounds as MIDI sample dumps: with handshake where the other side answers, without where it does not.
///
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard: the times, and what the answers ask for.
public final class DumpSender {
    /// Without handshake, what the other side has for a packet.
    private static final Duration UNANSWERED = Duration.ofMillis(20);
    /// With handshake, after that a packet or its answer is taken for lost.
    private static final Duration LOST = Duration.ofMillis(500);
    private static final int HEADERS = 3, SILENT = 6, DAMAGED = 40, WHOLE = 3;
    /// A device has its own grid of rates; below two cents nobody hears it.
    private static final double SAME_PERIOD = 1e-3;

    /// @param again how many packets went more than once
    /// @param note why it failed, or what was not taken; empty if there is nothing to say
    public record Sent(String name, int number, Outcome outcome, int packets, int again, Duration time, String note) {}

    private final Exchange exchange;
    private final Progress.Listener listener;
    private final DumpReceiver receiver;
    private final boolean compares;
    /// A device that once answered does so always, or is gone.
    private boolean hasAnswered, isGone;
    /// One that said nothing to a header is not asked three times for each sound.
    private boolean isMute;
    private Progress.Count sounds = new Progress.Count(0, 1);
    private Duration left = Duration.ZERO;

    /// @param compares whether each sound is asked for again and held against what was sent; that takes as long once more
    public DumpSender(MidiCable cable, boolean compares, Progress.Listener listener, BooleanSupplier stopped) {
        exchange = new Exchange(cable, stopped);
        receiver = new DumpReceiver(exchange, listener);
        this.compares = compares;
        this.listener = listener;
    }

    /// Sends one after another; once the device is gone, nothing more is tried.
    /// @param done told of each
    /// @throws IOException if the port is gone
    public List<Sent> send(List<Dump> dumps, Consumer<Sent> done) throws IOException {
        List<Sent> all = new ArrayList<>();
        for (Dump dump : dumps) {
            sounds = new Progress.Count(all.size(), dumps.size());
            left = dumps.stream().skip(all.size() + 1L).map(Dump::cableTime).reduce(Duration.ZERO, Duration::plus);
            Sent sent = isGone || exchange.isStopped()
                    ? new Sent(dump.name(), dump.number(), Outcome.FAILED, 0, 0, Duration.ZERO,
                            isGone ? "not sent: the device has gone silent" : "not sent: stopped")
                    : send(dump);
            all.add(sent);
            done.accept(sent);
        }
        return all;
    }

    private Sent send(Dump dump) throws IOException {
        Duration start = exchange.time();
        int again = 0;
        for (int i = 1;; i++) {
            Way way = new Way(dump);
            Checked checked = way.go() ? check(dump, way.isAnswered) : new Checked(Outcome.FAILED, way.fault, way.isLost);
            again += way.again;
            if (!checked.isLost || i == WHOLE || exchange.isStopped())
                return new Sent(dump.name(), dump.number(), checked.outcome, way.at, again, exchange.time().minus(start), checked.note);
            again += way.at;
        }
    }

    /// @param isLost whether it was lost on the way, so that sending it again may help
    private record Checked(Outcome outcome, String note, boolean isLost) {
        static Checked failed(String note) { return new Checked(Outcome.FAILED, note, true); }

        static Checked of(Outcome outcome, String note) { return new Checked(outcome, note, false); }
    }

    private Checked check(Dump dump, boolean isAnswered) throws IOException {
        Exchange.Asked asked = exchange.header(dump.number());
        if (asked.isRefused()) return Checked.failed("the device says that it does not have it");
        if (asked.header().isEmpty())
            return isAnswered
                    ? Checked.of(Outcome.ACKNOWLEDGED, "the device does not say what it holds")
                    : Checked.of(Outcome.UNCONFIRMED, "the device does not answer");
        Optional<String> other = difference(dump.header(), asked.header().get());
        if (other.isPresent()) return Checked.failed("the device holds something else: " + other.get());
        if (compares) {
            DumpReceiver.Received back = receiver.receive(dump.number());
            if (back.dump().isEmpty()) return Checked.failed("it could not be compared: " + back.note());
            int differing = differing(dump, back.dump().get());
            if (differing > 0)
                return Checked.failed(String.format(Locale.ROOT, "%,d of %,d packets differ on the device", differing, dump.packets().size()));
        }
        return Checked.of(compares ? Outcome.COMPARED : isAnswered ? Outcome.CONFIRMED : Outcome.UNCONFIRMED, said(dump));
    }

    /// Names and further loops go where the device knows the messages.
    /// @return what it did not take
    private String said(Dump dump) throws IOException {
        List<DumpExtension> more = new ArrayList<>(dump.more());
        if (more.stream().noneMatch(DumpExtension.Name.class::isInstance)) more.add(new DumpExtension.Name(dump.number(), dump.name()));
        String left = exchange.say(dump.number(), more).stream().map(m -> m instanceof DumpExtension.Name ? "its name" : "a loop").distinct()
                .collect(Collectors.joining(" and "));
        // A device without names has nothing to tell.
        return left.isEmpty() || dump.more().isEmpty() && !exchange.saysNames() ? "" : "the device did not take " + left;
    }

    private static Optional<String> difference(DumpHeader sent, DumpHeader held) {
        if (sent.words() != held.words()) return Optional.of(String.format(Locale.ROOT, "%,d words instead of %,d", held.words(), sent.words()));
        if (sent.bits() != held.bits()) return Optional.of(held.bits() + " bit instead of " + sent.bits());
        if (Math.abs(sent.periodNs() - held.periodNs()) > SAME_PERIOD * sent.periodNs())
            return Optional.of(String.format(Locale.ROOT, "%,d Hz instead of %,d", Math.round(1e9 / held.periodNs()), Math.round(1e9 / sent.periodNs())));
        return sent.loop().equals(held.loop()) ? Optional.empty() : Optional.of("another loop");
    }

    private static int differing(Dump sent, Dump held) {
        int differing = 0;
        for (int i = 0; i < sent.packets().size(); i++)
            if (!Arrays.equals(sent.packets().get(i), held.packets().get(i))) differing++;
        return differing;
    }

    private enum Step {
        GO_ON, AGAIN, SILENCE, CANCELLED
    }

    /// One sound on its way.
    private final class Way {
        private final Dump dump;
        private final int all;
        private boolean isAnswered, isLost;
        private int at, again;
        private String fault = "";

        Way(Dump dump) {
            this.dump = dump;
            all = dump.packets().size();
        }

        /// @return whether the other side took all of it, as far as it says
        boolean go() throws IOException {
            if (!header()) return false;
            int silent = 0, damaged = 0;
            while (at < all) {
                int sent = at;
                exchange.send(dump.packets().get(at));
                Step step = answer(at, isAnswered ? LOST : UNANSWERED);
                if (exchange.isStopped()) {
                    exchange.answer(Kind.CANCEL, at);
                    return failed("stopped; " + arrived(), false);
                }
                if (step == Step.CANCELLED) return failed("the device cancelled it; " + arrived(), true);
                if (step == Step.GO_ON || step == Step.SILENCE && !isAnswered) at++;
                silent = step == Step.SILENCE && isAnswered ? silent + 1 : 0;
                damaged = step == Step.AGAIN ? damaged + 1 : step == Step.GO_ON ? 0 : damaged;
                if (at <= sent) again++;
                if (silent == SILENT) return failed("the device has gone silent; " + arrived(), true);
                if (damaged == DAMAGED) return failed("the device asks for the same packet again and again; " + arrived(), true);
                listener.at(new Progress(dump.name(), sounds, new Progress.Count(at, all), exchange.time(),
                        left.plus(dump.cableTime().multipliedBy(all - at).dividedBy(all))));
            }
            return true;
        }

        private boolean failed(String why, boolean mayHelpAgain) {
            fault = why;
            isLost = mayHelpAgain;
            return false;
        }

        private String arrived() { return String.format(Locale.ROOT, "%,d of %,d packets arrived", at, all); }

        private boolean header() throws IOException {
            Step step = Step.SILENCE;
            int tries = isMute ? 1 : HEADERS;
            for (int i = 0; i < tries; i++) {
                exchange.send(dump.header().bytes());
                step = answer(0, Exchange.THINKING);
                if (step == Step.GO_ON) {
                    // An answer to a header that was sent before must not be taken for that of the first packet.
                    if (i > 0) exchange.drain();
                    return true;
                }
                if (exchange.isStopped()) return failed("stopped before it began", false);
            }
            // A header that was damaged on the way is refused as well, so that one refusal is not believed.
            if (step == Step.CANCELLED) return failed("the device does not take it: it has no room, or no use for such a sound", false);
            if (isAnswered) return failed("the device does not understand the header", false);
            if (!hasAnswered) {
                isMute = true;
                return true;
            }
            isGone = true;
            return failed("the device has gone silent; " + arrived(), false);
        }

        /// What the other side says to a packet; after WAIT it has more time.
        private Step answer(int packet, Duration most) throws IOException {
            Duration end = exchange.time().plus(most);
            for (;;) {
                Duration left = end.minus(exchange.time());
                Optional<Message> message = left.isNegative() ? Optional.empty() : exchange.next(left);
                if (message.isEmpty() || exchange.isStopped()) return Step.SILENCE;
                if (!(message.get() instanceof Handshake(Kind kind, int number))) continue;
                isAnswered = hasAnswered = true;
                switch (kind) {
                    case ACK -> {
                        if (number == (packet & 0x7F)) return Step.GO_ON;
                    }
                    case NAK -> {
                        goBackTo(packet, number);
                        return Step.AGAIN;
                    }
                    case CANCEL -> {
                        return Step.CANCELLED;
                    }
                    case WAIT -> end = exchange.time().plus(Exchange.WAITING);
                }
            }
        }

        /// The packet of that number that went last: the other side may have missed some.
        private void goBackTo(int packet, int number) {
            int back = packet - number & 0x7F;
            if (back <= packet && back < 64) at = packet - back;
        }
    }
}
