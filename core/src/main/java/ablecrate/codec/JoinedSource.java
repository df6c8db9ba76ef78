package ablecrate.codec;

import ablecrate.audio.AheadSource;
import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.function.LongConsumer;

/// Sounds one after another; one of them is open at a time. They are made in a thread of their own, ahead of what is read.
final class JoinedSource implements SeekableSource {
    private final List<AudioPlace.Joined.Piece> pieces;
    private final SoundFile shape;
    private final LongConsumer lost;
    private long position;
    private AheadSource ahead;

    JoinedSource(AudioPlace.Joined joined, SoundFile shape, LongConsumer lost) {
        pieces = joined.pieces();
        this.shape = shape;
        this.lost = lost;
    }

    @Override public int channels() { return shape.channels(); }

    @Override public int rateHz() { return shape.rateHz(); }

    @Override public long frames() { return shape.frames(); }

    @Override public void seek(long frame) {
        close();
        position = frame;
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (position >= frames() || count == 0) return 0;
        if (ahead == null) ahead = new AheadSource(new Made(position), "joined sounds");
        int got = ahead.read(planes, at, count);
        position += got;
        return got;
    }

    @Override public void close() {
        if (ahead != null) ahead.close();
        ahead = null;
    }

    /// The sounds from a frame on.
    private final class Made implements FrameSource {
        private long place;
        /// The piece that comes next, or is open.
        private int next;
        private FrameSource open;

        Made(long from) {
            place = from;
            while (next < pieces.size() && end(next) <= from)
                next++;
        }

        @Override public int channels() { return JoinedSource.this.channels(); }

        @Override public int rateHz() { return JoinedSource.this.rateHz(); }

        @Override public long frames() { return JoinedSource.this.frames(); }

        @Override public void close() {
            try {
                if (open != null) open.close();
            } catch (IOException e) {
                // It was read; what is wrong with it shows there.
            }
            open = null;
        }

        private long end(int piece) { return pieces.get(piece).at() + pieces.get(piece).frames(); }

        @Override public int read(double[][] planes, int at, int count) throws IOException {
            if (place == frames()) return 0;
            while (next < pieces.size() && end(next) <= place) {
                close();
                next++;
            }
            long start = next < pieces.size() ? pieces.get(next).at() : frames();
            int got = place < start
                    ? silence(planes, at, (int) Math.min(count, start - place))
                    : piece(planes, at, (int) Math.min(count, end(next) - place));
            place += got;
            return got;
        }

        private int silence(double[][] planes, int at, int count) {
            for (double[] plane : planes)
                Arrays.fill(plane, at, at + count, 0);
            return count;
        }

        private int piece(double[][] planes, int at, int count) throws IOException {
            AudioPlace.Joined.Piece piece = pieces.get(next);
            if (open == null) open = piece.rendering().openAt(place - piece.at(), frame -> lost.accept(piece.at()));
            int got = open.read(planes, at, count);
            if (got == 0) throw new IOException(piece.file().path() + " ended before all of it was read; gather it again");
            return got;
        }
    }
}
