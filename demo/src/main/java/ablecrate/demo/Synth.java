package ablecrate.demo;

import java.util.SplittableRandom;

/// The instruments of the puppet theatre: struck glass and tin, blown bottles, plucked wire, rubbed wood, wind.
/// Everything is at the rate that it is made for; amplitude 1.0 is 0 dBFS.
final class Synth {
    private final int rateHz;
    private final SplittableRandom random;

    Synth(int rateHz, long seed) {
        this.rateHz = rateHz;
        this.random = new SplittableRandom(seed);
    }

    static double hertz(int midiKey) { return 440 * Math.pow(2, (midiKey - 69) / 12.0); }

    private int frames(double seconds) { return (int) Math.round(seconds * rateHz); }

    /// Something struck: modes that ring on, each with its ratio, level and time to fall by 60 dB; a knock of noise before them.
    /// @param hardness 0 soft…1 hard: how much of the high modes and of the knock is heard
    double[] strike(double hz, double[] ratios, double seconds, double hardness) {
        double[] out = new double[frames(seconds)];
        for (int mode = 0; mode < ratios.length; mode++) {
            double f = hz * ratios[mode];
            if (f > 0.45 * rateHz) continue;
            double level = Math.pow(0.25 + 0.6 * hardness, mode) / (1 + 0.3 * mode), t60 = seconds * 0.9 / (1 + 0.9 * mode);
            double phase = random.nextDouble() * 0.3, decay = Math.pow(10, -3 / (t60 * rateHz)), envelope = level;
            for (int n = 0; n < out.length; n++, envelope *= decay)
                out[n] += envelope * Math.sin(2 * Math.PI * f * n / rateHz + phase * mode);
        }
        double[] knock = noise(Math.min(0.03, seconds), hz * 3, 1.2);
        for (int n = 0; n < knock.length; n++)
            out[n] += knock[n] * hardness * 1.2 * Math.exp(-n / (0.004 * rateHz));
        ramp(out, 0.0008);
        return fadeEnd(out, Math.min(0.08, seconds / 4));
    }

    /// A bottle that is blown, with a steady part that repeats exactly every `loopFrames`.
    /// @param loopStart first frame of the steady part
    double[] bottle(int loopStart, int loopFrames, int cycles, double release, double breath) {
        int length = loopStart + loopFrames + frames(release);
        double hz = (double) cycles * rateHz / loopFrames;
        double[] out = new double[length], air = band(whiteCircle(loopFrames), hz * 2, 1.5, true);
        for (int n = 0; n < length; n++) {
            double t = (double) n / rateHz, rise = 1 - Math.exp(-t / 0.045);
            double tone = 0;
            double[] levels = {1, 0.22, 0.3, 0.06, 0.09, 0.03};
            for (int h = 0; h < levels.length; h++)
                if ((h + 1) * hz < 0.45 * rateHz)
                    tone += levels[h] * Math.pow(rise, 1 + 0.6 * h)
                            * Math.sin(2 * Math.PI * cycles * (h + 1) * ((double) Math.floorMod(n - loopStart, loopFrames) / loopFrames) + h);
            double puff = Math.exp(-t / 0.05) * 1.6;
            double fall = n < loopStart + loopFrames
                    ? 1
                    : Math.pow(1 - (double) (n - loopStart - loopFrames) / Math.max(1, length - loopStart - loopFrames), 2);
            // In the steady part everything but the exact cycle has died away to nothing that matters.
            double settle = n >= loopStart ? 1 : rise;
            out[n] = fall * (0.6 * tone * settle + breath * (1 + puff) * air[Math.floorMod(n - loopStart, loopFrames)]);
        }
        ramp(out, 0.004);
        return out;
    }

    /// A plucked wire: a delay line that loses its highs at each pass.
    /// Source: K. Karplus, A. Strong, *Digital synthesis of plucked-string and drum timbres*, CMJ 7(2), 1983.
    double[] pluck(double hz, double seconds, double brightness) {
        double[] out = new double[frames(seconds)];
        double period = rateHz / hz - 0.5;
        int delay = (int) period;
        double rest = period - delay, allpass = (1 - rest) / (1 + rest);
        double[] line = new double[delay];
        double smooth = 0;
        for (int i = 0; i < delay; i++) {
            smooth += (0.15 + 0.85 * brightness) * (random.nextDouble() * 2 - 1 - smooth);
            line[i] = smooth;
        }
        double last = 0, lastIn = 0, lastOut = 0, loss = Math.pow(10, -3 / (hz * seconds * 1.1));
        for (int n = 0; n < out.length; n++) {
            int at = n % delay;
            double averaged = loss * 0.5 * (line[at] + last);
            last = line[at];
            double tuned = allpass * averaged + lastIn - allpass * lastOut;
            lastIn = averaged;
            lastOut = tuned;
            out[n] = line[at];
            line[at] = tuned;
        }
        ramp(out, 0.001);
        return fadeEnd(out, 0.05);
    }

    /// Wood on wood: sticks, slips, and the boards answer.
    double[] creak(double startHz, double endHz, double seconds) {
        double[] out = new double[frames(seconds)];
        double phase = 0, jitter = 1;
        for (int n = 0; n < out.length; n++) {
            double x = (double) n / out.length, hz = startHz * Math.pow(endHz / startHz, x) * jitter;
            phase += hz / rateHz;
            if (phase >= 1) {
                phase -= 1;
                jitter = 0.8 + 0.4 * random.nextDouble();
                out[n] += 0.7 + 0.3 * random.nextDouble();
            }
        }
        double[] low = band(out, 420, 9, false), mid = band(out, 1130, 14, false), high = band(out, 2650, 11, false);
        for (int n = 0; n < out.length; n++)
            out[n] = (low[n] + 0.8 * mid[n] + 0.5 * high[n]) * Math.sin(Math.PI * Math.min(1, (double) n / out.length));
        return out;
    }

    /// Noise in a band, as of wind, brushes or sand.
    double[] noise(double seconds, double centreHz, double q) {
        double[] white = new double[frames(seconds)];
        for (int n = 0; n < white.length; n++)
            white[n] = random.nextDouble() * 2 - 1;
        return band(white, Math.min(centreHz, 0.4 * rateHz), q, false);
    }

    private double[] whiteCircle(int frames) {
        double[] white = new double[frames];
        for (int n = 0; n < frames; n++)
            white[n] = random.nextDouble() * 2 - 1;
        return white;
    }

    /// A second-order band-pass. Source: R. Bristow-Johnson, *Cookbook formulae for audio EQ biquad filter coefficients*, BPF (from memory).
    /// @param isCircle whether the input repeats for ever: then the output does so too
    private double[] band(double[] in, double centreHz, double q, boolean isCircle) {
        double w = 2 * Math.PI * centreHz / rateHz, alpha = Math.sin(w) / (2 * q), a0 = 1 + alpha, b = alpha / a0, a1 = -2 * Math.cos(w) / a0,
                a2 = (1 - alpha) / a0;
        double x1 = 0, x2 = 0, y1 = 0, y2 = 0;
        double[] out = new double[in.length];
        for (int pass = isCircle ? 0 : 1; pass < 2; pass++)
            for (int n = 0; n < in.length; n++) {
                double y = b * (in[n] - x2) - a1 * y1 - a2 * y2;
                x2 = x1;
                x1 = in[n];
                y2 = y1;
                y1 = y;
                out[n] = y;
            }
        return out;
    }

    private void ramp(double[] x, double seconds) {
        int frames = Math.min(x.length, frames(seconds));
        for (int n = 0; n < frames; n++)
            x[n] *= (double) n / frames;
    }

    private double[] fadeEnd(double[] x, double seconds) {
        int frames = Math.min(x.length, frames(seconds));
        for (int n = 0; n < frames; n++)
            x[x.length - 1 - n] *= 0.5 - 0.5 * Math.cos(Math.PI * n / frames);
        return x;
    }

    /// Adds `part` to `mix`, from a point in seconds on.
    void add(double[] mix, double[] part, double atSeconds, double gain) {
        int at = frames(atSeconds);
        for (int n = 0; n < part.length && at + n < mix.length; n++)
            mix[at + n] += gain * part[n];
    }

    double[] silence(double seconds) { return new double[frames(seconds)]; }

    /// Scaled so that the greatest sample has this level.
    static double[] peak(double[] x, double dbfs) {
        double max = 1e-12;
        for (double v : x)
            max = Math.max(max, Math.abs(v));
        double gain = Math.pow(10, dbfs / 20) / max;
        for (int n = 0; n < x.length; n++)
            x[n] *= gain;
        return x;
    }
}
