package ablecrate.codec.sds;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// Messages that say more of a sound that was dumped; behind its packets in a file, or sent after it where the other side knows them.
///
/// Source: MIDI Manufacturers Association, sample dump extensions; from memory.
public sealed interface DumpExtension {
    /// Loop points: F0 7E cc 05 01 ss ss bb bb cc dd dd dd ee ee ee F7; number of the sound and of the loop (0 is that of the header), kind, first and last
    /// word.
    record FurtherLoop(int sound, int loop, DumpHeader.LoopPoints points) implements DumpExtension {
        private static final int BYTES = 17;

        @Override public byte[] bytes() {
            return new byte[]{(byte) 0xF0, 0x7E, 0, 5, 1, low(sound), high(sound), low(loop), high(loop), (byte) points.kind(),
                low(points.start()), high(points.start()), low(points.start() >> 14), low(points.last()), high(points.last()), low(points.last() >> 14),
                (byte) 0xF7};
        }
    }

    /// Name: F0 7E cc 05 03 ss ss tt (language) nn (text) F7; tt and nn are lengths in bytes. No language is said.
    record Name(int sound, String text) implements DumpExtension {
        /// Characters beyond ASCII, which the standard has no place for, become `?`.
        public Name {
            String plain = new String(text.getBytes(StandardCharsets.US_ASCII), StandardCharsets.US_ASCII);
            text = plain.substring(0, Math.min(127, plain.length()));
        }

        @Override public byte[] bytes() {
            byte[] name = text.getBytes(StandardCharsets.US_ASCII), all = Arrays.copyOf(new byte[]{(byte) 0xF0, 0x7E, 0, 5, 3, low(sound), high(sound), 0,
                (byte) name.length}, 10 + name.length);
            System.arraycopy(name, 0, all, 9, name.length);
            all[all.length - 1] = (byte) 0xF7;
            return all;
        }
    }

    int sound();

    /// The same of a sound of another number.
    default DumpExtension numbered(int other) {
        return switch (this) {
            case FurtherLoop f -> new FurtherLoop(other, f.loop(), f.points());
            case Name n -> new Name(other, n.text());
        };
    }

    /// @return the message, for channel 0
    byte[] bytes();

    private static byte low(int value) { return (byte) (value & 0x7F); }

    private static byte high(int value) { return (byte) (value >> 7 & 0x7F); }

    /// @param bytes what follows the packets
    /// @return those that it begins with, one behind the other
    static List<DumpExtension> all(byte[] bytes) {
        List<DumpExtension> all = new ArrayList<>();
        int from = 0;
        for (int i = 0; i < bytes.length; i++)
            if ((bytes[i] & 0xFF) == 0xF7) {
                Optional<DumpExtension> next = of(Arrays.copyOfRange(bytes, from, i + 1));
                if (next.isEmpty()) break;
                all.add(next.get());
                from = i + 1;
            }
        return all;
    }

    /// @return empty for any other message, and for what is damaged
    static Optional<DumpExtension> of(byte[] m) {
        if (m.length < 10 || (m[0] & 0xFF) != 0xF0 || m[1] != 0x7E || m[3] != 5 || (m[m.length - 1] & 0xFF) != 0xF7) return Optional.empty();
        for (int i = 1; i < m.length - 1; i++)
            if (m[i] < 0) return Optional.empty();
        int sound = m[5] | m[6] << 7;
        if (m[4] == 1 && m.length == FurtherLoop.BYTES)
            return Optional.of(new FurtherLoop(sound, m[7] | m[8] << 7,
                    new DumpHeader.LoopPoints(DumpHeader.sevens(m, 10), DumpHeader.sevens(m, 13), m[9])));
        int nameAt = 9 + m[7];
        if (m[4] == 3 && m.length > nameAt && m.length == nameAt + m[nameAt - 1] + 1)
            return Optional.of(new Name(sound, new String(m, nameAt, m[nameAt - 1], StandardCharsets.US_ASCII)));
        return Optional.empty();
    }
}
