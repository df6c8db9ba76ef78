package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;

/// A stream faded in at its start and out at its end.
public final class Fades implements FrameSource {
    private final FrameSource source;
    private final long inFrames, outFrames;
    private final FadeShape inShape, outShape;
    private final long allFrames;
    private long position;

    /// Fades longer than the sound begin or end beyond it.
    /// @param firstFrame of the sound that the stream starts at
    /// @param allFrames of the sound
    public Fades(FrameSource source, long firstFrame, long allFrames, long inFrames, FadeShape inShape, long outFrames, FadeShape outShape) {
        this.source = source;
        this.position = firstFrame;
        this.allFrames = allFrames;
        this.inFrames = inFrames;
        this.inShape = inShape;
        this.outFrames = outFrames;
        this.outShape = outShape;
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = source.read(planes, at, count);
        long outStart = allFrames - outFrames;
        for (int i = 0; i < n && position + i < inFrames; i++)
            scale(planes, at + i, inShape.fadeIn((double) (position + i) / inFrames));
        for (int i = Math.clamp(outStart - position, 0, n); i < n; i++)
            // The last frame is silent, as the first of a fade-in is.
            scale(planes, at + i, outShape.fadeOut((double) (position + i - outStart + 1) / outFrames));
        position += n;
        return n;
    }

    private static void scale(double[][] planes, int frame, double factor) {
        for (double[] plane : planes)
            plane[frame] *= factor;
    }

    @Override public void close() throws IOException { source.close(); }
}
