package ablecrate.audio;

import java.io.IOException;
import java.util.Queue;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.TimeUnit;

/// A stream that is read in a thread of its own, some blocks ahead of what is asked for. Of a fault the reader learns where it would have read on.
public final class AheadSource implements FrameSource {
    private static final int BLOCK = 8192, AHEAD = 6, PATIENCE_MS = 20;

    private final FrameSource source;
    private final BlockingQueue<Block> made = new ArrayBlockingQueue<>(AHEAD);
    /// Read already, to be filled once more.
    private final Queue<double[][]> used = new ConcurrentLinkedQueue<>();
    private final Thread thread;
    private volatile boolean isStopped;
    private Block block = new Block(new double[0][0], 0, null);
    private int taken;

    /// @param count frames; 0 at the end
    /// @param fault why there is no more
    private record Block(double[][] planes, int count, Throwable fault) {}

    /// @param source from here on the thread's, which closes it
    /// @param name of the thread
    public AheadSource(FrameSource source, String name) {
        this.source = source;
        thread = Thread.ofPlatform().daemon().name(name).start(this::run);
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (count == 0 || isEnded()) return 0;
        if (taken == block.count()) {
            if (block.planes().length > 0) used.add(block.planes());
            block = next();
            taken = 0;
            if (isEnded()) return 0;
        }
        int got = Math.min(count, block.count() - taken);
        for (int channel = 0; channel < planes.length; channel++)
            System.arraycopy(block.planes()[channel], taken, planes[channel], at, got);
        taken += got;
        return got;
    }

    private boolean isEnded() { return block.planes().length > 0 && block.count() == 0; }

    private Block next() throws IOException {
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

    private void run() {
        try (source) {
            for (int got = 1; got > 0 && !isStopped;) {
                double[][] old = used.poll(), planes = old == null ? new double[channels()][BLOCK] : old;
                got = source.readFully(planes, 0, BLOCK);
                made.put(new Block(planes, got, null));
            }
        } catch (IOException | RuntimeException | Error e) {
            tell(e);
        } catch (InterruptedException e) {
            // Nobody interrupts it.
            tell(new IllegalStateException(e));
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

    /// Returns once the source is closed.
    @Override public void close() {
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
}
