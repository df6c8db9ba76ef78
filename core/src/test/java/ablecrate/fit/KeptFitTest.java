package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.library.Catalogue;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What was fitted is known again in another run, as long as nothing that it depends on has changed.
class KeptFitTest {
    @TempDir Path folder;

    /// What a new run knows without listening.
    private Optional<Fit> known(FitTask task) {
        try (Catalogue catalogue = new Catalogue(folder.resolve("catalogue.sqlite"))) {
            Measurements later = new Measurements(new SoundPath(), catalogue);
            later.measure(task, () -> true);
            return later.find(task).map(Fit.class::cast);
        }
    }

    private Fit fitted(FitTask task) {
        try (Catalogue catalogue = new Catalogue(folder.resolve("catalogue.sqlite"))) {
            Measurements first = new Measurements(new SoundPath(), catalogue);
            first.measure(task, () -> false);
            return (Fit) first.find(task).orElseThrow();
        }
    }

    @Test void anotherRunKnowsIt() throws Exception {
        MadeInstrument made = MadeInstrument.ofLayers(folder, 6);
        FitTask task = made.task(MadeInstrument.limits(0, 0, 3, 300_000));
        assertThat(known(task)).isEmpty();
        Fit fit = fitted(task);
        assertThat(fit.instruments().getFirst().steps()).as("what there is to keep").hasSizeGreaterThan(1);
        assertThat(known(task)).contains(fit);
    }

    @Test void whatIsAskedOtherwiseIsFittedAnew() throws Exception {
        MadeInstrument made = MadeInstrument.ofLayers(folder, 4);
        FitTask task = made.task(MadeInstrument.limits(0, 0, 2, 0));
        fitted(task);
        assertThat(known(made.task(MadeInstrument.limits(0, 0, 3, 0)))).as("another limit").isEmpty();
        FitRules pinned = new FitRules(Set.of(), Set.of(), Set.of(40));
        assertThat(known(new FitTask(task.instruments(), task.sounds(), task.limits(), task.ratesHz(), task.takesMono(), task.format(), pinned)))
                .as("a layer that has to stay").isEmpty();
        assertThat(known(new FitTask(task.instruments(), task.sounds(), task.limits(), List.of(22_050), task.takesMono(), task.format(), task.rules())))
                .as("other rates").isEmpty();
        Path sound = task.sounds().getLast().orElseThrow().file().path();
        Files.setLastModifiedTime(sound, FileTime.fromMillis(1_000_000));
        assertThat(known(task)).as("a file was changed").isEmpty();
    }
}
