package ablecrate.standins;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

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
        Path mix = folder.resolve("mix.wav");
        new SessionMix(open()).write(mix);
        assertThat(new SessionMix(open()).difference(mix, 48_000).peakDb()).isLessThan(-140);
        document(WHOLE.replace("\"startFrame\": 1000", "\"startFrame\": 1001"));
        assertThat(new SessionMix(open()).difference(mix, 48_000).peakDb()).isGreaterThan(-60);
    }
}
