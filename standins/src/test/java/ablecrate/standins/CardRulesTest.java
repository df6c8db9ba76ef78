package ablecrate.standins;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import javax.sound.sampled.AudioFileFormat;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioInputStream;
import javax.sound.sampled.AudioSystem;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// For each rule of a device a card that breaks just that rule; the sounds are written by the Java platform.
class CardRulesTest {
    @TempDir Path card;

    static void wav(Path file, int rate, int bits, int channels, int frames) throws Exception {
        Files.createDirectories(file.getParent());
        AudioFormat format = new AudioFormat(rate, bits, channels, bits > 8, false);
        byte[] data = new byte[frames * format.getFrameSize()];
        for (int frame = 0; frame < frames; frame++)
            for (int channel = 0; channel < channels; channel++)
                data[frame * format.getFrameSize() + (channel + 1) * bits / 8 - 1] = (byte) (60 * Math.sin(2 * Math.PI * 440 * frame / rate));
        AudioSystem.write(new AudioInputStream(new ByteArrayInputStream(data), format, frames), AudioFileFormat.Type.WAVE, file.toFile());
    }

    private static final String ZONE = """
            {"sound": "sounds/a.wav", "keys": [0, 127], "velocities": [1, 127], "rootKey": 69, "gainDb": 0, "loop": {"startFrame": 0, "endFrame": 1000, "mode": "forward"}}""";

    private void program(String text) throws Exception { Files.writeString(card.resolve("Glass.program"), text); }

    private static String program(String name, String zones) {
        return "{\"format\": \"program 1\", \"name\": \"" + name + "\", \"zones\": [" + zones + "]}";
    }

    @BeforeEach void sound() throws Exception { wav(card.resolve("sounds/a.wav"), 44_100, 16, 1, 4410); }

    private Device.Loaded sampler() throws Exception { return new KeyboardSampler().load(card); }

    @Test void aCardThatKeepsTheRulesLoads() throws Exception {
        program(program("Glass", ZONE));
        assertThat(sampler().refusals()).isEmpty();
        assertThat(sampler().presets()).singleElement().satisfies(p -> assertThat(p.slots()).hasSize(1));
        assertThat(sampler().memoryBytes()).isEqualTo(8820);
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"program 1|program 2|format 'program 2'; reads 'program 1'",
        "gainDb|gain|zone 1: 'gain' is not known in a zone",
        "[0, 127]|[60, 50]|zone 1: keys [60,50]", "[1, 127]|[0, 127]|zone 1: velocities [0,127]",
        "sounds/a.wav|sounds/b.wav|zone 1: sound 'sounds/b.wav' is missing",
        "sounds/a.wav|../a.wav|zone 1: sound '../a.wav' is not below the program", "1000|9999|zone 1: loop 0 to 9999 of 4410 frames",
        "forward|backward|zone 1: loop mode 'backward'", "\"rootKey\": 69,||zone 1: no root key",
        "\"gainDb\": 0|\"startFrame\": 5000|zone 1: plays frames 5000 to 4410 of 4410",
        "Glass|A name of more characters than there is room|name of 44 characters; has room for 32"}) void whatAProgramGetsWrongIsNamed(String right,
                String wrong,
                String reason) throws Exception {
        program(program("Glass", ZONE).replace(right, wrong == null ? "" : wrong));
        assertThat(sampler().presets()).isEmpty();
        assertThat(sampler().refusals()).singleElement().satisfies(r -> {
            assertThat(r.path()).isEqualTo("Glass.program");
            assertThat(r.reason()).isEqualTo(reason);
        });
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"22050|16|1|22050 Hz; plays [44100, 48000]", "44100|8|1|8 bit; plays [16, 24]",
        "44100|16|3|3 channels; plays up to 2"}) void soundsThatItDoesNotPlay(int rate, int bits, int channels, String reason) throws Exception {
        wav(card.resolve("sounds/a.wav"), rate, bits, channels, 4410);
        program(program("Glass", ZONE));
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("zone 1: " + reason));
    }

    @Test void aFifthLayerATooLongListAndFullMemory() throws Exception {
        StringBuilder zones = new StringBuilder();
        for (int layer = 0; layer < 5; layer++)
            zones.append(layer == 0 ? "" : ",").append(ZONE.replace("[1, 127]", "[" + (1 + 20 * layer) + ", " + (20 + 20 * layer) + "]"));
        program(program("Glass", zones.toString()));
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("5 velocity layers on key 0; plays 4"));
        program(program("Glass", (ZONE + ",").repeat(128) + ZONE));
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("129 zones; has room for 128"));
        wav(card.resolve("sounds/a.wav"), 44_100, 24, 2, 11_000_000);
        program(program("Glass", ZONE));
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("memory full: 66000000 of 64000000 bytes"));
    }

    @Test void whatIsNoWavFile() throws Exception {
        program(program("Glass", ZONE));
        byte[] whole = Files.readAllBytes(card.resolve("sounds/a.wav"));
        Files.write(card.resolve("sounds/a.wav"), Arrays.copyOf(whole, 1000));
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("zone 1: file is cut off in its 'data' chunk"));
        Files.writeString(card.resolve("sounds/a.wav"), "no sound at all");
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("zone 1: not a WAV file"));
        program("{ half");
        assertThat(sampler().refusals()).singleElement().satisfies(r -> assertThat(r.reason()).startsWith("not JSON: "));
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"001-KIT/1-KICK.wav|44100|16|1|", "101-KIT/1-KICK.wav|44100|16|1|101-KIT: folder name",
        "001-kit/1-KICK.wav|44100|16|1|001-kit: folder name",
        "001-KIT/0-KICK.wav|44100|16|1|001-KIT/0-KICK.wav: file name", "001-KIT/1-KICK.wav|48000|16|1|001-KIT/1-KICK.wav: 48000 Hz",
        "001-KIT/1-KICK.wav|44100|24|1|001-KIT/1-KICK.wav: 24 bit", "001-KIT/1-A NAME.wav|44100|16|1|001-KIT/1-A NAME.wav: file name",
        "001-KIT/note.txt|44100|16|1|001-KIT/note.txt: not a WAV"}) void padsTakeWhatTheyTake(String path, int rate, int bits, int channels, String reason)
                throws Exception {
        refusal(new DrumPads(), path, rate, bits, channels, reason);
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"SONG/BASS.wav|44100|16|1|", "SONG/BASS.wav|44100|16|2|SONG/BASS.wav: 2 channels",
        "SONG/bass.wav|44100|16|1|SONG/bass.wav: file name",
        "SONG/LONG_NAME.wav|44100|16|1|SONG/LONG_NAME.wav: file name", "LONG_SONG/BASS.wav|44100|16|1|LONG_SONG: folder name"}) void tracksTakeWhatTheyTake(
                String path, int rate, int bits, int channels, String reason) throws Exception {
        refusal(new FourTrack(), path, rate, bits, channels, reason);
    }

    private void refusal(Device device, String path, int rate, int bits, int channels, String reason) throws Exception {
        Path other = card.resolve("card");
        wav(other.resolve(path), rate, bits, channels, 441);
        Device.Loaded loaded = device.load(other);
        if (reason == null)
            assertThat(loaded.refusals()).isEmpty();
        else
            assertThat(loaded.refusals()).singleElement().satisfies(r -> assertThat(r.path() + ": " + r.reason()).startsWith(reason));
        assertThat(loaded.presets().stream().mapToInt(p -> p.slots().size()).sum()).isEqualTo(reason == null ? 1 : 0);
    }

    @Test void aTenthPadAndALongSoundAreRefused() throws Exception {
        Path other = card.resolve("card");
        for (int i = 0; i < 10; i++)
            wav(other.resolve("001-KIT/" + Math.max(1, i) + "-P" + i + ".wav"), 44_100, 16, 1, 44);
        assertThat(new DrumPads().load(other).refusals()).singleElement().satisfies(r -> assertThat(r.reason()).isEqualTo("more than 9 files in a folder"));
        wav(other.resolve("002-KIT/1-LONG.wav"), 44_100, 16, 1, 61 * 44_100);
        assertThat(new DrumPads().load(other).refusals()).hasSize(2).anySatisfy(r -> assertThat(r.reason()).isEqualTo("longer than 60 s"));
    }

    /// A file of holes takes no room here, and all of it on the card; a byte more than whole clusters takes one more.
    @ParameterizedTest @CsvSource({"drum-pads,1000000000,32768", "four-track,128000000,16384",
        "card-sampler,2000000000,32768"}) void moreThanACardHoldsIsRefused(String device, long bytes, int cluster) throws Exception {
        Path other = Files.createDirectory(card.resolve("other"));
        long whole = bytes / cluster * cluster;
        try (var file = new java.io.RandomAccessFile(other.resolve("stray").toFile(), "rw")) {
            file.setLength(whole);
            assertThat(Device.byId(device).orElseThrow().load(other).refusals()).isEmpty();
            file.setLength(whole + 1);
        }
        assertThat(Device.byId(device).orElseThrow().load(other).refusals()).containsExactly(
                new Device.Refusal(".", "files take " + (whole + cluster) + " bytes; a card has " + bytes));
    }
}
