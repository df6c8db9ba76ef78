package ablecrate.dsp;

import static ablecrate.Sounds.db;
import static ablecrate.Sounds.readAll;
import static ablecrate.Sounds.residueDb;
import static ablecrate.Sounds.rms;
import static ablecrate.Sounds.signal;
import static ablecrate.Sounds.sine;
import static ablecrate.Sounds.source;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.codec.SoundFormats;
import java.util.Arrays;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class RateConvertersTest {
    private static final double SECONDS = 2, AMPLITUDE = 0.501187;

    /// Every row of the table that libsamplerate 0.2.2 (best sinc) and libsoxr 0.1.3 (very high quality, float64) made.
    static Stream<Map<String, String>> tones() { return rows("tone"); }

    static Stream<Map<String, String>> aliases() { return rows("alias"); }

    static Stream<Map<String, String>> sweeps() { return rows("sweep"); }

    private static Stream<Map<String, String>> rows(String signal) {
        return Fixtures.table("resample.tsv").stream().filter(r -> r.get("signal").equals(signal));
    }

    private static double number(Map<String, String> row, String column) { return Double.parseDouble(row.get(column)); }

    private static int rate(Map<String, String> row, String column) { return Integer.parseInt(row.get(column)); }

    private static FrameSource to(int rateHz, FrameSource source) { return new RateConverters().convert(source, rateHz); }

    private static double[] convert(double[] in, int from, int to) throws Exception { return readAll(to(to, source(from, in)))[0]; }

    /// What a figure of the table asks of us: that of libsamplerate, and −165 dB where libsoxr lies beyond that.
    private static double wanted(Map<String, String> row, String column) {
        double figure = number(row, column);
        return row.get("library").equals("libsoxr") && figure < -165 ? -165 : figure;
    }

    @ParameterizedTest @MethodSource("tones") void tonesAreAtLeastAsCleanAsTheReferenceLibraries(Map<String, String> row) throws Exception {
        int from = rate(row, "rate_in"), to = rate(row, "rate_out");
        double hz = number(row, "frequency_hz");
        double[] out = convert(sine(hz, AMPLITUDE, from, (int) (SECONDS * from)), from, to), ideal = sine(hz, AMPLITUDE, to, (int) (SECONDS * to));
        assertThat(out).hasSize(ideal.length);
        int start = to / 10, end = to * 19 / 10;
        double[] error = signal(out.length, n -> out[n] - ideal[n]);
        assertThat(db(rms(error, start, end) / rms(ideal, start, end))).as("residual").isLessThanOrEqualTo(wanted(row, "residual_vs_ideal_db"));
        assertThat(residueDb(out, hz, to, start, end)).as("THD+N").isLessThanOrEqualTo(wanted(row, "thdn_db"));
    }

    @ParameterizedTest @MethodSource("aliases") void whatLiesAboveTheNewNyquistIsGone(Map<String, String> row) throws Exception {
        int from = rate(row, "rate_in"), to = rate(row, "rate_out");
        double[] in = sine(number(row, "frequency_hz"), AMPLITUDE, from, (int) (SECONDS * from)), out = convert(in, from, to);
        double rejection = db(rms(out, to / 10, to * 19 / 10) / rms(in, from / 10, from * 19 / 10));
        assertThat(rejection).isLessThanOrEqualTo(wanted(row, "alias_reject_db"));
    }

    @ParameterizedTest @MethodSource("sweeps") void sweepsAreCleanerThanBothLibrariesMakeThem(Map<String, String> row) throws Exception {
        int from = rate(row, "rate_in"), to = rate(row, "rate_out");
        double[] out = convert(sweep(from), from, to), ideal = sweep(to);
        double[] error = signal(out.length, n -> out[n] - ideal[n]);
        assertThat(db(rms(error, to / 10, to * 19 / 10) / rms(ideal, to / 10, to * 19 / 10))).isLessThan(number(row, "residual_vs_ideal_db"));
    }

    private static double[] sweep(int rateHz) {
        double octaves = Math.log(1000), k = 2 * Math.PI * 20 * SECONDS / octaves, fade = 0.02;
        return signal((int) (SECONDS * rateHz), n -> {
            double t = (double) n / rateHz, edge = Math.min(t, SECONDS - t);
            double window = edge < fade ? 0.5 - 0.5 * Math.cos(Math.PI * edge / fade) : 1;
            return 0.5 * window * Math.sin(k * (Math.exp(t * octaves / SECONDS) - 1));
        });
    }

    /// Field practice: passband to 0.91 of the lower Nyquist frequency within ±0.001 dB.
    @ParameterizedTest @CsvSource({"44100,48000", "48000,44100", "96000,44100", "44100,22050", "44100,32000", "48000,192000", "44100,37800",
        "44100,44101"}) void thePassbandIsFlat(int from, int to) throws Exception {
        for (double part : new double[]{0.01, 0.3, 0.7, 0.91}) {
            double hz = part * Math.min(from, to) / 2;
            double[] out = convert(sine(hz, AMPLITUDE, from, from), from, to);
            assertThat(db(rms(out, to / 5, to * 4 / 5) / rms(sine(hz, AMPLITUDE, to, to), to / 5, to * 4 / 5))).as(hz + " Hz").isCloseTo(0, within(0.001));
            assertThat(residueDb(out, hz, to, to / 5, to * 4 / 5)).as(hz + " Hz").isLessThan(-165);
        }
    }

    /// Bursts that start at full height stay on the exact frame, there and back.
    @ParameterizedTest @CsvSource({"ref/s44_stereo_44k1_pcm24.wav,48000,1000,36000", "ref/s48_stereo_48k_pcm24.wav,44100,1000,34500",
        "ref/s44_stereo_44k1_pcm24.wav,96000,1000,36000"}) void onsetsReturnToTheirFrames(String name, int otherHz, int onset1, int onset2) throws Exception {
        var file = SoundFormats.byId("wav").orElseThrow().read(Fixtures.path(name));
        FrameSource there = to(otherHz, file.open());
        double[][] back = readAll(to(file.rateHz(), there));
        double[][] original = readAll(file.open());
        assertThat((long) back[0].length).isBetween(file.frames(), file.frames() + 1);
        for (int onset : new int[]{onset1, onset2})
            assertThat(bestLag(original[0], back[0], onset)).isZero();
        assertThat(residueDb(back[0], 1000, file.rateHz(), 22000, 30000)).isLessThan(-135); // the 24-bit source's own rounding noise
    }

    private static int bestLag(double[] a, double[] b, int at) {
        int best = 0;
        double highest = -1;
        for (int lag = -20; lag <= 20; lag++) {
            double sum = 0;
            for (int i = at; i < at + 200; i++)
                sum += a[i] * b[i + lag];
            if (sum > highest) {
                highest = sum;
                best = lag;
            }
        }
        return best;
    }

    @ParameterizedTest @CsvSource({"44100,48000", "96000,22050", "44100,44101", "192000,8000"}) void blocksArePlumbingNotSignal(int from, int to)
            throws Exception {
        double[] in = sine(440, 0.5, from, from / 3 + 17);
        double[] whole = convert(in, from, to);
        for (int blockFrames : new int[]{1, 7, 512, 5000}) {
            FrameSource pieces = to(to, source(from, in));
            double[][] out = new double[1][whole.length + 1];
            int at = 0;
            for (int got; (got = pieces.read(out, at, Math.min(blockFrames, out[0].length - at))) > 0;)
                at += got;
            assertThat(at).isEqualTo(whole.length);
            assertThat(java.util.Arrays.copyOf(out[0], at)).isEqualTo(whole);
        }
    }

    /// ceil(frames · to / from), as libsoxr gives.
    @ParameterizedTest @ValueSource(ints = {1, 2, 146, 147, 148, 44100}) void theLengthIsTheExactOneRoundedUp(int frames) throws Exception {
        assertThat(convert(new double[frames], 44100, 48000)).hasSize((int) Math.ceil(frames * 160.0 / 147));
    }

    @Test void aConstantStaysThatConstant() throws Exception {
        double[] out = convert(signal(20_000, _ -> 0.75), 44100, 48000);
        for (int i = 2000; i < 18_000; i++)
            assertThat(out[i]).isCloseTo(0.75, within(1e-9));
    }

    /// Where a conversion begins in its midst, it gives the same samples, bit for bit.
    @ParameterizedTest @CsvSource({"1, 44100, 48000", "2, 96000, 44100", "2, 44100, 22050", "3, 48000, 96000"}) void aConversionCanGoOnAtAnyStretch(
            int channels,
            int from, int to) throws Exception {
        Random random = new Random(3);
        double[][] in = new double[channels][];
        Arrays.setAll(in, _ -> signal(150_000, _ -> random.nextGaussian()));
        RateConverters converters = new RateConverters();
        double[][] whole = readAll(converters.convert(source(from, in), to));
        RateConverters.Stretches stretches = converters.stretches(channels, to, from).orElseThrow();
        for (int number : new int[]{1, 3, 150_000 / stretches.inputFrames()}) {
            MemorySource at = new MemorySource(from, in);
            at.seek((long) number * stretches.inputFrames() - stretches.lead());
            int start = number * stretches.outputFrames(), count = Math.min(whole[0].length - start, 2 * stretches.outputFrames() + 7);
            double[][] part = new double[channels][count];
            assertThat(converters.convertOn(at, to, from, to).readFully(part, 0, count)).isEqualTo(count);
            for (int channel = 0; channel < channels; channel++)
                assertThat(part[channel]).as("stretch " + number).isEqualTo(Arrays.copyOfRange(whole[channel], start, start + count));
        }
        assertThat(converters.stretches(channels, 44_101, 44_100)).as("any ratio").isEmpty();
    }

    /// By less than a block, by several, up to the end and past it.
    @ParameterizedTest @CsvSource({"1, 44100, 48000", "2, 96000, 44100", "1, 44100, 44101", "2, 44100, 48069",
        "2, 48000, 11027"}) void whatComesAfterSkippedFramesIsTheSame(int channels, int from, int to) throws Exception {
        double[][] in = new double[channels][60_000];
        Random random = new Random(from + to);
        for (double[] plane : in)
            Arrays.setAll(plane, _ -> random.nextGaussian() / 8);
        double[][] all = readAll(to(to, new MemorySource(from, in)));
        for (int skipped : new int[]{1, 100, 5_000, all[0].length / 2, all[0].length - 1, all[0].length + 7}) {
            FrameSource source = to(to, new MemorySource(from, in));
            double[][] some = new double[channels][300];
            assertThat(source.readFully(some, 0, 300)).isEqualTo(300);
            assertThat(source.skip(skipped)).isEqualTo(Math.min(skipped, all[0].length - 300));
            int behind = Math.min(all[0].length, 300 + skipped);
            double[][] rest = new double[channels][all[0].length - behind];
            assertThat(source.readFully(rest, 0, rest[0].length)).isEqualTo(rest[0].length);
            for (int channel = 0; channel < channels; channel++)
                assertThat(rest[channel]).as("after %d", skipped).isEqualTo(Arrays.copyOfRange(all[channel], behind, all[channel].length));
        }
    }

    @Test void stereoChannelsDoNotTouchEachOther() throws Exception {
        double[][] out = readAll(to(48000, source(44100, sine(1000, 0.5, 44100, 9000), new double[9000])));
        assertThat(Sounds.rms(out[0], 1000, 8000)).isGreaterThan(0.3);
        assertThat(db(rms(out[1], 0, out[1].length) / rms(out[0], 0, out[0].length))).isLessThan(-290); // the last bits of the transform
    }

    /// Ratios whose steps are no products of small primes go by a doubled rate; up, down, and down by several octaves.
    @ParameterizedTest @CsvSource({"44100,44101", "44101,44100", "48000,31337", "48000,24749", "96000,22051", "192000,8009", "44100,11027", "8009,192000",
        "47999,3001"}) void anyRatioIsAsCleanAsTheUsualOnes(int from, int to) throws Exception {
        for (double part : new double[]{0.07, 0.5, 0.91}) {
            double hz = part * Math.min(from, to) / 2;
            double[] out = convert(sine(hz, AMPLITUDE, from, from), from, to), ideal = sine(hz, AMPLITUDE, to, to);
            assertThat(out).hasSize(to);
            double[] error = signal(to, n -> out[n] - ideal[n]);
            assertThat(db(rms(error, to / 5, to * 4 / 5) / rms(ideal, to / 5, to * 4 / 5))).as(hz + " Hz").isLessThan(-165);
        }
        for (double hz = to * 0.52; hz < from * 0.48; hz *= 1.7) {
            double[] in = sine(hz, AMPLITUDE, from, from), out = convert(in, from, to);
            assertThat(db(rms(out, to / 5, to * 4 / 5) / rms(in, from / 5, from * 4 / 5))).as(hz + " Hz").isLessThan(-165);
        }
    }

    @ParameterizedTest @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12}) void ratesThatNobodyHasWorkAsWell(long seed) throws Exception {
        Random random = new Random(seed);
        int from = random.nextInt(8000, 192_001), to = random.nextInt(8000, 192_001);
        double hz = random.nextDouble(0.05, 0.9) * Math.min(from, to) / 2;
        double[] out = convert(sine(hz, AMPLITUDE, from, from / 2), from, to), ideal = sine(hz, AMPLITUDE, to, out.length);
        assertThat((long) out.length).isEqualTo(Math.ceilDiv((long) (from / 2) * to, from));
        double[] error = signal(out.length, n -> out[n] - ideal[n]);
        assertThat(db(rms(error, out.length / 4, out.length * 3 / 4) / rms(ideal, out.length / 4, out.length * 3 / 4))).as(from + " → " + to + ", " + hz)
                .isLessThan(-165);
    }

    /// An impulse at the very start, and one at the very end: the filter rings into both as it does in the middle.
    @ParameterizedTest @CsvSource({"44100,48000", "44100,44101", "96000,22051"}) void theEdgesOfASoundAreTreatedAsItsMiddle(int from, int to) throws Exception {
        int frames = 6000;
        double[] first = new double[frames], middle = new double[3 * frames];
        first[0] = first[frames - 1] = 1;
        // The same in the middle of silence, a whole number of steps later.
        int shift = (int) (from / gcd(from, to)) * (int) Math.ceilDiv(frames, from / gcd(from, to));
        double[] later = new double[shift + middle.length];
        System.arraycopy(first, 0, later, shift, frames);
        double[] edge = convert(first, from, to), inside = convert(later, from, to);
        int at = (int) ((long) shift * to / from);
        for (int n = 0; n < edge.length; n++)
            assertThat(edge[n]).as("frame " + n).isCloseTo(inside[at + n], within(1e-9));
    }

    private static long gcd(long a, long b) { return b == 0 ? a : gcd(b, a % b); }

    @ParameterizedTest @CsvSource({"44100,48000,1", "44100,48000,3", "44100,48000,6", "44100,44101,3",
        "48000,44100,5"}) void everyChannelIsConvertedAsIfItWereAlone(
                int from, int to, int channels) throws Exception {
        double[][] in = new double[channels][];
        for (int channel = 0; channel < channels; channel++)
            in[channel] = new Random(channel).doubles(from / 4, -0.5, 0.5).toArray();
        double[][] together = readAll(to(to, source(from, in)));
        for (int channel = 0; channel < channels; channel++) {
            double[] alone = convert(in[channel], from, to);
            for (int n = 0; n < alone.length; n++)
                assertThat(together[channel][n]).isCloseTo(alone[n], within(1e-13));
        }
    }
}
