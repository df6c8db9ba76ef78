package ablecrate.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.Instruments;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.json.Json;
import ablecrate.option.Choice;
import ablecrate.option.Fade;
import ablecrate.option.ItemEdit;
import ablecrate.option.LevelTarget;
import ablecrate.option.MonoLaw;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class JobTest {
    @TempDir Path folder;

    @Test void aSavedJobOpensAsItWas() throws Exception {
        PackOptions options = PackOptions.DEFAULT.withRate(Choice.keep()).withDepth(Choice.of(Depth.FLOAT_32)).withChannels(Optional.of(ChannelChoice.SPLIT))
                .withNamePattern(Optional.of("(number..) (name)"))
                .withMirror(Optional.of(true))
                .withTreatment(Treatment.NONE.withLevel(Optional.of(new LevelTarget(LevelMeasure.LUFS_M, -10.1))).withCeiling(Optional.of(-0.5))
                        .withFadeIn(Fade.NONE_IN.withMs(3)).withTrim(Optional.of(-60.0)).withLoopCrossfade(20));
        ItemEdit edit = ItemEdit.NONE.withPart(Optional.of(new FrameRange(10, 900))).withMonoLaw(Optional.of(MonoLaw.LEFT)).withGroup(Optional.of("harp"))
                .withLoops(Optional.of(List.of(Loop.sustain(new FrameRange(20, 800), LoopMode.ALTERNATING).withPlayCount(3)))).withLoopRise(Optional.of(4.5));
        Job job = new Job(List.of(Path.of("/sounds/a"), Path.of("/sounds/b.wav")), Set.of(Path.of("/sounds/a/x.wav")), "session", options,
                Map.of(Path.of("/sounds/b.wav"), edit), Optional.of(Path.of("/out")));
        Path file = folder.resolve("orchard.ablecrate");
        Jobs.save(job, file);
        assertThat(Jobs.open(file)).isEqualTo(job);
    }

    @Test void furtherDestinationsAreKeptInTheirOrder() throws Exception {
        PackOptions flac = PackOptions.DEFAULT.withRate(Choice.of(96_000));
        Job job = Job.EMPTY.gathering(List.of(Path.of("/sounds/a"))).withOptions(flac).packingInto(Optional.of(Path.of("/archive"))).alsoFor("drum-pads")
                .packingInto(Optional.of(Path.of("/card"))).alsoFor("session");
        assertThat(job.deliveries()).extracting(Delivery::destination).containsExactly("files", "drum-pads", "session");
        assertThat(job.destination()).as("the new one is looked at").isEqualTo("session");
        assertThat(job.options()).as("what was chosen for one goes on as far as the other leaves it open").isEqualTo(PackOptions.DEFAULT);
        assertThat(job.folders()).containsExactly(Path.of("/archive"), Path.of("/card"));
        assertThat(job.showing(1).notFor().deliveries()).extracting(Delivery::destination).containsExactly("files", "session");
        assertThat(Job.EMPTY.notFor()).as("one stays").isEqualTo(Job.EMPTY);
        Path file = folder.resolve("several.ablecrate");
        Jobs.save(job, file);
        assertThat(Jobs.open(file)).isEqualTo(job.showing(0));
    }

    @Test void aJobOfMoreDestinationsThanGoIsRefused() throws Exception {
        Job most = Job.EMPTY;
        while (most.deliveries().size() < Job.MOST_DELIVERIES)
            most = most.alsoFor("files");
        Path file = folder.resolve("many.ablecrate");
        Jobs.save(most, file);
        String text = Files.readString(file), entry = "{\"destination\" : \"files\", \"options\" : {}, \"into\" : null}";
        Files.writeString(file, text.replaceFirst("\"also\" : \\[", "\"also\" : [" + entry + ","));
        assertThatThrownBy(() -> Jobs.open(file)).isInstanceOf(Json.JsonFault.class).hasMessageContaining("9 destinations; a job has 1 to 8");
    }

    @Test void aJobOfAVersionWithoutLoopsOpens() throws Exception {
        Job job = new Job(List.of(Path.of("/sounds/a")), Set.of(), "files", PackOptions.DEFAULT,
                Map.of(Path.of("/sounds/b.wav"), ItemEdit.NONE.withGroup(Optional.of("harp"))), Optional.empty());
        Path file = folder.resolve("earlier.ablecrate");
        Jobs.save(job, file);
        String text = Files.readString(file), without = text.replaceAll("\\s*\"loops\" : null,|,\\s*\"loops\" : null", "");
        Files.writeString(file, without);
        assertThat(Jobs.open(file)).isEqualTo(job);
    }

    @Test void aSpoiltJobSaysWhereAndIsNotOpened() throws Exception {
        Path file = Files.writeString(folder.resolve("bad.ablecrate"), "{\n  \"version\": 1,\n  \"sorces\": []\n}");
        assertThatThrownBy(() -> Jobs.open(file)).isInstanceOf(Json.JsonFault.class).hasMessageContaining("bad.ablecrate, line ")
                .hasMessageContaining("no key 'sorces' is known here");
    }

    @Test void everyStepCanBeTakenBackAndDoneAgain() {
        History<Integer> history = new History<>(0);
        history.step(1, "one");
        history.step(2, "two");
        history.step(2, "nothing new");
        assertThat(history.undoLabel()).isEqualTo("two");
        assertThat(history.undo()).isEqualTo(1);
        assertThat(history.undo()).isZero();
        assertThat(history.canUndo()).isFalse();
        history.look(10);
        assertThat(history.canRedo()).as("looking at something else is no step").isTrue();
        assertThat(history.redo()).isEqualTo(1);
        history.step(5, "five");
        assertThat(history.canRedo()).isFalse();
    }

    @Test void whatWasTakenOutComesBackWhenItsFolderIsGatheredAgain() {
        Job job = Job.EMPTY.gathering(List.of(Path.of("/a"))).without(Set.of(Path.of("/a/x.wav")));
        assertThat(job.removed()).hasSize(1);
        assertThat(job.gathering(List.of(Path.of("/a"))).removed()).isEmpty();
        assertThat(job.gathering(List.of(Path.of("/b"))).removed()).hasSize(1);
    }

    /// Whatever a zone can say, with all that a loop has.
    @Test void instrumentsMadeByHandOpenAsTheyWere() throws Exception {
        for (int seed = 0; seed < 40; seed++) {
            Instrument made = Instruments.random(new Random(seed), 3, 5);
            Loop whole = new Loop(new FrameRange(7, 900), LoopMode.ALTERNATING, Loop.Use.RELEASE, 3, 0x8000_0000L, 12);
            List<ZoneGroup> groups = new ArrayList<>(made.groups());
            groups.add(new ZoneGroup("by hand", List.of(Zone.of(1).with(Parameter.LOOPS, List.of(whole)), Zone.of(2))));
            Instrument withLoop = new Instrument(made.about(), Optional.of(new Instrument.Program(seed, seed % 3, seed % 5 == 0)), groups);
            Path sfz = Path.of("/sounds/harp.sfz");
            Job job = Job.EMPTY.gathering(List.of(sfz))
                    .editing(Set.of(sfz), e -> e.withMap(Optional.of(List.of(withLoop))).withAdded(List.of(Path.of("/sounds/lid.wav"))));
            Path file = folder.resolve("map.ablecrate");
            Jobs.save(job, file);
            assertThat(Jobs.open(file)).isEqualTo(job);
        }
    }

    @Test void aSettingThatIsNoneIsToldAndTheJobNotOpened() throws Exception {
        Path sfz = Path.of("/sounds/harp.sfz"), file = folder.resolve("map.ablecrate");
        Instrument harp = new Instrument(About.named("harp"), Optional.empty(), List.of(new ZoneGroup("", List.of(Zone.of(0).with(Parameter.PAN, 20.0)))));
        Jobs.save(Job.EMPTY.editing(Set.of(sfz), e -> e.withMap(Optional.of(List.of(harp)))), file);
        Files.writeString(file, Files.readString(file).replace("\"pan\"", "\"brightness\""));
        assertThatThrownBy(() -> Jobs.open(file)).isInstanceOf(Json.JsonFault.class).hasMessageContaining("no setting 'brightness'");
        Files.writeString(file, Files.readString(file).replace("\"version\" : 2", "\"version\" : 99"));
        assertThatThrownBy(() -> Jobs.open(file)).isInstanceOf(Json.JsonFault.class).hasMessageContaining("99");
    }

    @Test void anOptionThatThereIsNotIsRefusedByItsName() throws Exception {
        Path file = folder.resolve("unknown.ablecrate");
        Jobs.save(Job.EMPTY, file);
        Files.writeString(file, Files.readString(file).replace("\"dither\"", "\"glitter\""));
        assertThatThrownBy(() -> Jobs.open(file)).isInstanceOf(Json.JsonFault.class).hasMessageContaining("no option is called 'glitter'");
    }

    @Test void whileSomethingIsDraggedTheStepsOnTheWayAreNone() {
        History<Integer> history = new History<>(0);
        for (int db = 1; db <= 9; db++)
            history.amend(db, "level");
        history.amend(20, "fade");
        assertThat(history.undo()).isEqualTo(9);
        assertThat(history.redoLabel()).isEqualTo("fade");
        assertThat(history.undo()).as("the whole drag is one step").isZero();
        assertThat(history.undo()).as("nothing is left to take back").isZero();
        assertThat(history.redo()).isEqualTo(9);
        history.amend(10, "level");
        assertThat(history.undo()).as("after undo a drag is a step of its own").isEqualTo(9);
        for (int n = 0; n < 600; n++)
            history.step(100 + n, "step");
        int back = 0;
        while (history.canUndo()) {
            history.undo();
            back++;
        }
        assertThat(back).as("memory has an end").isEqualTo(500);
    }

    @Test void aimingAnewKeepsHowSoundsAreTreatedAndLeavesWhatTheOldDestinationTook() {
        PackOptions options = PackOptions.DEFAULT.withRate(Choice.of(44_100)).withDepth(Choice.of(Depth.INT_16)).withNamePattern(Optional.of("(number)"))
                .withMonoLaw(MonoLaw.RIGHT).withTreatment(Treatment.NONE.withCeiling(Optional.of(-1.0)));
        PackOptions aimed = Job.EMPTY.withOptions(options).aimedAt("session").options();
        assertThat(aimed.rateHz()).isEqualTo(PackOptions.DEFAULT.rateHz());
        assertThat(aimed.depth()).isEqualTo(PackOptions.DEFAULT.depth());
        assertThat(aimed.namePattern()).isEmpty();
        assertThat(aimed.monoLaw()).isEqualTo(MonoLaw.RIGHT);
        assertThat(aimed.treatment()).isEqualTo(options.treatment());
    }

    @Test void anEditThatSaysNothingIsNoEdit() {
        Path file = Path.of("/a/x.wav");
        Job edited = Job.EMPTY.editing(Set.of(file), e -> e.withFadeIn(Optional.of(3.0)).withFadeOut(Optional.of(9.0)));
        assertThat(edited.edits()).containsOnlyKeys(file);
        assertThat(edited.editing(Set.of(file), e -> e.withFadeIn(Optional.empty()).withFadeOut(Optional.empty()))).isEqualTo(Job.EMPTY);
        assertThat(Job.EMPTY.gathering(List.of(Path.of("/a"))).without(Set.of(Path.of("/a"))).sources()).as("a source taken out goes").isEmpty();
    }
}
