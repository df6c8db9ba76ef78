package ablecrate.codec.mpeg;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.CodedAudio;
import ablecrate.codec.FormatException;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// A stream of MPEG audio frames.
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
    /// Of those, frames that still sound in the next: a frame of the lower rates is no longer than the filters.
    private static final int STILL_SOUNDING = 2;

    MpegAudio {
        gaps = List.copyOf(gaps);
        marks = List.copyOf(marks);
    }

    @Override public boolean isSameFromAnywhere() { return true; }

    @Override public BlockDecoder open(Path path) throws IOException { return new Frames(path); }

    private final class Frames implements BlockDecoder {
        private final MpegFrames frames;
        private final double[][] block = new double[kind.channels()][kind.frames()];
        private FrameDecoder decoder = FrameDecoder.of(kind);
        private Optional<MpegFrames.Found> coming;
        private long number;
        private boolean isLost;
        private int gap;

        Frames(Path path) throws IOException {
            frames = new MpegFrames(path, marks.getFirst().at(), end, Optional.of(kind));
            coming = frames.next();
        }

        @Override public double[][] block() { return block; }

        @Override public int next() throws IOException {
            if (isInGap()) {
                silence();
                isLost = false;
                number++;
                return kind.frames();
            }
            if (coming.isEmpty()) return 0;
            decode(coming.get());
            coming = frames.next();
            number++;
            return kind.frames();
        }

        private boolean isInGap() {
            if (gap == gaps.size() || number < gaps.get(gap).before()) return false;
            if (number < gaps.get(gap).before() + gaps.get(gap).frames()) return true;
            gap++;
            // What the frames behind the gap borrow from before it is lost.
            decoder = FrameDecoder.of(kind);
            return false;
        }

        private void silence() {
            for (double[] plane : block)
                Arrays.fill(plane, 0);
        }

        @Override public boolean isLost() { return isLost; }

        private void decode(MpegFrames.Found found) throws IOException {
            silence();
            isLost = false;
            try {
                decoder.decode(found.header(), frames.bytes(found), block);
            } catch (FormatException e) {
                silence();
                isLost = true;
            }
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
            decoder = FrameDecoder.of(kind);
            for (; number < wanted + PRE_ROLL - STILL_SOUNDING && coming.isPresent(); number++)
                if (!isInGap()) {
                    if (number >= wanted) decoder.pass(coming.get().header(), frames.bytes(coming.get()));
                    coming = frames.next();
                }
            return number * kind.frames();
        }

        @Override public void close() throws IOException { frames.close(); }
    }
}
