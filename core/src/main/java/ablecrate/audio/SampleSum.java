package ablecrate.audio;

import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;

/// A checksum of samples, by which what a file gives back is compared with what was rendered: exact, whatever the container. One per stream; not for two
/// threads.
///
/// Each channel is the sum of all its samples' bits times an odd number that follows from the place, modulo 2⁶⁴: a changed, moved, missing or exchanged sample
/// changes it. It finds faults, no forgery.
public final class SampleSum {
    private static final long STEP = 0x9E3779B97F4A7C16L; // even, so that all multipliers stay odd

    private final long[] sums;
    private long frames;

    /// @param channels one number for each
    public record Value(long frames, List<Long> channels) {
        public Value {
            channels = List.copyOf(channels);
        }

        /// `88,200 frames, 1f0c…`, as the slip has it.
        @Override public String toString() { return channels.stream().map(Long::toHexString).collect(Collectors.joining("-")); }
    }

    public SampleSum(int channels) { sums = new long[channels]; }

    /// @param planes `[channel][frame]`, frames `[0, count)`
    public void add(double[][] planes, int count) {
        for (int channel = 0; channel < sums.length; channel++)
            sums[channel] += sum(planes[channel], count, frames * STEP + 1);
        frames += count;
    }

    private static long sum(double[] plane, int count, long first) {
        long sum = 0;
        for (int i = 0; i < count; i++) {
            // Minus zero is zero. The high half of a double says most of it; where few bits are in use, the low half is empty.
            long bits = Double.doubleToRawLongBits(plane[i] + 0.0);
            sum += (bits ^ bits >>> 29) * (first + i * STEP);
        }
        return sum;
    }

    public Value value() { return new Value(frames, Arrays.stream(sums).boxed().toList()); }
}
