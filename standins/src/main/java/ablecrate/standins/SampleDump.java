package ablecrate.standins;

import java.util.Arrays;
import java.util.List;

/// A sound as it was dumped: header and packets.
/// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, sample dump standard; from memory.
record SampleDump(Header header, double[] plane) implements HostSound {
    static final int HEADER = 21, PACKET = 127;
    private static final int WORDS_AT = 5, WORD_BYTES = 120, LEAST_LOOP = 16, LEAST_PERIOD_NS = 22_675;

    /// @param bytes the message
    record Header(byte[] bytes, int number, int bits, int rateHz, int length, Preset.Loop loop) {
        int packets() { return Math.ceilDiv(length, inPacket()); }

        private int inPacket() { return WORD_BYTES / Math.ceilDiv(bits, 7); }
    }

    static boolean isHeader(byte[] m) { return m.length >= HEADER && (m[0] & 0xFF) == 0xF0 && m[1] == 0x7E && m[3] == 1 && (m[20] & 0xFF) == 0xF7; }

    /// @param m begins with a header
    static Header header(byte[] m) throws Refused {
        if (!isHeader(m)) throw new Refused("no dump header");
        int bits = m[6], period = sevens(m, 7), length = sevens(m, 10);
        if (bits < 8 || bits > 16) throw new Refused("words of " + bits + " bits; takes 8 to 16");
        if (period < LEAST_PERIOD_NS) throw new Refused("a period of " + period + " ns; takes " + LEAST_PERIOD_NS + " and more");
        if (length == 0) throw new Refused("no sound in it");
        return new Header(Arrays.copyOf(m, HEADER), m[4] | m[5] << 7, bits, (int) Math.round(1e9 / period), length,
                loop(m[19], sevens(m, 13), sevens(m, 16), length));
    }

    static Preset.Loop loop(int kind, int start, int last, int length) throws Refused {
        if (kind == 0x7F) return Preset.Loop.NONE;
        if (kind != 0 && kind != 1) throw new Refused("loop of kind " + kind + "; plays forward and alternating ones");
        if (start > last || last >= length) throw new Refused("loop " + start + " to " + last + " of " + length + " words");
        if (last - start + 1 < LEAST_LOOP) throw new Refused("loop of " + (last - start + 1) + " words; the shortest is " + LEAST_LOOP);
        // The last word of the loop is part of it.
        return new Preset.Loop(start, last + 1, kind == 1, 0);
    }

    static SampleDump of(byte[] all) throws Refused {
        Header header = header(all);
        int packets = header.packets();
        if (all.length != HEADER + packets * PACKET) throw new Refused("it ends after " + (all.length - HEADER) / PACKET + " of " + packets + " packets");
        byte[][] each = new byte[packets][];
        for (int packet = 0; packet < packets; packet++) {
            each[packet] = Arrays.copyOfRange(all, HEADER + packet * PACKET, HEADER + (packet + 1) * PACKET);
            String fault = fault(each[packet], packet);
            if (!fault.isEmpty()) throw new Refused(fault);
        }
        return of(header, List.of(each));
    }

    /// @param packets without fault, all of them
    static SampleDump of(Header header, List<byte[]> packets) {
        int width = Math.ceilDiv(header.bits, 7), inPacket = header.inPacket();
        double[] plane = new double[header.length];
        for (int i = 0; i < plane.length; i++) {
            byte[] packet = packets.get(i / inPacket);
            int value = 0;
            for (int b = 0; b < width; b++)
                value = value << 7 | packet[WORDS_AT + i % inPacket * width + b];
            plane[i] = ((value >> 7 * width - header.bits) - (1 << header.bits - 1)) * Math.scalb(1.0, 1 - header.bits);
        }
        return new SampleDump(header, plane);
    }

    /// What is wrong with the packet that should come next; empty if nothing is.
    static String fault(byte[] m, int packet) {
        if (m.length != PACKET || (m[0] & 0xFF) != 0xF0 || m[1] != 0x7E || m[3] != 2 || (m[PACKET - 1] & 0xFF) != 0xF7) return "packet " + packet + " is none";
        if (m[4] != (packet & 127)) return "packet " + packet + " has the number " + m[4];
        int sum = 0;
        for (int i = 1; i < WORDS_AT + WORD_BYTES; i++)
            sum ^= m[i];
        return (sum & 127) == m[WORDS_AT + WORD_BYTES] ? "" : "packet " + packet + " is damaged";
    }

    static int sevens(byte[] all, int at) { return all[at] | all[at + 1] << 7 | all[at + 2] << 14; }

    @Override public int rateHz() { return header.rateHz; }

    @Override public int channels() { return 1; }

    @Override public long frames() { return plane.length; }

    @Override public double[][] read(long from, int count) { return new double[][]{Arrays.copyOfRange(plane, (int) from, (int) from + count)}; }
}
