package ablecrate.codec.sds;

import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundSink;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Arrays;
import java.util.Optional;

/// Writes a dump: the header, then packets as they fill. See [SdsFormat].
final class SdsSink implements SoundSink {
    private static final int ALL = 0x7F;

    private final OutputStream out;
    private final int bits, wordBytes, words;
    private final double scale;
    private final byte[] packet = new byte[SdsFormat.PACKET_BYTES];
    private int inPacket, number;
    private long clipped;

    SdsSink(OutputShape shape, SoundMetadata metadata, OutputStream out) throws IOException {
        this.out = out;
        bits = shape.depth().bits();
        wordBytes = Math.ceilDiv(bits, 7);
        words = SdsFormat.WORD_BYTES / wordBytes;
        scale = Math.scalb(1.0, bits - 1);
        out.write(header(shape, metadata.loops().stream().filter(l -> l.use() == Loop.Use.SUSTAIN).findFirst()));
    }

    private byte[] header(OutputShape shape, Optional<Loop> loop) {
        byte[] head = new byte[SdsFormat.HEADER_BYTES];
        head[0] = (byte) 0xF0;
        head[1] = 0x7E;
        head[3] = 1;
        head[4] = (byte) (shape.number() & ALL);
        head[5] = (byte) (shape.number() >> 7 & ALL);
        head[6] = (byte) bits;
        sevens(head, 7, Math.round(1e9 / shape.rateHz()));
        sevens(head, 10, shape.frames());
        // The last word of the loop is part of it.
        sevens(head, 13, loop.map(l -> l.frames().start()).orElse(0L));
        sevens(head, 16, loop.map(l -> l.frames().end() - 1).orElse(0L));
        head[19] = (byte) (loop.isEmpty() ? SdsFormat.NO_LOOP : loop.get().mode() == LoopMode.ALTERNATING ? 1 : 0);
        head[20] = (byte) 0xF7;
        return head;
    }

    private static void sevens(byte[] into, int at, long value) {
        for (int i = 0; i < 3; i++)
            into[at + i] = (byte) (value >> 7 * i & ALL);
    }

    @Override public void write(double[][] planes, int frames) throws IOException {
        for (int i = 0; i < frames; i++) {
            double scaled = Math.rint(planes[0][i] * scale), held = Math.clamp(scaled, -scale, scale - 1);
            if (held != scaled) clipped++;
            // Words are unsigned, and stand at the left of their bytes.
            long word = (long) (held + scale) << 7 * wordBytes - bits;
            for (int b = 0; b < wordBytes; b++)
                packet[SdsFormat.WORDS_AT + inPacket * wordBytes + b] = (byte) (word >> 7 * (wordBytes - 1 - b) & ALL);
            if (++inPacket == words) send();
        }
    }

    private void send() throws IOException {
        Arrays.fill(packet, SdsFormat.WORDS_AT + inPacket * wordBytes, SdsFormat.WORDS_AT + SdsFormat.WORD_BYTES, (byte) 0);
        packet[0] = (byte) 0xF0;
        packet[1] = 0x7E;
        packet[3] = 2;
        packet[4] = (byte) (number++ & ALL);
        int sum = 0;
        for (int i = 1; i < SdsFormat.WORDS_AT + SdsFormat.WORD_BYTES; i++)
            sum ^= packet[i];
        packet[SdsFormat.WORDS_AT + SdsFormat.WORD_BYTES] = (byte) (sum & ALL);
        packet[SdsFormat.PACKET_BYTES - 1] = (byte) 0xF7;
        out.write(packet);
        inPacket = 0;
    }

    @Override public void finish() throws IOException {
        if (inPacket > 0) send();
    }

    @Override public long clippedSamples() { return clipped; }
}
