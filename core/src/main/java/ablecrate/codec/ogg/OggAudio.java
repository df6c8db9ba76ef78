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

    /// A gap longer than this is a broken granule position.
    private static final int LONGEST_GAP = 1 << 24;

    OggAudio {
        marks = List.copyOf(marks);
    }

    @Override public BlockDecoder open(Path path) throws IOException { return new Decoder(path); }

    private final class Decoder implements BlockDecoder {
        private final OggPackets packets;
        private final OggKernel kernel = codec.open();
        private final OggKernel.Frames frames = new OggKernel.Frames(channels);
        private long position = marks.getFirst().granule();

        Decoder(Path path) throws IOException { packets = new OggPackets(path, marks.getFirst().at(), serial); }

        @Override public double[][] block() { return frames.planes; }

        @Override public int next() throws IOException {
            for (Optional<OggPackets.Batch> found; (found = packets.next()).isPresent();) {
                OggPackets.Batch batch = found.get();
                frames.count = 0;
                if (batch.followsGap()) kernel.reset();
                for (byte[] packet : batch.packets())
                    kernel.decode(packet, frames);
                long missing = batch.granule() - position - frames.count;
                if (batch.granule() >= 0 && missing > 0 && missing < LONGEST_GAP) frames.lead((int) missing);
                position += frames.count;
                if (frames.count > 0) return frames.count;
                if (batch.isLast()) return 0;
            }
            return 0;
        }

        @Override public long seek(long frame) {
            Mark near = marks.getFirst();
            for (Mark mark : marks)
                if (mark.granule() + codec.preRoll() <= frame) near = mark;
            packets.moveTo(near.at());
            kernel.reset();
            position = near.granule();
            return position;
        }

        @Override public void close() throws IOException { packets.close(); }
    }
}
