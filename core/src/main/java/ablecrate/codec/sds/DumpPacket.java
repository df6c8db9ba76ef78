package ablecrate.codec.sds;

/// A packet of a MIDI sample dump, 127 bytes: F0 7E cc 02 kk, 120 bytes of words, ll, F7. kk counts to 127 and begins again; ll is the XOR of 7E cc 02 kk and
/// the words. A word is unsigned and left-justified in as many 7-bit bytes as it needs.
///
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard.
public final class DumpPacket {
    public static final int BYTES = 127;
    static final int WORDS_AT = 5, WORD_BYTES = 120, SUM_AT = WORDS_AT + WORD_BYTES;

    private DumpPacket() {}

    /// @return how many words are in one
    static int words(int bits) { return WORD_BYTES / Math.ceilDiv(bits, 7); }

    public static boolean isPacket(byte[] message) { return message.length == BYTES && (message[0] & 0xFF) == 0xF0 && message[1] == 0x7E && message[3] == 2; }

    /// @return whether its checksum is that of its bytes
    public static boolean isWhole(byte[] packet) { return sum(packet) == packet[SUM_AT]; }

    public static int number(byte[] packet) { return packet[4]; }

    static int sum(byte[] packet) {
        int sum = 0;
        for (int i = 1; i < SUM_AT; i++)
            sum ^= packet[i];
        return sum & 0x7F;
    }
}
