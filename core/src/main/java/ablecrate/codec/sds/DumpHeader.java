package ablecrate.codec.sds;

import java.util.Optional;

/// The header of a MIDI sample dump, 21 bytes; numbers of two and three bytes have 7 bits each, least first:
///
/// | offset | field | meaning |
/// |-------:|-------|---------|
/// | 0 | F0 7E cc 01 | dump header, channel cc |
/// | 4 | ss ss | number of the sound |
/// | 6 | ee | bits of a word, 8…28 |
/// | 7 | ff ff ff | period in ns |
/// | 10 | gg gg gg | length in words |
/// | 13 | hh hh hh | first word of the loop |
/// | 16 | ii ii ii | last word of the loop, inclusive |
/// | 19 | jj | 00 forward, 01 alternating, 7F none |
/// | 20 | F7 | |
///
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard.
/// @param words length of the sound
public record DumpHeader(int number, int bits, int periodNs, int words, LoopPoints loop) {
    public static final int BYTES = 21;

    /// @param last inclusive
    /// @param kind of the standard: forward, alternating, or none
    public record LoopPoints(int start, int last, int kind) {
        public static final int FORWARD = 0, ALTERNATING = 1, OFF = 0x7F;
        public static final LoopPoints NONE = new LoopPoints(0, 0, OFF);
    }

    /// @return empty for anything but a header that is whole and can be true
    public static Optional<DumpHeader> of(byte[] message) {
        if (message.length != BYTES || !isHeader(message) || (message[BYTES - 1] & 0xFF) != 0xF7) return Optional.empty();
        return Optional.of(read(message)).filter(h -> h.fault().isEmpty());
    }

    /// @param message at least as long as a header; what it says may be impossible
    static DumpHeader read(byte[] message) {
        return new DumpHeader(message[4] & 0x7F | (message[5] & 0x7F) << 7, message[6] & 0xFF, sevens(message, 7), sevens(message, 10),
                new LoopPoints(sevens(message, 13), sevens(message, 16), message[19] & 0xFF));
    }

    static boolean isHeader(byte[] head) { return head.length >= 4 && (head[0] & 0xFF) == 0xF0 && head[1] == 0x7E && head[3] == 1; }

    /// What cannot be true of it.
    Optional<String> fault() {
        if (bits < 8 || bits > 28) return Optional.of("words of " + bits + " bits, 8 to 28 exist");
        return periodNs < 100 ? Optional.of("a period of " + periodNs + " ns") : Optional.empty();
    }

    /// @return the message, for channel 0
    public byte[] bytes() {
        byte[] head = new byte[BYTES];
        head[0] = (byte) 0xF0;
        head[1] = 0x7E;
        head[3] = 1;
        head[4] = (byte) (number & 0x7F);
        head[5] = (byte) (number >> 7 & 0x7F);
        head[6] = (byte) bits;
        sevens(head, 7, periodNs);
        sevens(head, 10, words);
        sevens(head, 13, loop.start());
        sevens(head, 16, loop.last());
        head[19] = (byte) loop.kind();
        head[20] = (byte) 0xF7;
        return head;
    }

    public int packets() { return Math.ceilDiv(words, DumpPacket.words(bits)); }

    public DumpHeader numbered(int other) { return new DumpHeader(other, bits, periodNs, words, loop); }

    static int sevens(byte[] from, int at) { return from[at] & 0x7F | (from[at + 1] & 0x7F) << 7 | (from[at + 2] & 0x7F) << 14; }

    private static void sevens(byte[] into, int at, int value) {
        for (int i = 0; i < 3; i++)
            into[at + i] = (byte) (value >> 7 * i & 0x7F);
    }
}
