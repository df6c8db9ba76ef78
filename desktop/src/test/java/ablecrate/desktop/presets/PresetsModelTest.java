package ablecrate.desktop.presets;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.desktop.SharedCrate;
import ablecrate.audio.Depth;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.job.Presets;
import ablecrate.option.Choice;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Options under a name; whatever goes wrong is told in words, and nothing is lost.
class PresetsModelTest {
    @TempDir Path folder;
    private final CrateModel crate = new CrateModel(new Background(Runnable::run, Runnable::run), SharedCrate.CATALOGUE);
    private PresetsModel model;

    @BeforeEach void open() {
        model = new PresetsModel(crate, new Presets(folder));
        crate.aim("files");
        crate.changeOptions(o -> o.withDepth(Choice.of(Depth.INT_16)), "depth");
        model.save("  matinee ");
    }

    private String told() { return model.toldProperty().get(); }

    @Test void whatWasSavedIsUsedInOneStepThatCanBeTakenBack() {
        assertThat(told()).isEqualTo("saved: matinee");
        assertThat(model.names()).containsExactly("matinee");
        crate.aim("session");
        crate.changeOptions(o -> o.withDepth(Choice.of(Depth.INT_24)), "depth");
        model.use("matinee");
        assertThat(crate.job().destination()).isEqualTo("files");
        assertThat(crate.job().options().depth()).isEqualTo(Choice.of(Depth.INT_16));
        assertThat(crate.undoLabel()).isEqualTo("use preset matinee");
        crate.undo();
        assertThat(crate.job().destination()).isEqualTo("session");
        assertThat(crate.job().options().depth()).isEqualTo(Choice.of(Depth.INT_24));
    }

    @Test void aPresetIsRenamedAndDeleted() {
        model.rename("matinee", "evening");
        assertThat(told()).isEqualTo("renamed: evening");
        assertThat(model.names()).containsExactly("evening");
        model.save("matinee");
        model.rename("matinee", "evening");
        assertThat(told()).isEqualTo("there is one of that name already");
        assertThat(model.names()).containsExactly("evening", "matinee");
        model.delete("evening");
        assertThat(told()).isEqualTo("deleted: evening");
        assertThat(model.names()).containsExactly("matinee");
    }

    @Test void savingAgainReplacesIt() {
        crate.changeOptions(o -> o.withDepth(Choice.of(Depth.FLOAT_32)), "depth");
        model.save("matinee");
        crate.changeOptions(o -> o.withDepth(Choice.of(Depth.INT_8)), "depth");
        model.use("matinee");
        assertThat(crate.job().options().depth()).isEqualTo(Choice.of(Depth.FLOAT_32));
        assertThat(model.names()).containsExactly("matinee");
    }

    @ParameterizedTest @ValueSource(strings = {"", "   ", "a/b", "..", "a\\b"}) void aNameThatIsNoneIsToldAndNothingWritten(String name) throws Exception {
        String before = told();
        model.save(name);
        assertThat(told()).isNotEqualTo(before).isNotBlank();
        model.rename("matinee", name);
        try (Stream<Path> files = Files.walk(folder)) {
            assertThat(files.filter(Files::isRegularFile)).hasSize(1);
        }
        model.renew();
        assertThat(model.names()).containsExactly("matinee");
    }

    @Test void onesThatAreGoneOrSpoiltAreToldAndNothingChanges() throws Exception {
        var before = crate.job();
        model.use("evening");
        assertThat(told()).contains("evening");
        try (Stream<Path> files = Files.walk(folder)) {
            Files.writeString(files.filter(Files::isRegularFile).findFirst().orElseThrow(), "{ \"destination\": 3 ");
        }
        model.use("matinee");
        assertThat(told()).isNotBlank();
        assertThat(crate.job()).isEqualTo(before);
    }
}
