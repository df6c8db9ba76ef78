package ablecrate.dsp;

import static ablecrate.Sounds.db;
import static ablecrate.Sounds.rms;
import static ablecrate.Sounds.signal;
import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.PcmPacker;
import ablecrate.audio.PcmUnpacker;
import ablecrate.audio.SampleEncoding;
import java.nio.ByteOrder;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class QuantiserTest {
    private static final int RATE = 48_000, FRAMES = 1 << 18;
    /// On a bin of the transform, so that nothing leaks; not a divisor of the rate, so that the error does not repeat.
    private static final int BIN = 5461;

    private static double[] rounded(double[] in, Dither dither, int bits) {
        double[][] planes = {in.clone()};
        new Quantiser(dither, bits, RATE, 1).process(planes, in.length);
        SampleEncoding encoding = new SampleEncoding(bits == 8 ? SampleEncoding.Kind.UNSIGNED : SampleEncoding.Kind.SIGNED, bits / 8, bits,
                ByteOrder.LITTLE_ENDIAN);
        byte[] packed = new byte[in.length * bits / 8];
        new PcmPacker(encoding).pack(planes, in.length, packed);
        new PcmUnpacker(encoding).unpack(packed, in.length, planes, 0);
        return planes[0];
    }

    /// 6.02 N + 1.76 dB for plain rounding; 4.77 dB more noise with triangular dither of 2 steps: 98.09 and 93.32 dB at 16 bit,
    /// 146.26 and 141.48 dB at 24 bit. Lipshitz, Wannamaker, Vanderkooy, JAES 40(5), 1992.
    @ParameterizedTest @CsvSource({"16,NONE,98.09", "16,TPDF,93.32", "24,NONE,146.26", "24,TPDF,141.48", "8,TPDF,45.16"}) void theNoiseHasThePublishedLevel(
            int bits, Dither dither, double expectedDb) {
        double[] in = sine((double) BIN * RATE / FRAMES, 0.98, RATE, FRAMES), out = rounded(in, dither, bits);
        double[] error = signal(FRAMES, n -> out[n] - in[n]);
        double fullScaleSine = 1 / Math.sqrt(2);
        assertThat(db(fullScaleSine / rms(error, 0, FRAMES))).isCloseTo(expectedDb, within(0.3));
    }

    /// What lies at full scale comes to lie beyond it by rounding and dither alone, which is no clipping of the sound.
    @ParameterizedTest @CsvSource({"NONE,44100,1,0", "TPDF,44100,2,1", "SHAPED,44100,15,4", "SHAPED,96000,6,2"}) void noSampleGoesFartherThanIsSaid(
            Dither dither,
            int rate, int steps, int atLeast) {
        double[] in = sine(997, 1, rate, FRAMES);
        double[][] planes = {in.clone()};
        Quantiser quantiser = new Quantiser(dither, 16, rate, 1);
        assertThat(quantiser.reachSteps()).isEqualTo(steps);
        quantiser.process(planes, FRAMES);
        double farthest = 0;
        for (int n = 0; n < FRAMES; n++)
            farthest = Math.max(farthest, Math.abs(Math.rint(planes[0][n] * 32_768) - in[n] * 32_768));
        assertThat(farthest).isBetween((double) atLeast, (double) steps);
    }

    /// A quiet tone, 24 → 16 bit: with triangular dither no harmonic stands above the noise; without, they do.
    @Test void ditherLeavesNoDistortionLine() {
        double[] in = sine((double) BIN * RATE / FRAMES, Math.pow(10, -80 / 20.0), RATE, FRAMES);
        double noisePerBinDb = -93.32 - 10 * Math.log10(FRAMES / 2.0);
        assertThat(strongestHarmonicDb(rounded(in, Dither.TPDF, 16))).isLessThan(noisePerBinDb + 13); // a chance peak of noise among so few bins
        assertThat(strongestHarmonicDb(rounded(in, Dither.NONE, 16))).isGreaterThan(noisePerBinDb + 25);
    }

    private static double strongestHarmonicDb(double[] x) {
        double strongest = -400;
        for (int harmonic = 2; harmonic <= 20; harmonic++)
            strongest = Math.max(strongest, binDbfs(x, Math.floorMod(harmonic * BIN, FRAMES)));
        return strongest;
    }

    /// Level of one bin, a full-scale sine is 0 dB.
    private static double binDbfs(double[] x, int bin) {
        double re = 0, im = 0;
        for (int n = 0; n < x.length; n++) {
            double phase = 2 * Math.PI * ((long) bin * n % x.length) / x.length;
            re += x[n] * Math.cos(phase);
            im -= x[n] * Math.sin(phase);
        }
        return db(2 * Math.hypot(re, im) / x.length);
    }

    @Test void shapedNoiseIsLowerWhereTheEarIsSensitive() {
        double[] quiet = new double[FRAMES];
        double[] plain = rounded(quiet, Dither.TPDF, 16), shaped = rounded(quiet, Dither.SHAPED, 16);
        double plainMid = 0, shapedMid = 0;
        for (int bin = 16_000; bin < 22_000; bin += 97) { // 2.9 to 4 kHz
            plainMid += Math.pow(10, binDbfs(plain, bin) / 10);
            shapedMid += Math.pow(10, binDbfs(shaped, bin) / 10);
        }
        assertThat(10 * Math.log10(shapedMid / plainMid)).isLessThan(-8);
    }

    @Test void theSameInputGivesTheSameNoise() {
        double[] in = sine(1000, 0.1, RATE, 5000);
        assertThat(rounded(in, Dither.TPDF, 16)).isEqualTo(rounded(in, Dither.TPDF, 16));
        assertThat(rounded(in, Dither.SHAPED, 16)).isEqualTo(rounded(in, Dither.SHAPED, 16));
    }
}
