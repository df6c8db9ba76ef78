package ablecrate.codec.flac;

/// The checksums of FLAC: CRC-8 of headers (polynomial 0x07), CRC-16 of frames (0x8005), both from zero on, most significant bit first.
/// Source: RFC 9639, sections 9.1.8 and 9.3; eight bytes at a time as in M. Kounavis and F. Berry, *A Systematic Approach to Building High Performance Software-based CRC
/// Generators*, 2005.
final class Crc {
    private static final int[] EIGHT = table(0x07, 8), SIXTEEN = table(0x8005, 16);
    /// `[zero bytes that follow][byte]`
    private static final int[][] FOLLOWED = new int[Long.BYTES][];

    static {
        FOLLOWED[0] = SIXTEEN;
        for (int zeros = 1; zeros < FOLLOWED.length; zeros++) {
            FOLLOWED[zeros] = new int[256];
            for (int i = 0; i < 256; i++)
                FOLLOWED[zeros][i] = next16(FOLLOWED[zeros - 1][i], 0);
        }
    }

    private Crc() {}

    private static int[] table(int polynomial, int bits) {
        int[] table = new int[256];
        for (int i = 0; i < 256; i++) {
            int crc = i << bits - 8;
            for (int bit = 0; bit < 8; bit++)
                crc = crc << 1 ^ ((crc & 1 << bits - 1) != 0 ? polynomial : 0);
            table[i] = crc & (1 << bits) - 1;
        }
        return table;
    }

    static int crc8(byte[] bytes, int at, int count) {
        int crc = 0;
        for (int i = at; i < at + count; i++)
            crc = EIGHT[crc ^ bytes[i] & 0xFF];
        return crc;
    }

    /// @param crc of what came before
    static int crc16(int crc, byte[] bytes, int at, int count) {
        int i = at, end = at + count;
        for (; i + Long.BYTES <= end; i += Long.BYTES)
            crc = FOLLOWED[7][crc >> 8 ^ bytes[i] & 0xFF] ^ FOLLOWED[6][crc & 0xFF ^ bytes[i + 1] & 0xFF] ^ FOLLOWED[5][bytes[i + 2] & 0xFF]
                    ^ FOLLOWED[4][bytes[i + 3] & 0xFF] ^ FOLLOWED[3][bytes[i + 4] & 0xFF] ^ FOLLOWED[2][bytes[i + 5] & 0xFF]
                    ^ FOLLOWED[1][bytes[i + 6] & 0xFF] ^ FOLLOWED[0][bytes[i + 7] & 0xFF];
        for (; i < end; i++)
            crc = next16(crc, bytes[i]);
        return crc;
    }

    private static int next16(int crc, int next) { return crc << 8 & 0xFFFF ^ SIXTEEN[crc >> 8 ^ next & 0xFF]; }
}
