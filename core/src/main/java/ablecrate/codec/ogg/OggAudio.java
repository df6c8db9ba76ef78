package ablecrate.codec.ogg;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.CodedAudio;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// A stream of packets in Ogg. Granule positions say where each page's frames belong, so that what is missing leaves silence of its length.
/// @param marks places of some pages, in order, with the granule position before them
record OggAudio(OggCodec codec, int serial, int channels, List<Mark> marks) implements CodedAudio {
    record Mark(long granule, long at) {}

    /// A gap longer than this is a broken granule position; in a page that is damaged, much less is.
    private static final int LONGEST_GAP = 1 << 24, LONGEST_SUSPECT = 1 << 20, SILENCE = 4096;

    /// Whether a page's granule position can be right.
    static boolean isBelieved(OggPackets.Batch batch, long before) {
        return batch.granule() >= 0 && batch.granule() - before < (batch.isWhole() ? LONGEST_GAP : LONGEST_SUSPECT);
    }

    OggAudio {
        marks = List.copyOf(marks);
    }

    @Override public BlockDecoder open(Path path) throws IOException { return new Decoder(path); }

    private final class Decoder implements BlockDecoder {
        private final OggPackets packets;
        private final OggKernel kernel = codec.open();
        private final OggKernel.Frames frames = new OggKernel.Frames(channels);
        private final double[][] silence = new double[channels][SILENCE];
        private long position = marks.getFirst().granule(), missing;
        private boolean isSilent;

        Decoder(Path path) throws IOException { packets = new OggPackets(path, marks.getFirst().at(), serial); }

        @Override public double[][] block() { return isSilent ? silence : frames.planes; }

        @Override public int next() throws IOException {
            if (missing == 0) read();
            isSilent = missing > 0;
            int count = isSilent ? (int) Math.min(SILENCE, missing) : frames.count;
            if (isSilent)
                missing -= count;
            else
                frames.count = 0;
            position += count;
            return count;
        }

        /// Decodes the next page, unless one waits behind its silence.
        private void read() throws IOException {
            if (frames.count > 0) return;
            for (Optional<OggPackets.Batch> found; (found = packets.next()).isPresent();) {
                OggPackets.Batch batch = found.get();
                frames.count = 0;
                if (batch.followsGap()) kernel.reset();
                for (byte[] packet : batch.packets())
                    kernel.decode(packet, frames);
                if (isBelieved(batch, position)) missing = Math.max(0, batch.granule() - position - frames.count);
                if (frames.count > 0 || missing > 0 || batch.isLast()) return;
            }
        }

        @Override public long seek(long frame) {
            Mark near = marks.getFirst();
            for (Mark mark : marks)
                if (mark.granule() + codec.preRoll() <= frame) near = mark;
            packets.moveTo(near.at());
            kernel.reset();
            position = near.granule();
            missing = frames.count = 0;
            return position;
        }

        @Override public void close() throws IOException { packets.close(); }
    }
}
