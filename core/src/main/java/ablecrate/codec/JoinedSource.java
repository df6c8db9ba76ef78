package ablecrate.codec;

import ablecrate.audio.FrameSource;
import ablecrate.audio.SeekableSource;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.LongConsumer;

/// Sounds one after another; one of them is open at a time. They are made in a thread of their own, some blocks ahead of what is read.
final class JoinedSource implements SeekableSource {
    private static final int BLOCK = 16_384, AHEAD = 4, PATIENCE_MS = 20;

    private final List<AudioPlace.Joined.Piece> pieces;
    private final SoundFile shape;
    private final LongConsumer lost;
    private long position;
    private Ahead ahead;
    private Block block = new Block(new double[0][0], 0, null);
    private int taken;

    /// @param fault why there is no more
    private record Block(double[][] planes, int count, Throwable fault) {}

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
        if (ahead == null) ahead = new Ahead(position);
        if (taken == block.count()) {
            block = ahead.next();
            taken = 0;
        }
        int got = Math.min(count, block.count() - taken);
        for (int channel = 0; channel < planes.length; channel++)
            System.arraycopy(block.planes()[channel], taken, planes[channel], at, got);
        taken += got;
        position += got;
        return got;
    }

    @Override public void close() {
        if (ahead != null) ahead.stop();
        ahead = null;
        block = new Block(new double[0][0], 0, null);
        taken = 0;
    }

    /// Makes block after block, until it has made all or is stopped.
    private final class Ahead {
        private final BlockingQueue<Block> made = new ArrayBlockingQueue<>(AHEAD);
        private final Thread thread;
        private volatile boolean isStopped;
        private long place;
        /// The piece that comes next, or is open.
        private int next;
        private FrameSource open;

        Ahead(long from) {
            place = from;
            while (next < pieces.size() && end(next) <= from)
                next++;
            thread = Thread.ofPlatform().daemon().name("joined sounds").start(this::run);
        }

        /// @throws IOException if it could not be made
        Block next() throws IOException {
            Block got;
            try {
                got = made.take();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new IOException("interrupted", e);
            }
            if (got.fault() instanceof IOException fault) throw fault;
            if (got.fault() instanceof RuntimeException fault) throw fault;
            if (got.fault() instanceof Error fault) throw fault;
            return got;
        }

        /// Returns once all is closed.
        void stop() {
            isStopped = true;
            while (thread.isAlive()) {
                made.clear();
                try {
                    thread.join(1);
                } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                    return;
                }
            }
        }

        private void run() {
            try {
                while (!isStopped && place < frames()) {
                    Block next = new Block(new double[channels()][BLOCK], (int) Math.min(BLOCK, frames() - place), null);
                    for (int done = 0; done < next.count();)
                        done += make(next.planes(), done, next.count() - done);
                    made.put(next);
                }
            } catch (IOException | RuntimeException | Error e) {
                tell(e);
            } catch (InterruptedException e) {
                // Nobody interrupts it.
                tell(new IllegalStateException(e));
            } finally {
                closeOpen();
            }
        }

        /// Whoever reads waits for it, unless it is stopped.
        private void tell(Throwable fault) {
            try {
                while (!isStopped && !made.offer(new Block(new double[0][0], 0, fault), PATIENCE_MS, TimeUnit.MILLISECONDS))
                    continue;
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }

        private void closeOpen() {
            try {
                if (open != null) open.close();
            } catch (IOException e) {
                // It was read; what is wrong with it shows there.
            }
            open = null;
        }

        private long end(int piece) { return pieces.get(piece).at() + pieces.get(piece).frames(); }

        private int make(double[][] planes, int at, int count) throws IOException {
            while (next < pieces.size() && end(next) <= place) {
                closeOpen();
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
