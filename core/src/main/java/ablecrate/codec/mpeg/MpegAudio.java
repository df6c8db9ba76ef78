package ablecrate.codec.mpeg;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.CodedAudio;
import ablecrate.codec.PieceStream;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javazoom.jl.decoder.Bitstream;
import javazoom.jl.decoder.Decoder;
import javazoom.jl.decoder.Header;
import javazoom.jl.decoder.JavaLayerException;
import javazoom.jl.decoder.SampleBuffer;

/// A stream of MPEG audio frames; the decoding is the library's, by its float path.
/// @param kind of all frames
/// @param end of the stream in its file
/// @param gaps where frames are missing, in order
/// @param marks places of some frames, in order; the first is the first frame of sound
record MpegAudio(MpegHeader kind, long end, List<Gap> gaps, List<Mark> marks) implements CodedAudio {
    /// @param before number of the frame that the missing ones stood before
    record Gap(long before, long frames) {}

    /// @param frame its number, missing ones counted
    record Mark(long frame, long at) {}

    /// A frame may use bytes that lie up to 511 before it: at the lowest bit rates those of many frames.
    private static final int PRE_ROLL = 24;

    private static final Object LIBRARY = new Object();

    MpegAudio {
        gaps = List.copyOf(gaps);
        marks = List.copyOf(marks);
    }

    @Override public BlockDecoder open(Path path) throws IOException { return new Frames(path); }

    private final class Frames implements BlockDecoder {
        private final MpegFrames frames;
        private final double[][] block = new double[kind.channels()][kind.frames()];
        private final PieceStream feed = new PieceStream();
        private final Samples samples = new Samples();
        private Bitstream bits;
        private Decoder decoder;
        private Optional<MpegFrames.Found> coming;
        private long number;
        private boolean isLost, isFresh;
        private int gap;

        Frames(Path path) throws IOException {
            frames = new MpegFrames(path, marks.getFirst().at(), end, Optional.of(kind));
            restart();
            coming = frames.next();
        }

        private void restart() {
            bits = new Bitstream(feed);
            decoder = new Decoder();
            decoder.setOutputBuffer(samples);
            isFresh = true;
        }

        @Override public double[][] block() { return block; }

        @Override public int next() throws IOException {
            if (gap < gaps.size() && number >= gaps.get(gap).before()) {
                Gap missing = gaps.get(gap);
                if (number < missing.before() + missing.frames()) {
                    silence();
                    isLost = false;
                    number++;
                    return kind.frames();
                }
                gap++;
                // What the frames behind the gap borrow from before it is lost.
                restart();
            }
            if (coming.isEmpty()) return 0;
            decode(frames.bytes(coming.get()));
            coming = frames.next();
            number++;
            return kind.frames();
        }

        private void silence() {
            for (double[] plane : block)
                Arrays.fill(plane, 0);
        }

        @Override public boolean isLost() { return isLost; }

        private void decode(byte[] frame) {
            silence();
            isLost = false;
            feed.take(frame);
            samples.clear();
            try {
                Header header = bits.readFrame();
                if (header == null) {
                    restart();
                    return;
                }
                if (isFresh)
                    // The library makes tables that all share when it first needs them, and another thread would use them half made.
                    synchronized (LIBRARY) {
                        decoder.decodeFrame(header, bits);
                    }
                else
                    decoder.decodeFrame(header, bits);
                isFresh = false;
                bits.closeFrame();
            } catch (JavaLayerException | RuntimeException e) {
                // The library finds some faults only in its arrays.
                restart();
                isLost = true;
                return;
            }
            samples.into(block);
        }

        @Override public long seek(long frame) throws IOException {
            long wanted = frame / kind.frames() - PRE_ROLL;
            Mark near = marks.getFirst();
            for (Mark mark : marks)
                if (mark.frame() <= wanted) near = mark;
            frames.moveTo(near.at());
            coming = frames.next();
            number = near.frame();
            gap = 0;
            while (gap < gaps.size() && gaps.get(gap).before() + gaps.get(gap).frames() <= number)
                gap++;
            restart();
            return number * kind.frames();
        }

        @Override public void close() throws IOException { frames.close(); }
    }

    /// Takes what the synthesis gives before it is cut to 16 bits.
    private static final class Samples extends SampleBuffer {
        /// What the library takes for full scale (its synthesis filters are made with it).
        private static final double FULL_SCALE = 32_700;

        private final float[][] held = new float[2][1152];
        private final int[] count = new int[2];

        Samples() { super(44_100, 2); }

        void clear() { Arrays.fill(count, 0); }

        @Override public void appendSamples(int channel, float[] f) {
            int n = Math.min(f.length, held[channel].length - count[channel]);
            System.arraycopy(f, 0, held[channel], count[channel], n);
            count[channel] += n;
        }

        void into(double[][] block) {
            for (int channel = 0; channel < block.length; channel++)
                for (int i = 0; i < Math.min(count[channel], block[channel].length); i++)
                    block[channel][i] = held[channel][i] / FULL_SCALE;
        }
    }
}
