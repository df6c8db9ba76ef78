package ablecrate.benchmarks;

import ablecrate.Sounds;
import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.dsp.Dither;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import ablecrate.dsp.Limiter;
import ablecrate.dsp.Quantiser;
import ablecrate.dsp.RateConverters;
import java.io.IOException;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/// Ten seconds of stereo through each kernel; the figure is milliseconds for those ten seconds, on one core.
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(1)
@Warmup(iterations = 4, time = 1)
@Measurement(iterations = 5, time = 1) public class Kernels {
    private static final int SECONDS = 10, BLOCK = 8192;

    private final RateConverters converters = new RateConverters();
    private final double[][] loud = noise(48000, 0.9), soft = noise(48000, 0.1);
    private final double[][] block = new double[2][BLOCK];

    private static double[][] noise(int rateHz, double level) {
        Random random = new Random(1);
        double[][] planes = new double[2][];
        for (int channel = 0; channel < 2; channel++)
            planes[channel] = Sounds.signal(SECONDS * rateHz, n -> level * (Math.sin(0.02 * n) + 0.5 * random.nextGaussian()));
        return planes;
    }

    /// Rates as `from:to`; the last is that of a loop which is to be whole.
    @State(Scope.Benchmark) public static class Ratio {
        @Param({"44100:48000", "48000:44100", "96000:44100", "44100:96000", "44100:22050", "44100:44101", "44100:48069"}) public String rates;

        private double[][] sound() { return noise(from(), 0.5); }

        int from() { return Integer.parseInt(rates.split(":")[0]); }

        int to() { return Integer.parseInt(rates.split(":")[1]); }

        private double[][] input;

        double[][] input() {
            if (input == null) input = sound();
            return input;
        }
    }

    @Benchmark public double convert(Ratio ratio) throws IOException {
        return drain(converters.convert(new MemorySource(ratio.from(), ratio.input()), ratio.to()));
    }

    @Benchmark public Levels measureLevels() {
        LevelMeter meter = new LevelMeter(48000, 2);
        for (int at = 0; at < loud[0].length; at += BLOCK)
            meter.add(loud, at, Math.min(BLOCK, loud[0].length - at));
        return meter.finish();
    }

    @Benchmark public double limitLoud() throws IOException { return drain(new Limiter(new MemorySource(48000, loud), -1)); }

    @Benchmark public double limitWhatStaysBelow() throws IOException { return drain(new Limiter(new MemorySource(48000, soft), -1)); }

    @Benchmark public double ditherTriangular() throws IOException { return dither(Dither.TPDF); }

    @Benchmark public double ditherShaped() throws IOException { return dither(Dither.SHAPED); }

    private double dither(Dither dither) throws IOException {
        Quantiser quantiser = new Quantiser(dither, 16, 48000, 2);
        FrameSource source = new MemorySource(48000, soft);
        double sum = 0;
        for (int got; (got = source.read(block, 0, BLOCK)) > 0;) {
            quantiser.process(block, got);
            sum += block[0][got - 1];
        }
        return sum;
    }

    private double drain(FrameSource source) throws IOException {
        double sum = 0;
        for (int got; (got = source.read(block, 0, BLOCK)) > 0;)
            sum += block[0][got - 1];
        return sum;
    }
}
