package ablecrate.detect;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.dsp.Decibels;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;

/// What lies between silences.
public final class Gaps {
    private static final double SILENT_DB = -60, GAP_SECONDS = 0.1;
    private static final int BLOCK = 4096;

    private Gaps() {}

    /// @param stopped asked now and then
    /// @return stretches that sound, in order; silences between them last a tenth of a second or more below −60 dBFS
    public static List<FrameRange> sounding(FrameSource source, BooleanSupplier stopped) throws IOException {
        double[][] planes = new double[source.channels()][BLOCK];
        double least = Decibels.toFactor(SILENT_DB);
        long gap = (long) (GAP_SECONDS * source.rateHz()), position = 0, start = -1, last = 0;
        List<FrameRange> out = new ArrayList<>();
        for (int got; (got = source.read(planes, 0, BLOCK)) > 0 && !stopped.getAsBoolean(); position += got)
            for (int i = 0; i < got; i++) {
                boolean sounds = false;
                for (double[] plane : planes)
                    sounds |= Math.abs(plane[i]) > least;
                if (!sounds) continue;
                long at = position + i;
                if (start >= 0 && at - last > gap) {
                    out.add(new FrameRange(start, last + 1));
                    start = -1;
                }
                if (start < 0) start = at;
                last = at;
            }
        if (start >= 0) out.add(new FrameRange(start, last + 1));
        return out;
    }
}
