package ablecrate.desktop;

import ablecrate.desktop.gathered.GatheredView;
import ablecrate.desktop.list.PackingListView;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.Scene;
import javafx.scene.control.SplitPane;

/// What the window remembers, kept and done: its look, the share of the bench, what was opened and gathered last.
final class Remembered {
    private final Models models;
    private final PackingListView list;
    private final SplitPane work;
    private final TextSize textSize;
    private final Scene scene;
    private Settings settings;
    private double benchShare;

    /// Looks as it is remembered.
    /// @param work list and bench
    /// @param textSize root of the scene
    Remembered(Settings settings, Models models, PackingListView list, GatheredView gathered, SplitPane work, TextSize textSize) {
        this.settings = settings;
        this.models = models;
        this.list = list;
        this.work = work;
        this.textSize = textSize;
        scene = textSize.getScene();
        Settings.Look look = settings.look();
        benchShare = look.benchShare();
        work.setDividerPositions(look.isBenchLarge() ? 0 : benchShare);
        list.show(look.columns());
        list.showSteps(!look.areStepsHidden());
        list.onHideSteps(() -> showSteps(false));
        setDark(look.isDark());
        setTextSize(look.textPercent());
        models.crate.catalogue().knowContents(settings.isContentKnown());
        models.crate.jobProperty().subscribe((before, now) -> {
            if (before != null)
                now.sources().stream().filter(f -> !before.sources().contains(f) && Files.isDirectory(f))
                        .forEach(f -> this.settings = this.settings.withGathered(f));
            gathered.showRecent(this.settings.recent().folders().stream().map(Path::of).filter(f -> !now.sources().contains(f)).toList());
        });
        models.crate.fileProperty().subscribe(f -> f.ifPresent(path -> this.settings = this.settings.withJob(path)));
        settings.watched().stream().map(Path::of).filter(Files::isDirectory).forEach(f -> models.library.watch(f, true));
        models.library.watchedProperty().subscribe((before, now) -> {
            if (before != null) this.settings = this.settings.withWatched(now);
        });
    }

    /// As they are now, but for the window's place.
    Settings settings() {
        double share = isBenchLarge() ? benchShare : work.getDividerPositions()[0];
        return settings.with(settings.look().withBench(share, isBenchLarge()).withColumns(list.columns()));
    }

    void remember(Settings changed) { settings = changed; }

    boolean isDark() { return settings.look().isDark(); }

    void setDark(boolean isDark) {
        settings = settings.withDark(isDark);
        scene.getRoot().getStyleClass().remove("dark");
        if (isDark) scene.getRoot().getStyleClass().add("dark");
    }

    /// @param percent one of [TextSize#STEPS]
    void setTextSize(int percent) {
        settings = settings.withText(percent);
        textSize.show(scene, percent);
    }

    void stepTextSize(int direction) {
        setTextSize(TextSize.step(settings.look().textPercent(), direction));
        models.crate.tell("text at " + settings.look().textPercent() + " %");
    }

    boolean areStepsShown() { return !settings.look().areStepsHidden(); }

    void showSteps(boolean areShown) {
        settings = settings.withStepsHidden(!areShown);
        list.showSteps(areShown);
    }

    boolean isContentKnown() { return settings.isContentKnown(); }

    void knowContents(boolean isWanted) {
        settings = settings.withContentKnown(isWanted);
        models.crate.catalogue().knowContents(isWanted);
        models.crate.tell(isWanted ? "files that were moved, renamed or copied are known by their content" : "files are known by their path, size and date");
    }

    private boolean isBenchLarge() { return work.getDividerPositions()[0] < 0.2; }

    void toggleBench() {
        if (isBenchLarge())
            work.setDividerPositions(benchShare);
        else {
            benchShare = work.getDividerPositions()[0];
            work.setDividerPositions(0);
        }
    }
}
