package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import java.util.ArrayList;
import java.util.List;

/// Listens for what does not belong into a recording: clicks, dropouts, repeated blocks, clipped runs, a stuck value.
///
/// A click is a place where the signal leaves the curve through its neighbours by far more than it does around, while it is as loud after as before:
/// an attack is louder after, an end is softer. It is looked for in x[n] − (−x[n−2] + 4x[n−1] + 4x[n+1] − x[n+2])/6, the error of cubic interpolation
/// from both sides, against its mean square on both sides of the place.
///
/// One per stream; not for two threads. Positions come in the order of the stream, those of one kind at least.
public final class FaultFinder {
    /// What is found.
    public enum Kind {
        CLICK("click"), DROPOUT("dropout"), REPEAT("repeated block"), CLIPPED("clipped run"), STUCK("stuck value"), NO_NUMBER(
                "frame that is no number"),
        UNDECODED("stretch that cannot be decoded");

        private final String label;

        Kind(String label) { this.label = label; }

        public String label() { return label; }
    }

    /// @param frames half-open, in the stream
    public record Fault(Kind kind, FrameRange frames) {}

    /// Longer than this is no click but a gap.
    public static final double LONGEST_CLICK_MS = 2;
    private static final int MOST = 1000, SIDE = 256, EDGE = 3;
    /// Of a click against its surroundings, in their mean square: 26 dB.
    private static final double CLICK_RATIO = ClickEdges.CLICK_RATIO;
    private static final double QUIETEST_CLICK = ClickEdges.QUIETEST_CLICK, LOUDER_AFTER = 16, AUDIBLE = 0.004,
            // More than the steps of 8 bits, which fall silent and come back by themselves.
            EDGE_OF_DROPOUT = 0.02, FULL_SCALE = 0.9999;
    private static final double SHORTEST_DROPOUT_MS = 0.5, LONGEST_DROPOUT_MS = 500, SHORTEST_STUCK_MS = 50;
    private static final int SHORTEST_CLIP = 4;
    private static final int[] BLOCKS = {256, 441, 480, 512, 576, 882, 960, 1024, 1152, 2048, 4096};

    private final List<Fault> faults = new ArrayList<>();
    private final Channel[] channels;
    private final int rateHz;
    private final int longestClick, shortestDropout, longestDropout, shortestStuck;
    private long position;
    private long count;

    public FaultFinder(int rateHz, int channels) {
        this.rateHz = rateHz;
        longestClick = (int) Math.max(1, LONGEST_CLICK_MS * rateHz / 1000);
        shortestDropout = (int) (SHORTEST_DROPOUT_MS * rateHz / 1000);
        longestDropout = (int) (LONGEST_DROPOUT_MS * rateHz / 1000);
        shortestStuck = (int) (SHORTEST_STUCK_MS * rateHz / 1000);
        this.channels = new Channel[channels];
        for (int i = 0; i < channels; i++)
            this.channels[i] = new Channel();
    }

    /// @param planes `[channel][frame]`
    public void add(double[][] planes, int frames) {
        for (int channel = 0; channel < channels.length; channel++)
            channels[channel].add(planes[channel], frames);
        position += frames;
    }

    /// So many clicks a second are no damage but what the sound is made of: a creak, a rattle, rain.
    private static final int TEXTURE_PER_SECOND = 8;

    /// What was found, in the order of the stream; the first thousand.
    public List<Fault> finish() {
        for (Channel channel : channels)
            channel.end();
        List<Fault> sorted = new ArrayList<>();
        for (Fault fault : faults.stream().sorted(java.util.Comparator.comparingLong((Fault f) -> f.frames().start())).toList()) {
            Fault last = sorted.isEmpty() ? null : sorted.getLast();
            boolean isSame = last != null && last.kind() == fault.kind() && fault.frames().start() <= last.frames().end() + EDGE;
            if (isSame)
                sorted.set(sorted.size() - 1,
                        new Fault(last.kind(), new FrameRange(last.frames().start(), Math.max(last.frames().end(), fault.frames().end()))));
            else
                sorted.add(fault);
        }
        long clicks = sorted.stream().filter(f -> f.kind() == Kind.CLICK).count();
        boolean isTexture = clicks >= TEXTURE_PER_SECOND && clicks > TEXTURE_PER_SECOND * (double) position / rateHz;
        return isTexture ? sorted.stream().filter(f -> f.kind() != Kind.CLICK).toList() : sorted;
    }

    private void found(Kind kind, long start, long end) {
        if (count++ < MOST && end > start) faults.add(new Fault(kind, new FrameRange(Math.max(0, start), end)));
    }

    /// One channel's latest past, in a ring.
    private final class Channel {
        private static final int RING = 1 << 14, MASK = RING - 1;

        private final double[] x = new double[RING], error = new double[RING];
        /// Running sums over the ring, so that a mean over any stretch costs two looks.
        private final double[] errorSum = new double[RING], levelSum = new double[RING];
        private final int[] matched = new int[BLOCKS.length];
        private long at, zeroFrom = -1, sameFrom = 0, clickFrom = -1, clickTo = -1;
        private double beforeZero;

        void add(double[] plane, int frames) {
            for (int i = 0; i < frames; i++)
                take(plane[i]);
        }

        private double x(long n) { return n < 0 ? 0 : x[(int) n & MASK]; }

        private void take(double value) {
            long n = at++;
            x[(int) n & MASK] = value;
            runs(n, value);
            repeats(n, value);
            long m = n - 2;
            double e = m < 2 ? 0 : x(m) - (-x(m - 2) + 4 * x(m - 1) + 4 * x(m + 1) - x(m + 2)) / 6;
            if (m >= 0) {
                int here = (int) m & MASK, before = (int) (m - 1) & MASK;
                error[here] = e;
                errorSum[here] = (m == 0 ? 0 : errorSum[before]) + e * e;
                levelSum[here] = (m == 0 ? 0 : levelSum[before]) + x(m) * x(m);
            }
            long click = m - SIDE - longestClick - EDGE;
            if (click >= SIDE) click(click);
        }

        private double mean(double[] sums, long from, long to) { return (sums[(int) (to - 1) & MASK] - sums[(int) (from - 1) & MASK]) / (to - from); }

        /// Looks at frame n, around which enough is known on both sides.
        private void click(long n) {
            double e = error[(int) n & MASK];
            boolean stands = Math.abs(e) > QUIETEST_CLICK && n > SIDE && isAlone(n, e * e);
            if (stands) {
                if (clickFrom < 0) clickFrom = n;
                clickTo = n + 1;
            }
            if (clickFrom >= 0 && n - clickTo > longestClick) endClick();
        }

        private boolean isAlone(long n, double square) {
            long away = longestClick + EDGE;
            double before = mean(errorSum, n - SIDE + 1, Math.max(n - SIDE + 2, n - EDGE)), after = mean(errorSum, n + away, n + away + SIDE);
            if (square < CLICK_RATIO * Math.max(before, after)) return false;
            double levelBefore = mean(levelSum, n - SIDE + 1, n - EDGE), levelAfter = mean(levelSum, n + away, n + away + SIDE);
            double loud = Math.max(levelBefore, levelAfter), soft = Math.min(levelBefore, levelAfter);
            return loud <= LOUDER_AFTER * soft || loud < QUIETEST_CLICK * QUIETEST_CLICK / 16;
        }

        private void endClick() {
            // The error reaches one frame beyond what is wrong, on both sides.
            if (clickTo - clickFrom <= longestClick)
                found(Kind.CLICK, clickFrom + (clickTo - clickFrom > 2 ? 1 : 0), clickTo - (clickTo - clickFrom > 2 ? 1 : 0));
            clickFrom = -1;
        }

        private void runs(long n, double value) {
            if (value == 0) {
                if (zeroFrom < 0) {
                    zeroFrom = n;
                    beforeZero = x(n - 1);
                }
            } else
                if (zeroFrom >= 0) {
                    long length = n - zeroFrom;
                    boolean isAbrupt = Math.abs(beforeZero) > EDGE_OF_DROPOUT && Math.abs(value) > EDGE_OF_DROPOUT;
                    if (isAbrupt && length >= shortestDropout && length <= longestDropout) found(Kind.DROPOUT, zeroFrom, n);
                    zeroFrom = -1;
                }
            if (n > 0 && value == x(n - 1)) return;
            endSame(n);
            sameFrom = n;
        }

        private void endSame(long end) {
            if (end == 0) return;
            double value = Math.abs(x(end - 1));
            long length = end - sameFrom;
            if (value >= FULL_SCALE && length >= SHORTEST_CLIP) found(Kind.CLIPPED, sameFrom, end);
            else
                if (value > AUDIBLE && length >= shortestStuck) found(Kind.STUCK, sameFrom, end);
        }

        /// A block that comes twice. What goes on repeating is a tone, not a fault.
        private void repeats(long n, double value) {
            for (int i = 0; i < BLOCKS.length; i++) {
                int lag = BLOCKS[i];
                if (n >= lag && value == x(n - lag)) {
                    matched[i]++;
                    continue;
                }
                if (matched[i] >= lag && matched[i] < 2 * lag && isBusy(n - matched[i], n)) found(Kind.REPEAT, n - matched[i], n);
                matched[i] = 0;
            }
        }

        /// Whether a stretch holds enough different samples to be something that cannot come twice by chance.
        private boolean isBusy(long from, long to) {
            int changes = 0, turns = 0;
            for (long i = from + 2; i < Math.min(to, from + 256); i++) {
                if (x(i) != x(i - 1)) changes++;
                if ((x(i) - x(i - 1)) * (x(i - 1) - x(i - 2)) < 0) turns++;
            }
            return changes > 200 && turns > 4;
        }

        void end() {
            if (clickFrom >= 0) endClick();
            endSame(at);
        }
    }
}
