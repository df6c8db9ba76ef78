package ablecrate.codec;

import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.function.LongConsumer;

/// Sounds one after another; one of them is open at a time.
final class JoinedSource implements SeekableSource {
    private final List<AudioPlace.Joined.Piece> pieces;
    private final SoundFile shape;
    private final LongConsumer lost;
    private long position;
    /// The piece that comes next, or is open.
    private int next;
    private FrameSource open;

    JoinedSource(AudioPlace.Joined joined, SoundFile shape, LongConsumer lost) {
        pieces = joined.pieces();
        this.shape = shape;
        this.lost = lost;
    }

    @Override public int channels() { return shape.channels(); }

    @Override public int rateHz() { return shape.rateHz(); }

    @Override public long frames() { return shape.frames(); }

    @Override public void seek(long frame) throws IOException {
        close();
        position = frame;
        for (next = 0; next < pieces.size() && end(next) <= frame;)
            next++;
    }

    private long end(int piece) { return pieces.get(piece).at() + pieces.get(piece).frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int wanted = (int) Math.min(count, frames() - position);
        if (wanted <= 0) return 0;
        while (next < pieces.size() && end(next) <= position) {
            close();
            next++;
        }
        long start = next < pieces.size() ? pieces.get(next).at() : frames();
        int got = position < start
                ? silence(planes, at, (int) Math.min(wanted, start - position))
                : piece(planes, at, (int) Math.min(wanted, end(next) - position));
        position += got;
        return got;
    }

    private static int silence(double[][] planes, int at, int count) {
        for (double[] plane : planes)
            Arrays.fill(plane, at, at + count, 0);
        return count;
    }

    private int piece(double[][] planes, int at, int count) throws IOException {
        AudioPlace.Joined.Piece piece = pieces.get(next);
        if (open == null) open = piece.rendering().openAt(position - piece.at(), frame -> lost.accept(piece.at()));
        int got = open.read(planes, at, count);
        if (got == 0) throw new IOException(piece.file().path() + " ended before all of it was read; gather it again");
        return got;
    }

    @Override public void close() throws IOException {
        if (open != null) open.close();
        open = null;
    }
}
