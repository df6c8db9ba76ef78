package ablecrate.standins;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleConsumer;
import java.util.function.IntPredicate;

/// All clips of a session together, in stereo. A sound at another rate is read between its samples by a windowed sinc, point by point.
///
/// Source of the window: J. F. Kaiser, R. W. Schafer, *On the use of the I0-sinh window for spectrum analysis*, IEEE Trans. ASSP 28(1), 1980.
public final class SessionMix {
    private static final int BLOCK = 1 << 16, REACH = 128, MOST_TAPS = 1000;
    private static final double BETA = 12;

    private final SessionHost.Opened session;
    private final Map<Integer, Map<Integer, double[]>> taps = new HashMap<>();

    private static final double CLICK_SECONDS = 0.03, CLICK_LEVEL = 0.25, CLICK_FALL_SECONDS = 0.006, CLICK_HZ = 1000, FIRST_CLICK_HZ = 2000;

    private final IntPredicate heard;
    private final BooleanSupplier clicks;

    public SessionMix(SessionHost.Opened session) { this(session, _ -> true, () -> false); }

    /// @param heard asked for each block which tracks sound, from 0
    /// @param clicks asked for each block whether the beats are heard as well
    public SessionMix(SessionHost.Opened session, IntPredicate heard, BooleanSupplier clicks) {
        this.session = session;
        this.heard = heard;
        this.clicks = clicks;
    }

    /// @return `[left, right]` of a part of the time line
    public double[][] render(long from, int count) throws IOException {
        double[][] mix = new double[2][count];
        for (SessionHost.Clip clip : session.clips()) {
            long first = Math.max(from, clip.start()), end = Math.min(from + count, clip.start() + clip.length());
            if (first < end && heard.test(clip.track())) add(clip, first - clip.start(), (int) (end - first), mix, (int) (first - from));
        }
        if (clicks.getAsBoolean()) click(from, mix);
        return mix;
    }

    /// A short tone on each beat, higher on the first of a bar.
    private void click(long from, double[][] mix) {
        int length = (int) (CLICK_SECONDS * session.rateHz());
        for (Beats.Beat beat : session.beats().between(Math.max(0, from - length), from + mix[0].length)) {
            double step = 2 * Math.PI * (beat.isFirst() ? FIRST_CLICK_HZ : CLICK_HZ) / session.rateHz();
            for (int i = (int) Math.max(0, from - beat.frame()); i < length && beat.frame() + i < from + mix[0].length; i++) {
                double tone = CLICK_LEVEL * Math.sin(step * i) * Math.exp(-i / (CLICK_FALL_SECONDS * session.rateHz()));
                for (double[] side : mix)
                    side[(int) (beat.frame() + i - from)] += tone;
            }
        }
    }

    private void add(SessionHost.Clip clip, long into, int count, double[][] mix, int at) throws IOException {
        double[][] planes = clip.sound().rateHz() == session.rateHz() ? clip.sound().read(clip.offset() + into, count) : converted(clip, into, count);
        double gain = Math.pow(10, clip.gainDb() / 20);
        for (int side = 0; side < 2; side++) {
            double[] plane = planes[Math.min(side, planes.length - 1)];
            double level = gain * Math.min(1, side == 0 ? 1 - clip.pan() : 1 + clip.pan());
            for (int i = 0; i < count; i++)
                mix[side][at + i] += plane[i] * level * fade(clip, into + i);
        }
    }

    private static double fade(SessionHost.Clip clip, long frame) {
        double in = clip.fadeIn() == 0 ? 1 : Math.min(1, (double) frame / clip.fadeIn());
        return clip.fadeOut() == 0 ? in : in * Math.min(1, (double) (clip.length() - frame) / clip.fadeOut());
    }

    private double[][] converted(SessionHost.Clip clip, long into, int count) throws IOException {
        HostSound sound = clip.sound();
        double step = (double) sound.rateHz() / session.rateHz(), cutoff = Math.min(1, 1 / step);
        int reach = (int) Math.ceil(REACH / cutoff);
        // Whole frames and the rest of one, so that a late place is as exact as an early one.
        long whole = into * sound.rateHz() / session.rateHz(), rest = into * sound.rateHz() % session.rateHz();
        long first = clip.offset() + whole - reach;
        int needed = (int) (count * step) + 2 * reach + 2, skipped = (int) Math.max(0, -first);
        double[][] read = sound.read(Math.max(0, first), needed - skipped), out = new double[read.length][count];
        for (int channel = 0; channel < read.length; channel++) {
            double[] from = new double[needed];
            System.arraycopy(read[channel], 0, from, skipped, read[channel].length);
            for (int i = 0; i < count; i++) {
                long place = rest + (long) i * sound.rateHz();
                double[] taps = taps((int) (place % session.rateHz()), cutoff, reach);
                int at = (int) (place / session.rateHz()) + 1;
                double sum = 0;
                for (int k = 0; k < taps.length; k++)
                    sum += from[at + k] * taps[k];
                out[channel][i] = sum;
            }
        }
        return out;
    }

    /// The filter for a place so many parts of a frame behind a frame; between usual rates there are few of them.
    private double[] taps(int part, double cutoff, int reach) {
        double[] known = taps.computeIfAbsent(reach, _ -> new HashMap<>()).get(part);
        if (known != null) return known;
        double[] made = new double[2 * reach];
        for (int k = 0; k < made.length; k++) {
            double t = (double) part / session.rateHz() - (k + 1 - reach), x = Math.PI * t * cutoff;
            made[k] = (Math.abs(x) < 1e-9 ? 1 : Math.sin(x) / x) * cutoff * window(t / reach);
        }
        if (taps.get(reach).size() < MOST_TAPS) taps.get(reach).put(part, made);
        return made;
    }

    private static double window(double w) { return Math.abs(w) >= 1 ? 0 : bessel(BETA * Math.sqrt(1 - w * w)) / bessel(BETA); }

    private static double bessel(double x) {
        double sum = 1, term = 1;
        for (int k = 1; term > sum * 1e-17; k++) {
            term *= x / 2 / k * (x / 2 / k);
            sum += term;
        }
        return sum;
    }

    /// A WAV file of 32 bit float.
    public void write(Path file) throws IOException {
        long bytes = session.frames() * 8;
        if (bytes > Integer.toUnsignedLong(-1) - 100) throw new IOException("the mix is longer than a WAV file can be");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), 1 << 16)) {
            ByteBuffer head = ByteBuffer.allocate(58).order(ByteOrder.LITTLE_ENDIAN);
            head.put(ascii("RIFF")).putInt((int) (bytes + 50)).put(ascii("WAVEfmt ")).putInt(18).putShort((short) 3).putShort((short) 2)
                    .putInt(session.rateHz())
                    .putInt(session.rateHz() * 8).putShort((short) 8).putShort((short) 32).putShort((short) 0);
            head.put(ascii("fact")).putInt(4).putInt((int) session.frames()).put(ascii("data")).putInt((int) bytes);
            out.write(head.array());
            for (long at = 0; at < session.frames(); at += BLOCK) {
                double[][] mix = render(at, (int) Math.min(BLOCK, session.frames() - at));
                ByteBuffer block = ByteBuffer.allocate(mix[0].length * 8).order(ByteOrder.LITTLE_ENDIAN);
                for (int i = 0; i < mix[0].length; i++)
                    block.putFloat((float) mix[0][i]).putFloat((float) mix[1][i]);
                out.write(block.array());
            }
        }
    }

    /// What is left of one mix where another is taken from it.
    /// @param peakDb,rmsDb in dB below full scale; −∞ where they are the same
    /// @param belowHz where converters of any kind agree: nearer to half of the lowest rate each leaves away what it likes
    public record Difference(double peakDb, double rmsDb, double belowHz) {}

    /// @param earlier mix of the session, at the same rate
    /// @param lowestRateHz of the sounds in both
    /// @param progress told the share that is compared
    /// @param stopped asked now and then; once it is true, what was compared so far is the result
    public Difference difference(SessionMix earlier, int lowestRateHz, DoubleConsumer progress, BooleanSupplier stopped) throws IOException {
        double below = 0.85 * lowestRateHz / 2, peak = 0, energy = 0;
        double[] lowPass = lowPass((below + 0.05 * lowestRateHz / 2) / session.rateHz());
        long frames = Math.max(earlier.session.frames(), session.frames());
        double[][] last = new double[2][lowPass.length];
        for (long at = 0; at < frames + lowPass.length && !stopped.getAsBoolean(); at += BLOCK) {
            progress.accept((double) at / frames);
            double[][] a = earlier.render(at, BLOCK), b = render(at, BLOCK);
            for (int side = 0; side < 2; side++) {
                double[] d = new double[lowPass.length + BLOCK];
                System.arraycopy(last[side], 0, d, 0, lowPass.length);
                for (int i = 0; i < BLOCK; i++)
                    d[lowPass.length + i] = a[side][i] - b[side][i];
                System.arraycopy(d, BLOCK, last[side], 0, lowPass.length);
                if (Arrays.stream(d).allMatch(x -> x == 0)) continue;
                for (int i = 0; i < BLOCK; i++) {
                    double left = 0;
                    for (int k = 0; k < lowPass.length; k++)
                        left += lowPass[k] * d[i + k];
                    peak = Math.max(peak, Math.abs(left));
                    energy += left * left;
                }
            }
        }
        return new Difference(20 * Math.log10(peak), 10 * Math.log10(energy / Math.max(1, frames) / 2), below);
    }

    /// @param cutoff in cycles a frame
    private static double[] lowPass(double cutoff) {
        double[] taps = new double[2 * REACH + 1];
        for (int k = -REACH; k <= REACH; k++) {
            double x = 2 * Math.PI * cutoff * k;
            taps[k + REACH] = 2 * cutoff * (k == 0 ? 1 : Math.sin(x) / x) * window((double) k / (REACH + 1));
        }
        return taps;
    }

    private static byte[] ascii(String text) { return text.getBytes(StandardCharsets.US_ASCII); }
}
