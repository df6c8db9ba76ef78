package ablecrate.dsp;

import java.util.Arrays;

/// The step that is heard where a loop starts again.
///
/// Across the seam, as played, value and slope are compared: the second difference of a smooth wave is what its curve asks
/// for, a step adds to it. What exceeds the curve of the wave around is the step, given in dB against the local RMS. A wave that
/// goes on smoothly has none.
public final class Seam {
    /// Frames before the end and from the start that are looked at.
    public static final int AROUND = 256;
    /// Loops shorter than this may be a single cycle, whose own shape cannot be told from a step.
    public static final int SHORTEST = 128;
    /// What counts as no step at all.
    public static final double NONE_DB = -96;

    private Seam() {}

    /// The step where a loop turns and goes back the way it came; its last frame is played once.
    /// @param beforeTurn `[channel][frame]`, what is played up to the turn
    public static double turnDb(double[][] beforeTurn) {
        double[][] back = backward(beforeTurn);
        return stepDb(beforeTurn, Arrays.stream(back).map(plane -> Arrays.copyOfRange(plane, 1, plane.length)).toArray(double[][]::new));
    }

    /// The same frames in the other order.
    public static double[][] backward(double[][] planes) {
        double[][] out = new double[planes.length][planes[0].length];
        for (int channel = 0; channel < out.length; channel++)
            for (int i = 0; i < out[channel].length; i++)
                out[channel][i] = planes[channel][out[channel].length - 1 - i];
        return out;
    }

    /// @param beforeEnd `[channel][frame]`, what is played last
    /// @param afterStart what is played then
    /// @return the step in dB, [#NONE_DB] or more
    public static double stepDb(double[][] beforeEnd, double[][] afterStart) {
        double worst = NONE_DB;
        for (int channel = 0; channel < beforeEnd.length; channel++) {
            int before = beforeEnd[channel].length, length = before + afterStart[channel].length;
            double[] x = new double[length];
            System.arraycopy(beforeEnd[channel], 0, x, 0, before);
            System.arraycopy(afterStart[channel], 0, x, before, length - before);
            double atSeam = 0, elsewhere = 0, power = 0;
            for (int i = 0; i < length; i++) {
                power += x[i] * x[i];
                if (i < 1 || i > length - 2) continue;
                double bend = Math.abs(x[i - 1] - 2 * x[i] + x[i + 1]);
                // Two second differences reach across the seam.
                if (i == before - 1 || i == before)
                    atSeam = Math.max(atSeam, bend);
                else
                    elsewhere = Math.max(elsewhere, bend);
            }
            if (power == 0) continue;
            double step = Math.sqrt(Math.max(0, atSeam * atSeam - elsewhere * elsewhere));
            worst = Math.max(worst, Decibels.ofFactor(step / Math.sqrt(power / length)));
        }
        return worst;
    }

    /// How far what is played last is from what leads to the start, as the jump back makes of it.
    /// @param stepDb of the value, in dB of the RMS around; [#NONE_DB] or more
    /// @param slopeDb of the slope from frame to frame, likewise
    public record Gap(double stepDb, double slopeDb) {}

    /// @param played `[channel][frame]`, what is played up to the end; two frames at least
    /// @param lead what the source has before the start
    /// @return the worst of the channels
    public static Gap gap(double[][] played, double[][] lead) {
        double step = 0, slope = 0;
        for (int channel = 0; channel < played.length; channel++) {
            double[] x = played[channel], y = lead[channel];
            double power = 0;
            for (double v : x)
                power += v * v;
            double rms = Math.sqrt(power / x.length);
            if (rms == 0) continue;
            double last = x[x.length - 1] - y[y.length - 1], before = x[x.length - 2] - y[y.length - 2];
            step = Math.max(step, Math.abs(last) / rms);
            slope = Math.max(slope, Math.abs(last - before) / rms);
        }
        return new Gap(Math.max(NONE_DB, Decibels.ofFactor(step)), Math.max(NONE_DB, Decibels.ofFactor(slope)));
    }
}
