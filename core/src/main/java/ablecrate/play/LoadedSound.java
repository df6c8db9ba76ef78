package ablecrate.play;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;

/// A sound in memory.
/// @param planes `[channel][frame]`, one channel or two; not copied
public record LoadedSound(double[][] planes, int rateHz) {
    /// Longer sounds are heard up to here.
    private static final int LONGEST_SECONDS = 60;

    public static LoadedSound of(FrameSource source) throws IOException { return of(source, LONGEST_SECONDS); }

    /// @param longestSeconds up to which it is read
    public static LoadedSound of(FrameSource source, int longestSeconds) throws IOException {
        try (source) {
            int frames = (int) Math.min(source.frames(), (long) longestSeconds * source.rateHz());
            double[][] planes = new double[source.channels()][frames];
            source.readFully(planes, 0, frames);
            return new LoadedSound(planes.length > 2 ? Arrays.copyOf(planes, 2) : planes, source.rateHz());
        }
    }

    public int frames() { return planes[0].length; }

    long bytes() { return (long) Double.BYTES * planes.length * frames(); }

    /// The farthest sample, full scale being 1.
    public double peak() {
        double most = 0;
        for (double[] plane : planes)
            for (double sample : plane)
                most = Math.max(most, Math.abs(sample));
        return most;
    }
}
