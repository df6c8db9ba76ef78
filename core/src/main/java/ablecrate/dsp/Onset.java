package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.OptionalLong;

/// Where a sound begins to be heard.
///
/// The first frame that reaches a quarter of the highest within 20 ms after the end of silence: what an encoder smears before an attack stays below that, and the
/// foot of a soft start is passed in both of two sounds that are compared.
public final class Onset {
    private static final double SILENCE = 0.001, REACHED = 0.25, AFTER_SECONDS = 0.02;
    private static final int BLOCK = 4096;

    private Onset() {}

    /// @return empty for a sound that is silent throughout
    public static OptionalLong first(FrameSource source) throws IOException {
        double[][] block = new double[source.channels()][BLOCK];
        double[] after = new double[(int) Math.max(1, AFTER_SECONDS * source.rateHz())];
        int held = 0;
        long position = 0, begins = -1;
        for (int got; held < after.length && (got = source.read(block, 0, BLOCK)) > 0; position += got)
            for (int i = 0; i < got && held < after.length; i++) {
                double highest = 0;
                for (double[] plane : block)
                    highest = Math.max(highest, Math.abs(plane[i]));
                if (begins < 0 && highest > SILENCE) begins = position + i;
                if (begins >= 0) after[held++] = highest;
            }
        double peak = 0;
        for (int i = 0; i < held; i++)
            peak = Math.max(peak, after[i]);
        for (int i = 0; i < held; i++)
            if (after[i] >= REACHED * peak) return OptionalLong.of(begins + i);
        return OptionalLong.empty();
    }
}
