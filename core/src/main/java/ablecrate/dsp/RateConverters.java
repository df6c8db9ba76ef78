package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/// Makes rate converters, and keeps what those of one ratio share. Made once for a run; safe for threads.
///
/// Ratios of usual rates go through the frequency domain ([SpectralConverter]); any other ratio, such as that of a loop which is to be
/// whole, through interpolated coefficients ([PolyphaseConverter]). Both rest on the same filter ([KaiserSinc]).
public final class RateConverters {
    private record Ratio(long outputStep, long inputStep) {}

    private final Map<Ratio, SpectralDesign> spectral = new ConcurrentHashMap<>();
    private final Map<Ratio, PolyphaseDesign> polyphase = new ConcurrentHashMap<>();
    private final Map<Integer, PolyphaseDesign.Table> tables = new ConcurrentHashMap<>();

    /// From the source's rate to another; a source that has it already comes back as it is.
    public FrameSource convert(FrameSource source, int rateHz) { return rateHz == source.rateHz() ? source : convert(source, rateHz, source.rateHz(), rateHz); }

    /// By a ratio of `outputStep` output frames to `inputStep` input frames.
    /// @param rateHz what the result is called; the ratio alone decides the sound
    public FrameSource convert(FrameSource source, long outputStep, long inputStep, int rateHz) {
        if (outputStep < 1 || inputStep < 1) throw new IllegalArgumentException("ratio " + outputStep + ":" + inputStep);
        long divisor = gcd(outputStep, inputStep);
        Ratio ratio = new Ratio(outputStep / divisor, inputStep / divisor);
        if (SpectralDesign.isPossible(ratio.inputStep, ratio.outputStep))
            return new SpectralConverter(source, spectral.computeIfAbsent(ratio, r -> new SpectralDesign((int) r.inputStep, (int) r.outputStep)), rateHz);
        return new PolyphaseConverter(source, polyphase.computeIfAbsent(ratio, r -> new PolyphaseDesign(r.outputStep, r.inputStep, tables)), rateHz);
    }

    /// How many input frames on each side of an output frame take part in it.
    public static int reach(long outputStep, long inputStep) { return new KaiserSinc((double) outputStep / inputStep).reach() * 33 / 32 + 1; }

    /// `ceil(frames * outputStep / inputStep)`.
    public static long lengthAfter(long frames, long outputStep, long inputStep) { return Math.ceilDiv(Math.multiplyExact(frames, outputStep), inputStep); }

    private static long gcd(long a, long b) { return b == 0 ? a : gcd(b, a % b); }
}
