package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.ChannelMixer;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.FrameSlice;
import ablecrate.dsp.RateConverters;
import ablecrate.dsp.Sequence;
import ablecrate.dsp.SpectrumMeter;
import java.io.Closeable;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.BooleanSupplier;

/// A result laid over its source, frame upon frame: both at the source's rate, with the result's channels.
///
/// The null test takes the result from the source after the gain that leaves least: g = Σ s·r / Σ r². What is left is all that packing did besides.
public final class AbComparison implements Closeable {
    private static final int BLOCK = 8192;

    private final FrameSource source, result;

    private AbComparison(FrameSource source, FrameSource result) {
        this.source = source;
        this.result = result;
    }

    /// @param sourceChain the way from the source to the result, which says what lies upon what
    /// @param result the packed file
    public static AbComparison open(SoundFile sourceFile, SourceChain sourceChain, SoundFile result) throws IOException {
        var whole = sourceFile.open();
        FrameSource back;
        try {
            whole.seek(sourceChain.part().start());
            FrameSource packed = withoutRoom(sourceChain, result);
            back = sourceChain.convertsRate()
                    ? new RateConverters().convert(packed, sourceChain.inputStep(), sourceChain.outputStep(), sourceFile.rateHz())
                    : packed;
        } catch (IOException e) {
            whole.close();
            throw e;
        }
        FrameSource used = SoundPath.taken(whole, sourceChain.part().start(), sourceChain.part().end());
        boolean keeps = sourceChain.mix().keeps(sourceFile.channels());
        return new AbComparison(keeps ? used : new ChannelMixer(used, sourceChain.mix().toArray()), back);
    }

    /// Without the frames that were put between a loop and what follows it.
    private static FrameSource withoutRoom(SourceChain sourceChain, SoundFile result) throws IOException {
        Optional<LoopCarry> loop = sourceChain.loop().filter(l -> l.room().onward() > 0);
        if (loop.isEmpty()) return result.open();
        long from = loop.get().to().end(), to = Math.min(from + loop.get().room().onward() - loop.get().room().skipped(), result.frames());
        return new Sequence(List.of(new FrameSlice(result.open(), 0, from), new FrameSlice(result.open(), to, result.frames())));
    }

    public int rateHz() { return source.rateHz(); }

    public int channels() { return source.channels(); }

    public long frames() { return source.frames(); }

    /// Reads the same frames of both; what the result lacks at its end is silence.
    /// @return how many; 0 at the end of the source
    public int read(double[][] fromSource, double[][] fromResult, int count) throws IOException {
        int n = source.readFully(fromSource, 0, count), got = result.readFully(fromResult, 0, n);
        for (double[] plane : fromResult)
            Arrays.fill(plane, got, Math.max(got, n), 0);
        return n;
    }

    /// What a comparison found.
    /// @param gainDb that brings the result to the source's level
    /// @param sourceRmsDbfs,differenceRmsDbfs,differencePeakDbfs empty where there is nothing: digital silence
    public record Found(double gainDb, OptionalDouble sourceRmsDbfs, OptionalDouble differenceRmsDbfs, OptionalDouble differencePeakDbfs,
            SpectrumMeter.Spectrum source, SpectrumMeter.Spectrum result, SpectrumMeter.Spectrum difference) {
        /// How far the difference lies below the source; empty for a perfect null.
        public OptionalDouble nullDb() {
            return differenceRmsDbfs.isPresent() && sourceRmsDbfs.isPresent()
                    ? OptionalDouble.of(differenceRmsDbfs.getAsDouble() - sourceRmsDbfs.getAsDouble())
                    : OptionalDouble.empty();
        }
    }

    /// @param stopped asked now and then
    /// @return empty if it was stopped
    public static Optional<Found> compare(SoundFile sourceFile, SourceChain sourceChain, SoundFile resultFile, BooleanSupplier stopped) throws IOException {
        double cross = 0, square = 0, sourceSquare = 0;
        SpectrumMeter sourceSpectrum, resultSpectrum;
        try (AbComparison both = open(sourceFile, sourceChain, resultFile)) {
            sourceSpectrum = new SpectrumMeter(both.rateHz(), both.channels());
            resultSpectrum = new SpectrumMeter(both.rateHz(), both.channels());
            double[][] s = new double[both.channels()][BLOCK], r = new double[both.channels()][BLOCK];
            for (int n; (n = both.read(s, r, BLOCK)) > 0;) {
                if (stopped.getAsBoolean()) return Optional.empty();
                sourceSpectrum.add(s, n);
                resultSpectrum.add(r, n);
                for (int channel = 0; channel < s.length; channel++)
                    for (int i = 0; i < n; i++) {
                        cross += s[channel][i] * r[channel][i];
                        square += r[channel][i] * r[channel][i];
                        sourceSquare += s[channel][i] * s[channel][i];
                    }
            }
        }
        double gain = square == 0 || cross <= 0 ? 1 : cross / square, left = 0, peak = 0;
        SpectrumMeter difference;
        long samples;
        try (AbComparison both = open(sourceFile, sourceChain, resultFile)) {
            difference = new SpectrumMeter(both.rateHz(), both.channels());
            samples = both.frames() * both.channels();
            double[][] s = new double[both.channels()][BLOCK], r = new double[both.channels()][BLOCK];
            for (int n; (n = both.read(s, r, BLOCK)) > 0;) {
                if (stopped.getAsBoolean()) return Optional.empty();
                for (int channel = 0; channel < s.length; channel++)
                    for (int i = 0; i < n; i++) {
                        double d = s[channel][i] - gain * r[channel][i];
                        s[channel][i] = d;
                        left += d * d;
                        peak = Math.max(peak, Math.abs(d));
                    }
                difference.add(s, n);
            }
        }
        return Optional
                .of(new Found(Decibels.ofFactor(gain), db(Math.sqrt(sourceSquare / samples)), db(Math.sqrt(left / samples)), db(peak), sourceSpectrum.finish(),
                        resultSpectrum.finish(), difference.finish()));
    }

    private static OptionalDouble db(double amplitude) { return amplitude == 0 ? OptionalDouble.empty() : OptionalDouble.of(Decibels.ofFactor(amplitude)); }

    @Override public void close() throws IOException {
        try (source) {
            result.close();
        }
    }
}
