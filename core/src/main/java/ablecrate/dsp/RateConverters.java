package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/// Converts streams to other rates; keeps what conversions by one ratio have in common. Safe for threads, its streams are not.
///
/// Frame `n` of a result is the source at `n * inputStep / outputStep` exactly. Ratios of small steps, such as those between usual
/// rates, go through the frequency domain ([SpectralConverter]). Any other ratio, such as that of a loop which is to be whole, goes there
/// as well, to a rate that holds the sound twice, and is read from that by a short interpolation ([PolyphaseInterpolator]).
public final class RateConverters {
    private record Ratio(long outputStep, long inputStep) {
        static Ratio of(long outputStep, long inputStep) {
            if (outputStep < 1 || inputStep < 1) throw new IllegalArgumentException("ratio " + outputStep + ":" + inputStep);
            long divisor = gcd(outputStep, inputStep);
            return new Ratio(outputStep / divisor, inputStep / divisor);
        }

        double outputPerInput() { return (double) outputStep / inputStep; }

        /// That of records has to be put together by the virtual machine, at every start of a command.
        @Override public int hashCode() { return Long.hashCode(31 * outputStep + inputStep); }
    }

    private final Map<Ratio, SpectralDesign> direct = new ConcurrentHashMap<>();
    private final Map<Twofold, SpectralDesign> oversampled = new ConcurrentHashMap<>();

    /// From the source's rate to another; a source that has it already comes back as it is.
    public FrameSource convert(FrameSource source, int rateHz) { return rateHz == source.rateHz() ? source : convert(source, rateHz, source.rateHz(), rateHz); }

    /// By a ratio of `outputStep` output frames to `inputStep` input frames.
    /// @param rateHz what the result is called; the ratio alone decides the sound
    public FrameSource convert(FrameSource source, long outputStep, long inputStep, int rateHz) {
        Ratio ratio = Ratio.of(outputStep, inputStep);
        if (!SpectralDesign.isPossible(ratio.inputStep, ratio.outputStep)) return interpolated(source, ratio, rateHz);
        return new SpectralConverter(source, design(ratio), rateHz);
    }

    /// Stretches in which a conversion goes on: there it can be begun, and gives the same samples as from the start.
    /// @param inputFrames,outputFrames of a stretch
    /// @param lead input frames before a stretch that take part in it
    public record Stretches(int inputFrames, int outputFrames, int lead) {}

    /// @return empty for ratios that can only be converted from the start
    public Optional<Stretches> stretches(int channels, long outputStep, long inputStep) {
        Ratio ratio = Ratio.of(outputStep, inputStep);
        return SpectralDesign.isPossible(ratio.inputStep, ratio.outputStep)
                ? Optional.of(SpectralConverter.stretches(design(ratio), channels))
                : Optional.empty();
    }

    /// As [#convert], from the start of a stretch on.
    /// @param source from [Stretches#lead] frames before it on
    public FrameSource convertOn(FrameSource source, long outputStep, long inputStep, int rateHz) {
        return SpectralConverter.goingOn(source, design(Ratio.of(outputStep, inputStep)), rateHz);
    }

    private SpectralDesign design(Ratio ratio) {
        return direct.computeIfAbsent(ratio, r -> new SpectralDesign((int) r.inputStep, (int) r.outputStep, KaiserSinc.forRatio(r.outputPerInput())));
    }

    private FrameSource interpolated(FrameSource source, Ratio ratio, int rateHz) {
        Twofold twofold = Twofold.of(ratio.outputPerInput());
        SpectralDesign design = oversampled.computeIfAbsent(twofold, Twofold::design);
        // Silence around the source, so that the filter rings before its start and after its end as it would in one step.
        int lead = twofold.leadFrames();
        FrameSource silence = new MemorySource(source.rateHz(), new double[source.channels()][lead]),
                silenceAfter = new MemorySource(source.rateHz(), new double[source.channels()][lead]);
        FrameSource wide = new SpectralConverter(new Sequence(List.of(silence, source, silenceAfter)), design, rateHz);
        long step = Math.multiplyExact(ratio.inputStep, design.outputStep), divisor = Math.multiplyExact(ratio.outputStep, design.inputStep);
        return new PolyphaseInterpolator(wide, (long) lead / design.inputStep * design.outputStep, step, divisor,
                lengthAfter(source.frames(), ratio.outputStep, ratio.inputStep), rateHz);
    }

    /// A rate that is a power of two times the input's and at least twice what the result needs.
    /// @param grid the ratio up to which everything passes, in 1/[#UNIT]; ratios that are near each other share a filter, since a folder of
    ///        loops has as many ratios as loops
    private record Twofold(int outputStep, int inputStep, int grid) {
        private static final int UNIT = 1 << 16;
        /// 32 filters an octave: of the band that the lower rate could hold up to 3 % more goes, which still leaves 0.92 of it.
        private static final int STEPS_TO_ONE = 64;

        static Twofold of(double outputPerInput) {
            double ratio = Math.min(1, outputPerInput);
            int octavesDown = 0;
            while (ratio * 2 <= 1 && 1 << octavesDown + 1 < UNIT / STEPS_TO_ONE) {
                ratio *= 2;
                octavesDown++;
            }
            int grid = (int) Math.floor(ratio * STEPS_TO_ONE + 1e-9) * (UNIT / STEPS_TO_ONE) >> octavesDown;
            return octavesDown == 0 ? new Twofold(2, 1, grid) : new Twofold(1, 1 << octavesDown - 1, grid);
        }

        SpectralDesign design() { return new SpectralDesign(inputStep, outputStep, KaiserSinc.forRatio((double) grid / UNIT)); }

        /// Input frames that the interpolation reaches to, a whole number of steps.
        int leadFrames() { return Math.ceilDiv(PolyphaseInterpolator.REACH, outputStep) * inputStep; }
    }

    /// How many input frames on each side of an output frame take part in it.
    public static int reach(long outputStep, long inputStep) {
        Twofold twofold = Twofold.of((double) outputStep / inputStep);
        return KaiserSinc.forRatio((double) twofold.grid / Twofold.UNIT).reach() + twofold.leadFrames() + 1;
    }

    /// `ceil(frames * outputStep / inputStep)`.
    public static long lengthAfter(long frames, long outputStep, long inputStep) { return Math.ceilDiv(Math.multiplyExact(frames, outputStep), inputStep); }

    private static long gcd(long a, long b) { return b == 0 ? a : gcd(b, a % b); }
}
