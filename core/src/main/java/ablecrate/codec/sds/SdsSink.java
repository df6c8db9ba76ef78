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

/// Writes a dump: the header, then packets as they fill.
final class SdsSink implements SoundSink {
    private static final int ALL = 0x7F;

    private final OutputStream out;
    private final int bits, wordBytes, words;
    private final double scale;
    private final byte[] packet = new byte[DumpPacket.BYTES];
    private int inPacket, number;
    private long clipped;

    SdsSink(OutputShape shape, SoundMetadata metadata, OutputStream out) throws IOException {
        this.out = out;
        bits = shape.depth().bits();
        wordBytes = Math.ceilDiv(bits, 7);
        words = DumpPacket.words(bits);
        scale = Math.scalb(1.0, bits - 1);
        out.write(header(shape, metadata.loops().stream().filter(l -> l.use() == Loop.Use.SUSTAIN).findFirst()).bytes());
    }

    private static DumpHeader header(OutputShape shape, Optional<Loop> loop) {
        // The last word of the loop is part of it.
        DumpHeader.LoopPoints points = loop.map(l -> new DumpHeader.LoopPoints((int) l.frames().start(), (int) l.frames().end() - 1,
                l.mode() == LoopMode.ALTERNATING ? DumpHeader.LoopPoints.ALTERNATING : DumpHeader.LoopPoints.FORWARD)).orElse(DumpHeader.LoopPoints.NONE);
        return new DumpHeader(shape.number(), shape.depth().bits(), (int) Math.round(1e9 / shape.rateHz()), (int) shape.frames(), points);
    }

    @Override public void write(double[][] planes, int frames) throws IOException {
        for (int i = 0; i < frames; i++) {
            double scaled = Math.rint(planes[0][i] * scale), held = Math.clamp(scaled, -scale, scale - 1);
            if (held != scaled) clipped++;
            // Words are unsigned, and stand at the left of their bytes.
            long word = (long) (held + scale) << 7 * wordBytes - bits;
            for (int b = 0; b < wordBytes; b++)
                packet[DumpPacket.WORDS_AT + inPacket * wordBytes + b] = (byte) (word >> 7 * (wordBytes - 1 - b) & ALL);
            if (++inPacket == words) send();
        }
    }

    private void send() throws IOException {
        Arrays.fill(packet, DumpPacket.WORDS_AT + inPacket * wordBytes, DumpPacket.SUM_AT, (byte) 0);
        packet[0] = (byte) 0xF0;
        packet[1] = 0x7E;
        packet[3] = 2;
        packet[4] = (byte) (number++ & ALL);
        packet[DumpPacket.SUM_AT] = (byte) DumpPacket.sum(packet);
        packet[DumpPacket.BYTES - 1] = (byte) 0xF7;
        out.write(packet);
        inPacket = 0;
    }

    @Override public void finish() throws IOException {
        if (inPacket > 0) send();
    }

    @Override public long clippedSamples() { return clipped; }
}
