package ablecrate.audio;

import ablecrate.work.OrderedWork;
import ablecrate.work.Workers;
import java.io.IOException;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;

/// A long stream that is made in pieces while there are idle workers, and read in order. Sample by sample it is the stream made in one go.
public final class PiecedSource implements FrameSource {
    private static final int BLOCK = 8192;
    /// Long enough that opening the stream is a small part of it.
    private static final int PIECE_SAMPLES = 1 << 19;

    /// Opens the stream at one of its frames, a multiple of its step. For any thread, and for several at a time.
    @FunctionalInterface public interface Opening {
        FrameSource at(long frame) throws IOException;
    }

    private final int channels, rateHz, pieceFrames;
    private final long frames;
    private final Opening opening;
    private final OrderedWork<Piece> pieces = new OrderedWork<>();
    /// Read already, to be filled once more.
    private final Queue<double[][]> used = new ConcurrentLinkedQueue<>();
    private Optional<Piece> piece = Optional.empty();
    /// Read as it comes, where nobody is idle or little is left.
    private Optional<FrameSource> stream = Optional.empty();
    private long position, end, given;
    private volatile boolean isClosed;

    /// @param count frames, fewer than were asked for only where the stream ends
    private record Piece(double[][] planes, int count) {}

    /// @param step frames from one place to the next at which the stream can be opened
    public PiecedSource(int channels, int rateHz, long frames, int step, Opening opening) {
        this.channels = channels;
        this.rateHz = rateHz;
        this.frames = frames;
        this.opening = opening;
        pieceFrames = step * Math.ceilDiv(PIECE_SAMPLES / channels, step);
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (count == 0 || position == frames) return 0;
        if (position == end) goOn();
        int wanted = (int) Math.min(count, end - position);
        int got = piece.isPresent() ? copy(piece.get(), planes, at, wanted) : stream.orElseThrow().read(planes, at, wanted);
        position += got;
        return got;
    }

    private int copy(Piece from, double[][] planes, int at, int wanted) {
        int start = (int) (position + pieceFrames - end), count = Math.min(wanted, from.count() - start);
        for (int channel = 0; channel < channels; channel++)
            System.arraycopy(from.planes()[channel], start, planes[channel], at, count);
        return count;
    }

    private void goOn() throws IOException {
        piece.ifPresent(p -> used.add(p.planes()));
        piece = Optional.empty();
        end = position + pieceFrames;
        if (pieces.isEmpty() && (frames <= end || !Workers.haveIdle())) {
            if (stream.isEmpty()) stream = Optional.of(opening.at(position));
            end = Math.min(frames, end);
            return;
        }
        closeStream();
        if (pieces.isEmpty()) given = position;
        for (; given < frames && !pieces.isFull(); given += pieceFrames) {
            long from = given;
            pieces.give(() -> make(from));
        }
        piece = Optional.of(pieces.take());
    }

    private Piece make(long from) throws IOException {
        double[][] old = used.poll(), planes = old == null ? new double[channels][pieceFrames] : old;
        int wanted = (int) Math.min(pieceFrames, frames - from), done = 0;
        try (FrameSource source = opening.at(from)) {
            for (int got = 1; got > 0 && done < wanted && !isClosed; done += got)
                got = source.read(planes, done, Math.min(BLOCK, wanted - done));
        }
        return new Piece(planes, done);
    }

    private void closeStream() throws IOException {
        if (stream.isPresent()) stream.get().close();
        stream = Optional.empty();
    }

    @Override public void close() throws IOException {
        isClosed = true;
        try (pieces) {
            closeStream();
        }
    }
}
