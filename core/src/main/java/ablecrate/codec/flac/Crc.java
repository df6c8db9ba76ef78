package ablecrate.codec.flac;

/// The checksums of FLAC: CRC-8 of headers (polynomial 0x07), CRC-16 of frames (0x8005), both from zero on, most significant bit first.
/// Source: RFC 9639, sections 9.1.8 and 9.3.
final class Crc {
    private static final int[] EIGHT = table(0x07, 8), SIXTEEN = table(0x8005, 16);

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
        for (int i = at; i < at + count; i++)
            crc = crc << 8 & 0xFFFF ^ SIXTEEN[crc >> 8 ^ bytes[i] & 0xFF];
        return crc;
    }
}
