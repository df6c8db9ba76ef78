package ablecrate.audio;

/// Frames that are already in memory, as a stream.
public final class ArraySource implements FrameSource {
    private final double[][] planes;
    private final int rateHz;
    private int position;

    /// @param planes `[channel][frame]`, all channels of one length; not copied
    public ArraySource(int rateHz, double[][] planes) {
        this.rateHz = rateHz;
        this.planes = planes;
    }

    @Override public int channels() { return planes.length; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return planes[0].length; }

    @Override public int read(double[][] into, int at, int count) {
        int n = Math.min(count, planes[0].length - position);
        for (int channel = 0; channel < planes.length; channel++)
            System.arraycopy(planes[channel], position, into[channel], at, n);
        position += n;
        return n;
    }
}
