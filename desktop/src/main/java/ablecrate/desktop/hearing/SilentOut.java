package ablecrate.desktop.hearing;

/// No device: everything runs as if there were one, against a clock.
final class SilentOut implements AudioOut {
    private static final double AHEAD_SECONDS = 0.08;

    private final int rateHz, channels;
    private final long startedNanos = System.nanoTime();
    private volatile long written;

    SilentOut(int rateHz, int channels) {
        this.rateHz = rateHz;
        this.channels = channels;
    }

    @Override public int rateHz() { return rateHz; }

    @Override public int channels() { return channels; }

    @Override public void write(double[][] planes, int frames) throws InterruptedException {
        written += frames;
        waitUntil(written - (long) (AHEAD_SECONDS * rateHz));
    }

    @Override public void drain() throws InterruptedException { waitUntil(written); }

    private void waitUntil(long frame) throws InterruptedException {
        long nanos = startedNanos + (long) (frame * 1e9 / rateHz) - System.nanoTime();
        if (nanos > 0) Thread.sleep(nanos / 1_000_000, (int) (nanos % 1_000_000));
    }

    @Override public long heardFrames() { return Math.min(written, (long) ((System.nanoTime() - startedNanos) * 1e-9 * rateHz)); }

    @Override public void close() {}
}
