package ablecrate.standins;

import ablecrate.standins.Device.Loaded;
import ablecrate.standins.Device.Refusal;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// The rack sampler at the end of a cable: takes dumps, and gives back what it holds; see `docs/devices/rack-sampler.md`.
public final class RackOnCable {
    private static final int ACK = 0x7F, NAK = 0x7E, CANCEL = 0x7D, WAIT = 0x7C;
    private static final Duration SOON = Duration.ofMillis(2), BUSY = Duration.ofMillis(300);
    private static final long NEVER = Long.MAX_VALUE, THINKING_NS = 2_000_000_000L, UNANSWERED_NS = 60_000_000L, GONE_NS = 5_000_000_000L;
    private static final int MOST_LOOPS = 8;

    /// How it behaves.
    /// @param handshakes whether it answers at all
    /// @param extensions whether it knows names and further loops
    /// @param busyEvery after how many packets it says WAIT; 0 for never
    /// @param goesAwayAfter how many messages it falls silent; 0 for never
    /// @param cancels whether it stops sending where it is told to; one that does not waits for no answer either
    public record Manner(boolean handshakes, boolean extensions, int busyEvery, int goesAwayAfter, boolean cancels) {
        public static final Manner USUAL = new Manner(true, true, 0, 0);

        public Manner(boolean handshakes, boolean extensions, int busyEvery, int goesAwayAfter) {
            this(handshakes, extensions, busyEvery, goesAwayAfter, true);
        }
    }

    /// @param after the time that it takes to think
    record Reply(byte[] bytes, Duration after) {}

    private final Manner manner;
    private final RackMemory memory = new RackMemory();
    private final List<Refusal> refusals = new ArrayList<>();
    private final Map<Integer, Map<Integer, byte[]>> loops = new HashMap<>();
    private final Map<Integer, List<byte[]>> messages = new TreeMap<>();
    private final Map<Integer, String> names = new HashMap<>();
    private int heard;

    private SampleDump.Header incoming;
    private final List<byte[]> packets = new ArrayList<>();

    private List<byte[]> outgoing = List.of();
    private int sent;
    private boolean isAnswered;
    private long wakes = NEVER;

    public RackOnCable(Manner manner) { this.manner = manner; }

    /// What it holds is what is in a folder.
    /// @throws IOException if that cannot be read
    public void hold(Path folder) throws IOException {
        for (Path file : FolderCard.sorted(folder)) {
            String name = file.getFileName().toString();
            if (!name.matches("(?i).*\\.(sds|syx)")) continue;
            byte[] all = Files.readAllBytes(file);
            try {
                SampleDump dump = SampleDump.of(all);
                memory.checkRoom(dump.header());
                List<byte[]> each = new ArrayList<>();
                for (int at = SampleDump.HEADER; at < all.length; at += SampleDump.PACKET)
                    each.add(Arrays.copyOfRange(all, at, at + SampleDump.PACKET));
                keep(dump.header(), each, name.replaceFirst("\\.[^.]+$", ""));
            } catch (Refused e) {
                refusals.add(new Refusal(name, e.getMessage()));
            }
        }
    }

    private void keep(SampleDump.Header header, List<byte[]> each, String name) {
        memory.put(new RackMemory.Held(Path.of(name), name, SampleDump.of(header, each)));
        messages.put(header.number(), List.copyOf(each));
        names.put(header.number(), name);
        loops.put(header.number(), new TreeMap<>());
    }

    /// What it would play, by number, and what it did not take.
    public Loaded loaded() { return memory.loaded(List.copyOf(memory.sounds().keySet()), refusals); }

    /// @return the sounds that it holds, each as the bytes of its dump
    public Map<Integer, byte[]> dumps() {
        Map<Integer, byte[]> all = new TreeMap<>();
        messages.forEach((number, each) -> {
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            out.writeBytes(memory.sounds().get(number).dump().header().bytes());
            each.forEach(out::writeBytes);
            all.put(number, out.toByteArray());
        });
        return all;
    }

    public String nameOf(int number) { return names.getOrDefault(number, ""); }

    /// @return how many loops it has beyond the first
    public int furtherLoops(int number) { return loops.getOrDefault(number, Map.of()).size(); }

    /// When it does something by itself.
    long wakes() { return wakes; }

    /// A message has arrived.
    List<Reply> on(byte[] m, long now) {
        if (manner.goesAwayAfter > 0 && ++heard > manner.goesAwayAfter) {
            wakes = NEVER;
            return List.of();
        }
        if (m.length < 6 || m[1] != 0x7E) return List.of();
        List<Reply> replies = switch (m[3]) {
            case 1 -> header(m);
            case 2 -> packet(m);
            case 3 -> m.length == 7 ? request(m[4] | m[5] << 7, now) : List.of();
            case 5 -> manner.extensions ? extension(m) : List.of();
            case ACK, NAK, CANCEL -> m.length == 6 ? answered(m[3], m[4], now) : List.of();
            default -> List.of();
        };
        return m[3] == 1 || m[3] == 2 ? manner.handshakes ? replies : List.of() : replies;
    }

    private static Reply say(int what, int packet) {
        return new Reply(new byte[]{(byte) 0xF0, 0x7E, 0, (byte) what, (byte) (packet & 127), (byte) 0xF7}, SOON);
    }

    private List<Reply> header(byte[] m) {
        incoming = null;
        packets.clear();
        stopSending();
        if (m.length != SampleDump.HEADER) return List.of(say(NAK, 0));
        try {
            SampleDump.Header header = SampleDump.header(m);
            memory.checkRoom(header);
            incoming = header;
            return List.of(say(ACK, 0));
        } catch (Refused e) {
            refusals.add(new Refusal("number " + (m[4] | m[5] << 7), e.getMessage()));
            return List.of(say(CANCEL, 0));
        }
    }

    private List<Reply> packet(byte[] m) {
        if (incoming == null) return List.of();
        int next = packets.size();
        // Sent again, as the answer was lost.
        if (next > 0 && SampleDump.fault(m, next - 1).isEmpty()) return List.of(say(ACK, next - 1));
        if (!SampleDump.fault(m, next).isEmpty()) {
            // Nobody sends again what is not asked for: the sound is lost.
            if (!manner.handshakes) incoming = null;
            return List.of(say(NAK, next));
        }
        packets.add(m.clone());
        if (packets.size() == incoming.packets()) {
            keep(incoming, packets, "");
            incoming = null;
            packets.clear();
        }
        return manner.busyEvery > 0 && next % manner.busyEvery == manner.busyEvery - 1
                ? List.of(say(WAIT, next), new Reply(say(ACK, next).bytes, BUSY))
                : List.of(say(ACK, next));
    }

    private List<Reply> request(int number, long now) {
        // What was not sent to its end is lost.
        incoming = null;
        packets.clear();
        stopSending();
        if (!messages.containsKey(number)) return List.of(say(CANCEL, 0));
        outgoing = messages.get(number);
        sent = -1;
        isAnswered = false;
        wakes = now + (manner.cancels ? THINKING_NS : UNANSWERED_NS);
        return List.of(new Reply(memory.sounds().get(number).dump().header().bytes(), SOON));
    }

    private void stopSending() {
        outgoing = List.of();
        wakes = NEVER;
    }

    private List<Reply> answered(int what, int packet, long now) {
        if (outgoing.isEmpty()) return List.of();
        if (what == CANCEL) {
            if (manner.cancels) stopSending();
            return List.of();
        }
        if (!manner.cancels) return List.of();
        isAnswered = true;
        if (what == ACK) return packet == (Math.max(0, sent) & 127) ? go(sent + 1, now) : List.of();
        // The packet of that number which went last.
        int back = sent - packet & 127;
        return back <= Math.max(0, sent) && back < 64 ? go(sent - back, now) : List.of();
    }

    private List<Reply> go(int to, long now) {
        sent = Math.max(0, to);
        if (sent == outgoing.size()) {
            stopSending();
            return List.of();
        }
        wakes = now + (isAnswered ? GONE_NS : UNANSWERED_NS);
        return List.of(new Reply(outgoing.get(sent), SOON));
    }

    /// Nobody answered: it goes on without, or gives up where somebody once did.
    List<Reply> woken(long now) {
        if (isAnswered) stopSending();
        return outgoing.isEmpty() ? List.of() : go(sent + 1, now);
    }

    private List<Reply> extension(byte[] m) {
        int number = m.length > 7 ? m[5] | m[6] << 7 : -1;
        if (!messages.containsKey(number)) return List.of();
        return switch (m[4]) {
            case 1 -> {
                if (m.length == 17) setLoop(number, m);
                yield List.of();
            }
            case 2 -> m.length == 10 ? List.of(new Reply(loop(number, m[7], m[8]), SOON)) : List.of();
            case 3 -> {
                if (m.length > 9 && m.length == 10 + m[7] + m[8 + m[7]]) names.put(number, new String(m, 9 + m[7], m[8 + m[7]], StandardCharsets.US_ASCII));
                yield List.of();
            }
            case 4 -> m.length == 8 ? List.of(new Reply(name(m[5], m[6], names.get(number)), SOON)) : List.of();
            default -> List.of();
        };
    }

    private void setLoop(int number, byte[] m) {
        try {
            SampleDump.loop(m[9], SampleDump.sevens(m, 10), SampleDump.sevens(m, 13), (int) memory.sounds().get(number).dump().frames());
            if (m[7] > 0 && m[7] <= MOST_LOOPS && m[8] == 0) loops.get(number).put((int) m[7], m.clone());
        } catch (Refused e) {
            refusals.add(new Refusal("number " + number, e.getMessage()));
        }
    }

    private byte[] loop(int number, byte low, byte high) {
        return loops.get(number).getOrDefault(low | high << 7,
                new byte[]{(byte) 0xF0, 0x7E, 0, 5, 1, (byte) (number & 127), (byte) (number >> 7), low, high, 0x7F, 0, 0, 0, 0, 0, 0, (byte) 0xF7});
    }

    private static byte[] name(byte low, byte high, String name) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(new byte[]{(byte) 0xF0, 0x7E, 0, 5, 3, low, high, 0, (byte) name.length()});
        out.writeBytes(name.getBytes(StandardCharsets.US_ASCII));
        out.write(0xF7);
        return out.toByteArray();
    }
}
