package ablecrate.codec.sds;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.CodedAudio;
import ablecrate.codec.chunk.FileBytes;
import java.io.IOException;
import java.nio.file.Path;

/// The words of a dump. A packet whose checksum is wrong is silent, as its bytes may be anything.
record SdsAudio(int bits, long frames) implements CodedAudio {
    @Override public BlockDecoder open(Path path) throws IOException { return new Decoder(new FileBytes(path)); }

    private final class Decoder implements BlockDecoder {
        private final FileBytes file;
        private final int wordBytes = Math.ceilDiv(bits, 7), words = DumpPacket.words(bits);
        private final double[][] block = new double[1][words];
        private long packet;

        Decoder(FileBytes file) { this.file = file; }

        @Override public double[][] block() { return block; }

        @Override public int next() throws IOException {
            long position = packet * words;
            if (position >= frames) return 0;
            byte[] raw = file.read(DumpHeader.BYTES + packet * DumpPacket.BYTES, DumpPacket.BYTES);
            packet++;
            if (raw.length < DumpPacket.BYTES) return 0;
            boolean isWhole = DumpPacket.isWhole(raw);
            double step = Math.scalb(1.0, 1 - bits);
            for (int word = 0; word < words; word++) {
                int value = 0;
                for (int i = 0; i < wordBytes; i++)
                    value = value << 7 | raw[DumpPacket.WORDS_AT + word * wordBytes + i] & 127;
                block[0][word] = isWhole ? ((value >> 7 * wordBytes - bits) - (1 << bits - 1)) * step : 0;
            }
            return (int) Math.min(words, frames - position);
        }

        @Override public long seek(long frame) {
            packet = frame / words;
            return packet * words;
        }

        @Override public void close() throws IOException { file.close(); }
    }
}
