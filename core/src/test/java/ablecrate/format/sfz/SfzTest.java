package ablecrate.format.sfz;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.format.InstrumentFile;
import ablecrate.format.Sample;
import ablecrate.instrument.About;
import ablecrate.instrument.Chance;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// The opcodes as the published list of the SFZ format has them (from memory), and what real files do.
class SfzTest {
    @TempDir Path folder;

    @BeforeEach void sounds() throws Exception {
        Sounds.wav(folder.resolve("Samples/Tone A.wav"), 44_100, Depth.INT_16, Sounds.sine(440, 0.5, 44_100, 5000));
        SoundMetadata looped = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(1000, 2000), LoopMode.FORWARD)))
                .withMapping(Mapping.NONE.withRootKey(Optional.of(57)));
        Sounds.write(folder.resolve("Samples/looped.wav"), "wav", 44_100, Depth.INT_16, looped, Sounds.sine(440, 0.5, 44_100, 5000));
    }

    private InstrumentFile read(String text) throws Exception { return new SfzFormat().read(Files.writeString(folder.resolve("harp.sfz"), text)); }

    private List<Zone> zones(String text) throws Exception { return read(text).instruments().getFirst().zones(); }

    private Zone zone(String text) throws Exception { return zones("<region> sample=Samples/Tone A.wav " + text).getFirst(); }

    @Test void settingsInheritDownwardsAndTheNearestWins() throws Exception {
        List<Zone> zones = zones("""
                <control> default_path=Samples\\
                <global> volume=-6 ampeg_release=1 // for all
                <master> pan=-50
                <group> volume=-3 lovel=1 hivel=64
                <region> sample=Tone A.wav key=60
                <region> sample=Tone A.wav key=c#4 volume=0
                <group>
                <region> sample=tone a.WAV key=62 /* the name as another system had it */
                <master> <group> <region> sample=Tone A.wav
                """);
        assertThat(zones).extracting(z -> z.get(Parameter.GAIN)).containsExactly(-3.0, 0.0, -6.0, -6.0);
        assertThat(zones).extracting(z -> z.get(Parameter.PAN)).containsExactly(-50.0, -50.0, -50.0, 0.0);
        assertThat(zones).extracting(z -> z.get(Parameter.VELOCITIES).high()).containsExactly(64, 64, 127, 127);
        assertThat(zones).extracting(z -> z.get(Parameter.KEYS).low()).containsExactly(60, 61, 62, 0);
        assertThat(zones).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactly(60, 61, 62, 60);
        assertThat(zones).allMatch(z -> z.get(Parameter.RELEASE) == 1).allMatch(z -> z.sample() == zones.getFirst().sample() || z.sample() == 1);
    }

    @Test void definesAndIncludesArePutIn() throws Exception {
        Files.writeString(folder.resolve("common.txt"), "<group> cutoff=$CUT\n");
        List<Zone> zones = zones("#define $CUT 1200\n#define $DIR Samples\n#include \"common.txt\"\n<region> sample=$DIR/Tone A.wav\n");
        assertThat(zones.getFirst().get(Parameter.CUTOFF)).isEqualTo(1200);
        assertThat(zones.getFirst().get(Parameter.FILTER)).isEqualTo(FilterKind.LOW_PASS);
    }

    @Test void keysAreNumbersOrNames() throws Exception {
        assertThat(zone("lokey=c3 hikey=eb4 pitch_keycenter=f#3").get(Parameter.KEYS)).isEqualTo(new Span(48, 63));
        assertThat(zone("lokey=c3 hikey=eb4 pitch_keycenter=f#3").get(Parameter.ROOT_KEY)).isEqualTo(54);
        assertThat(zone("key=C-1").get(Parameter.KEYS)).isEqualTo(new Span(0, 0));
        assertThat(zones("<control> octave_offset=1 note_offset=-2 <region> sample=Samples/Tone A.wav key=60").getFirst().get(Parameter.ROOT_KEY))
                .isEqualTo(70);
    }

    /// Ends are the last frame that is played.
    @Test void endsAreInclusive() throws Exception {
        Zone zone = zone("offset=10 end=999 loop_mode=loop_sustain loop_start=100 loop_end=199");
        assertThat(zone.get(Parameter.START)).isEqualTo(10);
        assertThat(zone.get(Parameter.END)).hasValue(1000L);
        assertThat(zone.get(Parameter.LOOPS).getFirst().frames()).isEqualTo(new FrameRange(100, 200));
        assertThat(zone.get(Parameter.LOOP_UNTIL_RELEASE)).isTrue();
    }

    @Test void theLoopOfTheSampleCountsWhereNothingIsSaid() throws Exception {
        String region = "<region> sample=Samples/looped.wav ";
        assertThat(zones(region).getFirst().get(Parameter.LOOPS)).extracting(Loop::frames).containsExactly(new FrameRange(1000, 2000));
        assertThat(zones(region + "loop_mode=no_loop").getFirst().get(Parameter.LOOPS)).isEmpty();
        assertThat(zones(region + "loop_mode=one_shot").getFirst().get(Parameter.ONE_SHOT)).isTrue();
        assertThat(zones(region + "pitch_keycenter=sample").getFirst().get(Parameter.ROOT_KEY)).isEqualTo(57);
    }

    @Test void levelsTimesAndTurns() throws Exception {
        Zone zone = zone(
                "tune=-30 transpose=2 ampeg_sustain=50 seq_length=4 seq_position=3 lorand=0.25 hirand=0.5 xfin_lovel=20 xfin_hivel=40 group=2 off_by=3 trigger=release");
        assertThat(zone.get(Parameter.TUNING)).isEqualTo(170);
        assertThat(zone.get(Parameter.SUSTAIN)).as("half of full scale").isCloseTo(-6.0206, within(0.0001));
        assertThat(zone.get(Parameter.TURN)).isEqualTo(new Turn(3, 4));
        assertThat(zone.get(Parameter.CHANCE)).isEqualTo(new Chance(0.25, 0.5));
        assertThat(zone.get(Parameter.VELOCITY_FADE_IN)).hasValue(new Span(20, 40));
        assertThat(zone.get(Parameter.SILENCED_BY)).isEqualTo(3);
        assertThat(zone.get(Parameter.TRIGGER)).isEqualTo(Trigger.RELEASE);
    }

    @Test void whatIsNotUnderstoodIsCountedAndNamed() throws Exception {
        InstrumentFile file = read(
                "<global> reverb_type=hall <region> sample=Samples/Tone A.wav wobble=3 <region> sample=Samples/Tone A.wav wobble=4 offset_random=100 pan=left <curve> v000=0");
        assertThat(file.instruments().getFirst().zones()).extracting(z -> z.get(Parameter.EXTRAS).toString()).as("they go along where it stays SFZ")
                .containsExactly("reverb_type hall, wobble 3", "reverb_type hall, wobble 4");
        assertThat(file.problems()).anyMatch(p -> p.text().contains("2 settings are not understood: <curve>, offset_random"))
                .anyMatch(p -> p.text().contains("pan=left") && p.place().contains("line 1"));
    }

    @Test void aSampleThatMovedIsFoundByItsNameAndAMissingOneIsTold() throws Exception {
        InstrumentFile file = read("<region> sample=Old Place/Tone A.wav key=60\n<region> sample=gone.wav key=61\n<region> sample=/etc/passwd key=62\n");
        assertThat(file.samples().getFirst()).isInstanceOf(Sample.Found.class);
        assertThat(file.samples().get(1)).isInstanceOf(Sample.Missing.class);
        assertThat(file.samples().get(2)).isInstanceOf(Sample.Missing.class);
        assertThat(file.problems()).anyMatch(p -> p.text().contains("found at Samples"))
                .anyMatch(p -> p.text().contains("gone.wav") && p.place().equals("harp.sfz, line 2"));
    }

    @Test void sharedSettingsAreWrittenOnce() throws Exception {
        List<Zone> zones = new ArrayList<>();
        for (int key = 60; key < 70; key++)
            zones.add(Zone.of(0).with(Parameter.KEYS, new Span(key, key)).with(Parameter.RELEASE, 0.5).with(Parameter.PAN, key < 65 ? -20.0 : 20.0));
        Instrument made = new Instrument(About.named("Harp").with(About.Field.CREATOR, "Sound department"), Optional.empty(),
                List.of(new ZoneGroup("low", zones.subList(0, 5)), new ZoneGroup("high", zones.subList(5, 10))));
        String text = new String(new SfzFormat().write(made, List.of("Samples/Tone A.wav")), StandardCharsets.UTF_8);
        assertThat(text).startsWith("// name: Harp\n// creator: Sound department\n").containsOnlyOnce("ampeg_release=0.5").containsOnlyOnce("pan=-20")
                .containsOnlyOnce("pan=20")
                .containsOnlyOnce("sample=Samples/Tone A.wav");
    }
}
