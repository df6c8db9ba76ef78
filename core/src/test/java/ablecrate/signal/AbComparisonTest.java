package ablecrate.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class AbComparisonTest {
    private static final int RATE = 44_100, FRAMES = 100_000;

    @TempDir Path folder;

    private SoundFile wav(String name, int rateHz, Depth depth, double[]... planes) throws Exception {
        return SoundFormats.byId("wav").orElseThrow().read(Sounds.wav(folder.resolve(name), rateHz, depth, planes));
    }

    private static double[] noise(double amplitude) { return new Random(1).doubles(FRAMES, -amplitude, amplitude).toArray(); }

    private static AbComparison.Found compare(SoundFile source, SourceChain sourceChain, SoundFile result) throws Exception {
        return AbComparison.compare(source, sourceChain, result, () -> false).orElseThrow();
    }

    @Test void aCopyLeavesNothingAndAQuieterOneNothingButItsGain() throws Exception {
        double[] x = noise(0.5);
        SoundFile source = wav("s.wav", RATE, Depth.FLOAT_64, x);
        AbComparison.Found same = compare(source, SourceChain.whole(source), source);
        assertThat(same.differenceRmsDbfs()).isEmpty();
        assertThat(same.gainDb()).isZero();
        SoundFile quieter = wav("q.wav", RATE, Depth.FLOAT_64, java.util.Arrays.stream(x).map(v -> v / 4).toArray());
        assertThat(compare(source, SourceChain.whole(source), quieter).gainDb()).isCloseTo(12.0412, within(1e-3));
        assertThat(compare(source, SourceChain.whole(source), quieter).differenceRmsDbfs()).isEmpty();
    }

    /// Rounding to 16 bits leaves noise of 1/√12 of a step: −101.1 dBFS (step 2⁻¹⁵, RMS −10.79 dB below it).
    @Test void roundingTo16BitsLeavesItsNoise() throws Exception {
        double[] x = noise(0.5);
        SoundFile source = wav("s.wav", RATE, Depth.FLOAT_64, x), result = wav("r.wav", RATE, Depth.INT_16, x);
        AbComparison.Found found = compare(source, SourceChain.whole(source), result);
        assertThat(found.differenceRmsDbfs().orElseThrow()).isCloseTo(-90.31 - 10.79, within(0.1));
        assertThat(found.nullDb().orElseThrow()).isCloseTo(-101.1 - 20 * Math.log10(0.5 / Math.sqrt(3)), within(0.1));
    }

    /// Through another rate and back, what both rates hold comes back; the part that is used lies where it was.
    @Test void anotherRateLeavesNearlyNothing() throws Exception {
        double[] x = Sounds.signal(FRAMES, n -> 0.5 * Math.sin(2 * Math.PI * 997 * n / RATE) * Math.sin(Math.PI * n / FRAMES));
        SoundFile source = wav("s.wav", RATE, Depth.FLOAT_64, x);
        SourceChain sourceChain = new SourceChain(new ablecrate.audio.FrameRange(1000, 90_000), List.of(), ChannelMix.keep(1), 48_000, RATE, 48_000,
                java.util.Optional.empty(),
                List.of());
        double[][] converted = Sounds.readAll(new SoundPath().sourceChain(source, sourceChain));
        SoundFile result = wav("r.wav", 48_000, Depth.FLOAT_64, converted);
        assertThat(compare(source, sourceChain, result).nullDb().orElseThrow()).isLessThan(-60);
        double inner = 0;
        try (AbComparison both = AbComparison.open(source, sourceChain, result)) {
            double[][] s = new double[1][80_000], r = new double[1][80_000];
            both.read(s, r, 80_000);
            for (int i = 2000; i < 78_000; i++)
                inner = Math.max(inner, Math.abs(s[0][i] - r[0][i]));
        }
        assertThat(Sounds.db(inner)).as("away from the ends that were cut").isLessThan(-140);
    }

    @Test void theSpectrumShowsASineAtItsLevelAndWhereNoiseBreaksOff() throws Exception {
        var meter = new ablecrate.dsp.SpectrumMeter(48_000, 1);
        // A band of noise up to 16 kHz, as a lossy encoder leaves it, with a sine in it.
        double[] phases = new Random(5).doubles(1600, 0, 2 * Math.PI).toArray();
        double[] x = Sounds.signal(48_000, n -> {
            double sum = 0.5 * Math.sin(2 * Math.PI * 1000 * n / 48_000);
            for (int k = 1; k < 1600; k++)
                sum += 0.001 * Math.sin(phases[k] + 2 * Math.PI * 10 * k * n / 48_000);
            return sum;
        });
        meter.add(new double[][]{x}, x.length);
        var spectrum = meter.finish();
        double loudest = spectrum.db().stream().mapToDouble(Double::doubleValue).max().orElseThrow();
        assertThat(loudest).isCloseTo(20 * Math.log10(0.5), within(1.5));
        assertThat(spectrum.hz().get(spectrum.db().indexOf(loudest))).isCloseTo(1000, within(30.0));
        assertThat(spectrum.cutoffHz().orElseThrow()).isCloseTo(16_000, within(300.0));
    }
}
