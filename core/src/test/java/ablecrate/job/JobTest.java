package ablecrate.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.LevelMeasure;
import ablecrate.json.Json;
import ablecrate.plan.Choice;
import ablecrate.plan.Fade;
import ablecrate.plan.ItemEdit;
import ablecrate.plan.LevelTarget;
import ablecrate.plan.MonoLaw;
import ablecrate.plan.PackOptions;
import ablecrate.plan.Treatment;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
        ItemEdit edit = ItemEdit.NONE.withPart(Optional.of(new FrameRange(10, 900))).withMonoLaw(Optional.of(MonoLaw.LEFT)).withGroup(Optional.of("harp"));
        Job job = new Job(List.of(Path.of("/sounds/a"), Path.of("/sounds/b.wav")), Set.of(Path.of("/sounds/a/x.wav")), "session", options,
                Map.of(Path.of("/sounds/b.wav"), edit), Optional.of(Path.of("/out")));
        Path file = folder.resolve("orchard.ablecrate");
        Jobs.save(job, file);
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
}
