package ablecrate.format.program;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.FormatException;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// Programs as `docs/devices/keyboard-sampler.md` has them, and as they should not be.
class ProgramFormatTest {
    /// What is missing is looked for in the folder above as well, which is to be ours too.
    @TempDir Path above;
    private Path folder;

    @BeforeEach void sound() throws Exception {
        folder = Files.createDirectory(above.resolve("card"));
        Sounds.wav(folder.resolve("sounds").resolve("a.wav"), 44_100, Depth.INT_16, Sounds.sine(440, 0.5, 44_100, 4410));
    }

    private InstrumentFile read(String text) throws Exception {
        Path file = Files.writeString(folder.resolve("Glass.program"), text);
        assertThat(InstrumentFormats.of(file).orElseThrow().id()).isEqualTo("program");
        return new ProgramFormat().read(file);
    }

    private static String program(String zones) { return "{\"format\": \"program 1\", \"name\": \"Glass\", \"zones\": [" + zones + "]}"; }

    /// Every value of the page's example, by hand.
    @Test void aZoneIsReadAsThePageSays() throws Exception {
        InstrumentFile file = read(
                program("""
                        {"sound": "sounds/a.wav", "keys": [48, 52], "velocities": [1, 64], "rootKey": 50, "tuningCents": -3.5, "gainDb": -6, "panPercent": 25,
                         "velocityToLevelPercent": 40, "loop": {"startFrame": 100, "endFrame": 2000, "mode": "alternating", "crossfadeSeconds": 0.01}, "exclusiveGroup": 2,
                         "attackSeconds": 0.1, "decaySeconds": 0.5, "sustainDb": -12, "releaseSeconds": 0.3}"""));
        assertThat(file.problems()).isEmpty();
        Zone zone = file.instruments().getFirst().zones().getFirst();
        assertThat(zone.get(Parameter.KEYS)).isEqualTo(new Span(48, 52));
        assertThat(zone.get(Parameter.VELOCITIES)).isEqualTo(new Span(1, 64));
        assertThat(zone.get(Parameter.ROOT_KEY)).isEqualTo(50);
        assertThat(zone.get(Parameter.TUNING)).isEqualTo(-3.5);
        assertThat(zone.get(Parameter.GAIN)).isEqualTo(-6);
        assertThat(zone.get(Parameter.PAN)).isEqualTo(25);
        assertThat(zone.get(Parameter.VELOCITY_TRACKING)).isEqualTo(40);
        assertThat(zone.get(Parameter.LOOPS)).containsExactly(Loop.sustain(new FrameRange(100, 2000), LoopMode.ALTERNATING));
        assertThat(zone.get(Parameter.LOOP_CROSSFADE)).isEqualTo(0.01);
        assertThat(zone.get(Parameter.SILENCED_BY)).isEqualTo(2);
        assertThat(List.of(zone.get(Parameter.ATTACK), zone.get(Parameter.DECAY), zone.get(Parameter.SUSTAIN), zone.get(Parameter.RELEASE)))
                .containsExactly(0.1, 0.5, -12.0, 0.3);
        assertThat(file.sound(0).orElseThrow().frames()).isEqualTo(4410);
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"null|it is empty", "{\"rootKey\": 60}|Glass.program",
        "{\"sound\": \"sounds/a.wav\", \"rootKey\": 200}|root key",
        "{\"sound\": \"sounds/a.wav\", \"rootKey\": 60, \"keys\": [null, 5]}|keys: the lowest and the highest",
        "{\"sound\": \"sounds/a.wav\", \"rootKey\": 60, \"keys\": [5]}|keys",
        "{\"sound\": \"sounds/a.wav\", \"rootKey\": 60, \"keys\": [90, 5]}|span 90", "{\"sound\": \"sounds/a.wav\", \"rootKey\": 60, \"gainDb\": 1e300}|gain",
        "{\"sound\": \"sounds/a.wav\", \"rootKey\": 60, \"loop\": {\"startFrame\": 5, \"endFrame\": 5, \"mode\": \"forward\"}}|loop: frames 5 to 5"}) void whatIsNoZoneIsLeftOutAndNamed(
                String zone, String told) throws Exception {
        try {
            InstrumentFile file = read(program(zone + ", {\"sound\": \"sounds/a.wav\", \"rootKey\": 60}"));
            assertThat(file.instruments().getFirst().zones()).hasSize(1);
            assertThat(file.problems()).singleElement().satisfies(p -> assertThat(p.told()).startsWith("zone 1: ").contains(told));
        } catch (FormatException e) {
            assertThat(e.getMessage()).contains(told);
        }
    }

    @ParameterizedTest @ValueSource(strings = {"{\"format\": \"program 1\"}", "{\"format\": \"program 1\", \"zones\": null}",
        "{\"format\": \"program 9\", \"zones\": []}",
        "{\"format\": \"program 1\", \"zones\": [", "{\"format\": \"program 1\", \"colour\": 3}",
        "{\"format\": \"program 1\", \"zones\": [{\"sound\": \"x\", \"rootKey\": \"C\"}]}"}) void whatIsNoProgramIsRefused(String text) {
        assertThatThrownBy(() -> read(text)).isInstanceOf(FormatException.class);
    }

    @ParameterizedTest @ValueSource(strings = {"/etc/passwd", "../../b.wav", "C:\\\\b.wav", "missing.wav", "."}) void soundsThatAreNotBesideAreMissing(
            String sound) throws Exception {
        InstrumentFile file = read(program("{\"sound\": \"" + sound + "\", \"rootKey\": 60}"));
        assertThat(file.sound(0)).isEmpty();
        assertThat(file.problems()).isNotEmpty();
    }
}
