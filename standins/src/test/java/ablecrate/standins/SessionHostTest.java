package ablecrate.standins;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.ArrayList;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// For each rule of the session host a session that breaks just that rule; the sounds are written by the Java platform.
class SessionHostTest {
    private static final String WHOLE = """
            {"format": "session 1", "rateHz": 48000, "depth": "16", "tempo": [{"bar": 1, "bpm": 120}], "meters": [{"bar": 1, "beats": 4, "unit": 4}],
             "files": [{"path": "audio/a.wav"}], "tracks": [{"name": "A", "gainDb": -6.0206, "clips": [{"file": "audio/a.wav", "startFrame": 1000, "offsetFrames": 200,
             "lengthFrames": 500, "panPercent": 50, "fadeInFrames": 100}]}]}""";
    @TempDir Path folder;

    @BeforeEach void make() throws Exception {
        CardRulesTest.wav(folder.resolve("audio/a.wav"), 48_000, 16, 1, 1000);
        document(WHOLE);
    }

    private void document(String text) throws Exception { Files.writeString(folder.resolve("session.json"), text); }

    private SessionHost.Opened open() throws Exception { return SessionHost.open(folder, Optional.empty()); }

    /// Half of the level, the right side whole, the left side half of that; 50 frames into a fade of 100.
    @Test void aClipSoundsWhereAndAsTheDocumentSays() throws Exception {
        assertThat(open().refusals()).isEmpty();
        double[][] mix = new SessionMix(open()).render(0, 2000);
        double[] source = WaveFile.open(folder.resolve("audio/a.wav"), (_, _, _, _) -> {}).read(0, 1000)[0];
        assertThat(mix[1][999]).isZero();
        assertThat(mix[1][1050]).isCloseTo(source[250] * 0.5 * 0.5, within(1e-6));
        assertThat(mix[1][1300]).isCloseTo(source[500] * 0.5, within(1e-6));
        assertThat(mix[0][1300]).isCloseTo(source[500] * 0.25, within(1e-6));
        assertThat(mix[1][1500]).isZero();
        assertThat(source[500]).isNotZero();
    }

    /// At 48 kHz a quarter note lasts 24,000 frames at 120 bpm and 32,000 at 90; an eighth half of that. Two bars of 4/4 are 192,000 frames.
    @Test void theClickLiesOnTheBeats() throws Exception {
        document(bars("{\"bar\": 1, \"bpm\": 120}, {\"bar\": 3, \"bpm\": 90}",
                "{\"bar\": 1, \"beats\": 4, \"unit\": 4}, {\"bar\": 3, \"beats\": 6, \"unit\": 8}"));
        double[] mix = new double[300_000];
        SessionMix clicks = new SessionMix(open(), _ -> false, () -> true);
        // In blocks that cut clicks in two.
        for (int at = 0; at < mix.length; at += 1000)
            System.arraycopy(clicks.render(at, 1000)[0], 0, mix, at, 1000);
        List<Integer> begun = new ArrayList<>();
        for (int i = 0; i + 1 < mix.length; i++)
            if (mix[i] == 0 && mix[i + 1] != 0 && (i == 0 || mix[i - 1] == 0)) begun.add(i);
        assertThat(begun).containsExactly(0, 24_000, 48_000, 72_000, 96_000, 120_000, 144_000, 168_000, 192_000, 208_000, 224_000, 240_000, 256_000, 272_000,
                288_000);
        for (int first : List.of(0, 96_000, 192_000, 288_000))
            assertThat(mix[first + 12]).as("half a wave of 2 kHz on the first of a bar").isCloseTo(0, within(1e-9));
        assertThat(mix[24_000 + 12]).as("a quarter wave of 1 kHz on the others").isCloseTo(0.25 * Math.exp(-12 / 288.0), within(1e-9));
        assertThat(new SessionMix(open(), _ -> false, () -> false).render(0, 1000)[0]).as("unless it is asked for").containsOnly(0);
    }

    @ParameterizedTest @CsvSource(delimiter = '|', quoteCharacter = '`', value = {
        "{\"bar\": 1, \"bpm\": 5}|{\"bar\": 1, \"beats\": 4, \"unit\": 4}|a tempo of 5.0 bpm",
        "{\"bar\": 2, \"bpm\": 90}|{\"bar\": 1, \"beats\": 4, \"unit\": 4}|tempo and meters begin at bar 1",
        "{\"bar\": 1, \"bpm\": 90}, {\"bar\": 1, \"bpm\": 80}|{\"bar\": 1, \"beats\": 4, \"unit\": 4}|tempos are not in the order of their bars",
        "{\"bar\": 1, \"bpm\": 90}|{\"bar\": 1, \"beats\": 4, \"unit\": 3}|a meter of 4/3",
        "{\"bar\": 1, \"bpm\": 90}|{\"bar\": 2, \"beats\": 4, \"unit\": 4}|meters are not in the order of their bars, from bar 1 on"}) void barsThatAreNoneAreRefused(
                String tempo, String meters, String reason) throws Exception {
        document(bars(tempo, meters));
        assertThat(open().refusals()).containsExactly(new Device.Refusal("session.json", reason));
    }

    private static String bars(String tempo, String meters) {
        return "{\"format\": \"session 1\", \"rateHz\": 48000, \"depth\": \"16\", \"tempo\": [" + tempo + "], \"meters\": [" + meters + "]}";
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"session 1|session 2|format 'session 2'; reads 'session 1'",
        "\"16\"|\"12\"|depth 12; plays 16, 24 and 32f",
        "\"gainDb\"|\"volume\"|'volume' is not known in a track",
        "audio/a.wav\"}]|audio/a.wav\"}, {\"path\": \"audio/a.wav\"}]|file 'audio/a.wav' is there twice",
        "\"lengthFrames\": 500|\"lengthFrames\": 0|track 'A': a clip without start, offset or length"}) void aWrongDocumentIsRefusedWhole(String right,
                String wrong,
                String reason) throws Exception {
        document(WHOLE.replace(right, wrong));
        assertThat(open().refusals()).containsExactly(new Device.Refusal("session.json", reason));
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"44100|16|44100 Hz; the session has 48000", "48000|24|depth 24; the session has 16",
        "48000|32|depth 32; the session has 16"}) void filesOfAnotherKindAreRefused(int rate, int bits, String reason) throws Exception {
        CardRulesTest.wav(folder.resolve("audio/a.wav"), rate, bits, 1, 1000);
        assertThat(open().refusals()).containsExactly(new Device.Refusal("audio/a.wav", reason));
        assertThat(open().tracks()).containsExactly(new SessionHost.Track("A", 1, 0));
    }

    @Test void whatIsOfflineOutsideOrTooShortIsRefused() throws Exception {
        document(WHOLE.replace("\"lengthFrames\": 500", "\"lengthFrames\": 900"));
        assertThat(open().refusals()).containsExactly(new Device.Refusal("audio/a.wav", "track 'A': a clip plays beyond the file's end"));
        document(WHOLE.replace("audio/a.wav", "../a.wav"));
        assertThat(open().refusals()).containsExactly(new Device.Refusal("../a.wav", "lies outside of the session"));
        document(WHOLE);
        Path moved = Files.move(folder.resolve("audio/a.wav"), folder.resolve("b.wav"));
        assertThat(open().refusals()).containsExactly(new Device.Refusal("audio/a.wav", "offline"));
        Files.createSymbolicLink(folder.resolve("audio/a.wav"), moved);
        assertThat(open().refusals()).containsExactly(new Device.Refusal("audio/a.wav", "a link leads out of the session"));
    }

    /// A mix against itself leaves nothing; a clip that comes one frame late leaves plenty.
    @Test void aDifferenceIsHeard() throws Exception {
        SessionMix mix = new SessionMix(open());
        assertThat(left(mix)).isLessThan(-140);
        document(WHOLE.replace("\"startFrame\": 1000", "\"startFrame\": 1001"));
        assertThat(left(mix)).isGreaterThan(-60);
    }

    private double left(SessionMix earlier) throws Exception {
        return new SessionMix(open()).difference(earlier, 48_000, _ -> {}, () -> false).peakDb();
    }
}
