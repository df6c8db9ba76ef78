package ablecrate.audio;

import java.util.List;
import java.util.stream.IntStream;

/// A checksum of samples, by which what a file gives back is compared with what was rendered: exact, whatever the container. One per stream; not for two
/// threads.
///
/// Each channel has the sum of its samples and the sum of its samples times their places, modulo 2³²: a changed, moved, missing or exchanged sample changes
/// them. It finds faults, no forgery. Integers are summed as steps of their depth, floats by their bits. Plain `int` loops without branches, most of which
/// the virtual machine turns into vectors.
public final class SampleSum {
    /// Of no meaning; of a mere sum the virtual machine makes no vectors (0.33 ns a sample instead of 0.11).
    private static final int MASK = 0x55555555;

    private final Depth depth;
    private final double scale;
    private final int[] plain, placed;
    /// `[channel][frame]`: a block.
    private int[][] steps;
    private long frames;

    /// @param channels two sums each, as one number
    public record Value(long frames, List<Long> channels) {
        public Value {
            channels = List.copyOf(channels);
        }
    }

    /// @param depth of the file; for integers samples that are not on its steps are rounded to them
    public SampleSum(int channels, Depth depth) {
        this.depth = depth;
        scale = Math.scalb(1.0, depth.bits() - 1);
        plain = new int[channels];
        placed = new int[channels];
        steps = new int[channels][0];
    }

    /// @param planes `[channel][frame]`, frames `[0, count)`, none of which lies beyond full scale
    public void add(double[][] planes, int count) {
        toSteps(planes, count);
        addUp(steps, count);
    }

    /// As [#add], but for samples that may lie beyond full scale and are not rounded yet.
    /// @return false, with nothing added, where one does lie beyond it, and for depths whose samples have to be rounded first: floats, and integers of 32 bits
    public boolean addIfWithin(double[][] planes, int count) {
        // What overflows an integer has the highest of its bits set as well; one of 32 bits has none to spare.
        boolean isWithin = !depth.isFloat() && depth.bits() < Integer.SIZE && toSteps(planes, count) >>> depth.bits() - 1 == 0;
        if (isWithin) addUp(steps, count);
        return isWithin;
    }

    /// What the latest samples were rounded to, `[channel][frame]`; good until the next are added.
    public int[][] steps() { return steps; }

    /// Samples that are whole steps of the depth already.
    public void addSteps(int[][] planes, int count) { addUp(planes, count); }

    /// @return all bits that are set in one of the integers
    private int toSteps(double[][] planes, int count) {
        int bits = 0;
        for (int channel = 0; channel < plain.length; channel++) {
            if (steps[channel].length < count) steps[channel] = new int[count];
            if (depth.isFloat())
                bits(planes[channel], count, steps[channel]);
            else
                bits |= PcmPacker.toSteps(planes[channel], count, scale, steps[channel]);
        }
        return bits;
    }

    private static void bits(double[] plane, int count, int[] to) {
        for (int i = 0; i < count; i++) {
            // Minus zero is zero.
            long bits = Double.doubleToRawLongBits(plane[i] + 0.0);
            to[i] = (int) (bits ^ bits >>> 32 ^ bits >>> 29);
        }
    }

    private void addUp(int[][] planes, int count) {
        for (int channel = 0; channel < plain.length; channel++) {
            int sum = sum(planes[channel], count);
            plain[channel] += sum;
            placed[channel] += placedSum(planes[channel], count) + (int) frames * sum;
        }
        frames += count;
    }

    private static int sum(int[] values, int count) {
        int sum = 0;
        for (int i = 0; i < count; i++)
            sum += values[i] ^ MASK;
        return sum;
    }

    private static int placedSum(int[] values, int count) {
        int sum = 0;
        for (int i = 0; i < count; i++)
            sum += (values[i] ^ MASK) * i;
        return sum;
    }

    public Value value() {
        return new Value(frames, IntStream.range(0, plain.length).mapToObj(c -> (long) plain[c] << 32 | placed[c] & 0xFFFF_FFFFL).toList());
    }
}
