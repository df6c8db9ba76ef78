package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.Fixtures;
import ablecrate.SndFile;
import ablecrate.Sounds;
import ablecrate.audio.SeekableSource;
import java.util.Arrays;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// Files that libmp3lame, libvorbis, libopus, libavcodec and vo-aacenc coded: ours is as long as the original, and every onset lies on its frame.
class LossyFilesTest {
    /// What a correct decoder's rounding may differ by.
    private static final double ERROR_DB = -90;

    static Stream<Map<String, String>> lossy() { return Fixtures.table("manifest.tsv").stream().filter(r -> r.get("file").startsWith("lossy")); }

    @ParameterizedTest @MethodSource("lossy") void everyOnsetLiesOnItsFrameAndTheToneIsAsLoudAsInTheTable(Map<String, String> row) throws Exception {
        SoundFile file = FixtureFilesTest.read(row.get("file"));
        double[][] planes = Sounds.readAll(file.open());
        assertThat(file.rateHz()).hasToString(row.get("rate"));
        assertThat(file.channels()).hasToString(row.get("channels"));
        assertThat(file.codec()).isEqualTo(row.get("codec"));
        assertThat(file.problems()).filteredOn(p -> p.effect() != Problem.Effect.NOTE).isEmpty();
        assertThat(file.isLossy()).isTrue();
        assertThat(file.frames()).as("frames").hasToString(row.get("frames"));
        int late = Integer.parseInt(row.get("onset1")) - 1000;
        for (int burst = 1; burst <= 2; burst++) {
            double[][] original = Sounds.readAll(FixtureFilesTest.read(reference(row)).open());
            int at = burst == 1 ? 1000 : row.get("reference").equals("s44") ? 36_000 : row.get("reference").equals("s48") ? 34_500 : 44_000;
            int channel = burst == 1 ? 0 : planes.length - 1;
            if (at + late + 300 < planes[0].length) assertThat(lag(planes[channel], original[channel], at, late)).as("burst " + burst).isEqualTo(late);
        }
        assertThat(toneDb(planes[0], row, late)).as("tone").isCloseTo(Double.parseDouble(row.get("tone_delta_db_left")), within(0.02));
    }

    private static String reference(Map<String, String> row) {
        return Map.of("s44", "ref/s44_stereo_44k1_pcm24.wav", "s48", "ref/s48_stereo_48k_pcm24.wav", "m48", "ref/m48_mono_48k_pcm24.wav")
                .get(row.get("reference"));
    }

    /// Frames that a burst of 5 ms comes late: where it correlates best with the original's.
    private static int lag(double[] decoded, double[] original, int at, int around) {
        int best = 0;
        double most = Double.NEGATIVE_INFINITY;
        for (int lag = around - 60; lag <= around + 60; lag++) {
            double sum = 0, square = 0;
            for (int i = 0; i < 240; i++) {
                sum += decoded[at + lag + i] * original[at + i];
                square += decoded[at + lag + i] * decoded[at + lag + i];
            }
            double match = sum / Math.sqrt(square + 1e-12);
            if (match > most) {
                most = match;
                best = lag;
            }
        }
        return best;
    }

    /// A least-squares sine over the middle half of the 1 kHz section, against its amplitude of 0.5.
    private static double toneDb(double[] plane, Map<String, String> row, int late) {
        int rate = Integer.parseInt(row.get("rate"));
        int[] section = switch (row.get("reference")) {
            case "s44" -> new int[]{19_845, 33_075};
            case "s48" -> new int[]{19_200, 31_200};
            default -> new int[]{26_400, 40_800};
        };
        int quarter = (section[1] - section[0]) / 4, from = section[0] + quarter, count = 2 * quarter / rate * rate + 2 * quarter;
        double sine = 0, cosine = 0;
        int periods = count / (rate / 1000), n = (int) Math.round(periods * (rate / 1000.0));
        for (int i = 0; i < n; i++) {
            double phase = 2 * Math.PI * 1000 * i / rate;
            sine += plane[from + late + i] * Math.sin(phase);
            cosine += plane[from + late + i] * Math.cos(phase);
        }
        return 20 * Math.log10(2 * Math.hypot(sine, cosine) / n / 0.5);
    }

    @ParameterizedTest @MethodSource("lossy") void theSamplesAreThoseOfLibsndfile(Map<String, String> row) throws Exception {
        Optional<SndFile> other = SndFile.find();
        assumeTrue(other.isPresent() && row.get("decoder").startsWith("libsndfile"), "libsndfile decodes it");
        double[][] ours = Sounds.readAll(FixtureFilesTest.read(row.get("file")).open()), theirs = other.get().read(Fixtures.path(row.get("file")));
        assertThat(ours[0]).hasSameSizeAs(theirs[0]);
        double error = 0;
        for (int channel = 0; channel < ours.length; channel++)
            for (int i = 0; i < ours[0].length; i++)
                error += Math.pow(ours[channel][i] - theirs[channel][i], 2);
        assertThat(10 * Math.log10(error / ours[0].length / ours.length)).isLessThan(ERROR_DB);
    }

    /// Where a file does not say its delay, the first onset does, to a few frames: 1024 for one encoder, 1600 for the other.
    @ParameterizedTest @org.junit.jupiter.params.provider.CsvSource({"s44_aac_lc_noeditlist.m4a,1024",
        "s44_aac_lc_second_encoder.m4a,1600"}) void theFirstOnsetTellsADelayThatTheFileDoesNotSay(String name, int delay) throws Exception {
        SoundFile file = FixtureFilesTest.read("lossy/" + name);
        assertThat(file.compression().orElseThrow().start()).isEqualTo(new Compression.Start.Unknown(1024));
        long onset = ablecrate.dsp.Onset.first(file.open()).orElseThrow();
        assertThat(onset - ablecrate.dsp.Onset.first(FixtureFilesTest.read("ref/s44_stereo_44k1_pcm24.wav").open()).orElseThrow()).isCloseTo(delay, within(3L));
    }

    /// Going to a frame gives what reading up to it gives.
    @ParameterizedTest @MethodSource("lossy") void anyFrameCanBeGoneTo(Map<String, String> row) throws Exception {
        SoundFile file = FixtureFilesTest.read(row.get("file"));
        double[][] whole = Sounds.readAll(file.open()), part = new double[file.channels()][500];
        try (SeekableSource source = file.open()) {
            for (int frame : new int[]{30_000, 500, 20_011, (int) file.frames() - 500, 0}) {
                source.seek(frame);
                assertThat(source.readFully(part, 0, 500)).isEqualTo(500);
                for (int channel = 0; channel < part.length && file.isSameFromAnywhere(); channel++)
                    assertThat(part[channel]).as("bit for bit").isEqualTo(Arrays.copyOfRange(whole[channel], frame, frame + 500));
                for (int i = 0; i < 500; i++)
                    assertThat(part[0][i]).as("frame " + (frame + i)).isCloseTo(whole[0][frame + i], within(1e-4));
            }
        }
    }
}
