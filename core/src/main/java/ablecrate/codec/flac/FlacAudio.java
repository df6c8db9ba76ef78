package ablecrate.codec.flac;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.Bytes;
import ablecrate.codec.CodedAudio;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// A native FLAC stream.
/// @param marks places of some frames, in order, so that any frame is found without reading all before it
record FlacAudio(StreamInfo info, List<Mark> marks) implements CodedAudio {
    /// A frame every so many seconds is enough to get near.
    record Mark(long first, long at) {}

    FlacAudio {
        marks = List.copyOf(marks);
    }

    @Override public Optional<Bytes> md5() { return info.knowsMd5() ? Optional.of(info.md5()) : Optional.empty(); }

    @Override public boolean isSameFromAnywhere() { return true; }

    @Override public BlockDecoder open(Path path) throws IOException { return new Decoder(path); }

    private final class Decoder implements BlockDecoder {
        private final FlacFrames frames;
        private final FlacKernel kernel = new FlacKernel(info);
        private final double[][] block = new double[info.channels()][info.maxBlock()];
        private Optional<FlacFrames.Found> coming;
        private long position;

        Decoder(Path path) throws IOException {
            frames = new FlacFrames(path, info, marks.isEmpty() ? 0 : marks.getFirst().at());
            coming = frames.next();
        }

        @Override public double[][] block() { return block; }

        @Override public int next() throws IOException {
            while (coming.isPresent() && coming.get().header().first() < position)
                coming = frames.next();
            if (coming.isEmpty()) return 0;
            FlacFrames.Found found = coming.get();
            int count = Math.min(found.header().count(), info.maxBlock());
            if (found.header().first() > position) {
                count = (int) Math.min(info.maxBlock(), found.header().first() - position);
                for (double[] plane : block)
                    Arrays.fill(plane, 0, count, 0);
            } else {
                kernel.decode(frames.bytes(found), found.header(), count, block);
                coming = frames.next();
            }
            position += count;
            return count;
        }

        @Override public long seek(long frame) throws IOException {
            Mark near = marks.getFirst();
            for (Mark mark : marks)
                if (mark.first() <= frame) near = mark;
            frames.moveTo(near.at());
            coming = frames.next();
            position = near.first();
            // What lies between is looked through, and not decoded.
            while (coming.isPresent() && coming.get().header().first() + coming.get().header().count() <= frame) {
                position = coming.get().header().first() + coming.get().header().count();
                coming = frames.next();
            }
            return position;
        }

        @Override public void close() throws IOException { frames.close(); }
    }
}
