package ablecrate.audio;

/// Frames that are already in memory, as a stream that can go anywhere in them.
public final class MemorySource implements SeekableSource {
    private final double[][] planes;
    private final int rateHz;
    private int position;

    /// @param planes `[channel][frame]`, all channels of one length; not copied
    public MemorySource(int rateHz, double[][] planes) {
        this.rateHz = rateHz;
        this.planes = planes;
    }

    @Override public int channels() { return planes.length; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return planes[0].length; }

    @Override public void seek(long frame) { position = Math.toIntExact(frame); }

    @Override public int read(double[][] into, int at, int count) {
        int n = Math.min(count, planes[0].length - position);
        for (int channel = 0; channel < planes.length; channel++)
            System.arraycopy(planes[channel], position, into[channel], at, n);
        position += n;
        return n;
    }
}
