package ablecrate.dsp;

import static ablecrate.Sounds.signal;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import java.util.Arrays;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class LevelMeterTest {
    /// A tone of several levels one after the other, in phase throughout.
    /// @param steps `seconds@dB,…`
    private static double[] tone(int hz, double phase, String steps, int rateHz) {
        // Whole hertz come round after a second.
        double[] second = signal(rateHz, n -> Math.sin(2 * Math.PI * hz * n / rateHz + phase)), tone = new double[0];
        for (String step : steps.split(",")) {
            double seconds = Double.parseDouble(step.split("@")[0]), gain = Decibels.toFactor(Double.parseDouble(step.split("@")[1]));
            int from = tone.length;
            tone = Arrays.copyOf(tone, from + (int) Math.round(seconds * rateHz));
            for (int n = from; n < tone.length; n++)
                tone[n] = gain * second[n % rateHz];
        }
        return tone;
    }

    private static Levels measure(int rateHz, double[]... planes) {
        LevelMeter meter = new LevelMeter(rateHz, planes.length);
        for (int at = 0; at < planes[0].length; at += 1000)
            meter.add(planes, at, Math.min(1000, planes[0].length - at));
        return meter.finish();
    }

    private static Levels stereo(int rateHz, double[] both) { return measure(rateHz, both, both); }

    /// Loudness alone: true peaks of minutes of sound would be searched for nothing.
    private static LoudnessMeter loudness(int rateHz, double[] both) {
        LoudnessMeter meter = new LoudnessMeter(rateHz, 2);
        for (int at = 0; at < both.length; at += 1000)
            meter.add(new double[][]{both, both}, at, Math.min(1000, both.length - at));
        return meter;
    }

    static Stream<Map<String, String>> reference() { return Fixtures.table("loudness.tsv").stream(); }

    /// Readings of libebur128 1.2.6, an independent implementation.
    @ParameterizedTest @MethodSource("reference") void agreesWithAnIndependentMeter(Map<String, String> row) {
        int rateHz = Integer.parseInt(row.get("rate")), active = Integer.parseInt(row.get("active_channels"));
        double[] x = tone(Integer.parseInt(row.get("frequency_hz")), Double.parseDouble(row.get("phase_rad")), row.get("levels_seconds@dB"), rateHz);
        double[][] planes = new double[Integer.parseInt(row.get("channels"))][x.length];
        for (int channel = 0; channel < active; channel++)
            planes[channel] = x;
        Levels levels = measure(rateHz, planes);
        same(levels.loudnessIntegratedLufs(), row.get("I_lufs"), "integrated");
        if (!row.get("max_M_lufs").equals("-")) same(levels.loudnessMomentaryMaxLufs(), row.get("max_M_lufs"), "momentary");
        same(levels.loudnessShortTermMaxLufs(), row.get("max_S_lufs"), "short-term");
        same(levels.samplePeakDbfs(), row.get("sample_peak_dbfs"), "sample peak");
        same(levels.truePeakDbtp(), row.get("true_peak_dbtp"), "true peak");
    }

    private static void same(OptionalDouble ours, String theirs, String what) {
        if (theirs.startsWith("-inf") || theirs.equals("-"))
            assertThat(ours).as(what).isEmpty();
        else
            assertThat(ours.orElseThrow()).as(what).isCloseTo(Double.parseDouble(theirs), within(0.1));
    }

    /// The printed coefficients for 48 kHz. Source: ITU-R BS.1770-5, annex 1, tables 1 and 2.
    @Test void theFiltersAreThePrintedOnes() {
        double[][] found = new KWeighting(48000).coefficients();
        assertThat(found[0]).containsExactly(
                new double[]{1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585}, within(1e-9));
        assertThat(found[1]).containsExactly(new double[]{1.0, -2.0, 1.0, -1.99004745483398, 0.99007225036621}, within(1e-9));
    }

    /// Source: EBU Tech 3341, table 1, cases 1 to 5: stereo sines of 1 kHz (from memory).
    @ParameterizedTest @CsvSource(delimiter = ';', value = {"20@-23; -23", "20@-33; -33", "10@-36,60@-23,10@-36; -23",
        "10@-72,10@-36,60@-23,10@-36,10@-72; -23", "20@-26,20.1@-20,20@-26; -23"}) void integratedLoudness(String steps, double lufs) {
        for (int rateHz : new int[]{44100, 48000, 96000}) {
            assertThat(loudness(rateHz, tone(1000, 0, steps, rateHz)).integratedLufs().orElseThrow()).as(rateHz + " Hz").isCloseTo(lufs, within(0.1));
        }
    }

    /// Source: EBU Tech 3341, table 1, case 6: 5.0 surround, 1 kHz at −28, −24 and −30 dB in front, centre and back.
    @Test void surroundChannelsCountAsTheStandardSays() {
        double[] front = tone(1000, 0, "20@-28", 48000), centre = tone(1000, 0, "20@-24", 48000), back = tone(1000, 0, "20@-30", 48000);
        Levels levels = measure(48000, front, front, centre, new double[front.length], back, back);
        assertThat(levels.loudnessIntegratedLufs().orElseThrow()).isCloseTo(-23, within(0.1));
    }

    /// Source: EBU Tech 3341, table 1, cases 15 to 19: tones of fs/4, fs/6 and fs/8 whose samples miss the peaks, amplitude 0.5
    /// (−6.0 dBTP) or 1.41 (+3.0 dBTP); tolerance +0.2/−0.4 dB. Faded, so that the ends add no peaks of their own.
    @ParameterizedTest @CsvSource({"4,0,0.5,-6.0", "4,45,0.5,-6.0", "6,60,0.5,-6.0", "8,67.5,0.5,-6.0",
        "4,45,1.41,3.0"}) void truePeaksBetweenSamples(int part, double degrees, double amplitude, double dbtp) {
        for (int rateHz : new int[]{44100, 48000, 96000}) {
            double[] x = signal(rateHz,
                    n -> amplitude * Math.min(1, Math.min(n, rateHz - n) / 2000.0) * Math.sin(2 * Math.PI * n / part + Math.toRadians(degrees)));
            assertThat(stereo(rateHz, x).truePeakDbtp().orElseThrow()).as(rateHz + " Hz").isBetween(dbtp - 0.4, dbtp + 0.2);
        }
    }

    /// Source: EBU Tech 3342, table 1, cases 1 to 4: stereo sines of 1 kHz, tolerance 1 LU.
    @ParameterizedTest @CsvSource(delimiter = ';', value = {"20@-20,20@-30; 10", "20@-20,20@-15; 5", "20@-40,20@-20; 20",
        "20@-50,20@-35,20@-20,20@-35,20@-50; 15"}) void loudnessRange(String steps, double lu) {
        for (int rateHz : new int[]{44100, 48000, 96000})
            assertThat(loudness(rateHz, tone(1000, 0, steps, rateHz)).rangeLu().orElseThrow()).as(rateHz + " Hz").isCloseTo(lu, within(1.0));
    }

    /// Source: EBU Tech 3341, table 1, case 13: a tone of 400 ms reads −23 momentary wherever it begins.
    @ParameterizedTest @ValueSource(ints = {0, 7, 20, 60, 95}) void theLoudestMomentIsFoundWhereverItLies(int silenceMs) {
        double[] burst = tone(1000, 0, silenceMs / 1000.0 + "@-400,0.4@-23,1@-400", 48000);
        assertThat(stereo(48000, burst).loudnessMomentaryMaxLufs().orElseThrow()).isCloseTo(-23, within(0.1));
    }

    /// A full-scale sine of 997 Hz in one channel reads −3.01 LUFS (ITU-R BS.1770-5); half of 400 ms of it 3.01 LU less, padded.
    @ParameterizedTest @ValueSource(ints = {8000, 11025, 22050, 32000, 44100, 88200, 176400, 192000}) void everyRateReadsTheSame(int rateHz) {
        assertThat(measure(rateHz, tone(997, 0, "4@0", rateHz)).loudnessIntegratedLufs().orElseThrow()).isCloseTo(-3.01, within(0.06));
        Levels half = measure(rateHz, tone(997, 0, "0.2@0", rateHz));
        assertThat(half.isMomentaryPadded()).isTrue();
        assertThat(half.loudnessMomentaryMaxLufs().orElseThrow()).isCloseTo(-6.02, within(0.1));
        assertThat(half.loudnessIntegratedLufs()).isEmpty();
    }

    @Test void plainFiguresAreTheirDefinitions() {
        Levels levels = measure(48000, signal(48000, n -> 0.25 + 0.5 * Math.sin(2 * Math.PI * 1000 * n / 48000)), new double[48000]);
        assertThat(levels.dcOffset()).isCloseTo(0.25, within(1e-9));
        assertThat(levels.samplePeakDbfs().orElseThrow()).isCloseTo(20 * Math.log10(0.75), within(1e-9));
        assertThat(levels.rmsDbfs().orElseThrow()).isCloseTo(10 * Math.log10((0.0625 + 0.125) / 2), within(1e-9));
    }

    /// ITU-R BS.1770-5, annex 1, table 4: surrounds and sides, at 60 to 120 degrees, count 1.41, which is 1.5 dB; rears of 6.1 and 7.1 count 1, low frequencies
    /// nothing. Orders of channels: those of WAV.
    @ParameterizedTest @CsvSource({"6,4,1.5", "6,3,", "7,4,0", "7,5,1.5", "7,6,1.5", "8,0,0", "8,3,", "8,4,0", "8,5,0", "8,6,1.5",
        "8,7,1.5"}) void eachChannelCountsByItsPlace(int channels, int channel, Double louderDb) {
        double[][] planes = new double[channels][48_000];
        planes[channel] = Sounds.sine(997, 1, 48_000, 48_000);
        LoudnessMeter meter = new LoudnessMeter(48_000, channels);
        meter.add(planes, 0, 48_000);
        if (louderDb == null)
            assertThat(meter.momentaryMaxLufs()).isEmpty();
        else
            assertThat(meter.momentaryMaxLufs().orElseThrow()).isCloseTo(-3.01 + louderDb, within(0.02));
    }
}
