package ablecrate.benchmarks;

import ablecrate.desktop.AppWindow;
import ablecrate.desktop.Background;
import ablecrate.desktop.Settings;
import ablecrate.job.Presets;
import ablecrate.library.Catalogue;
import ablecrate.option.Choice;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.Executors;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.control.Button;
import javafx.stage.Stage;

/// How soon the window is there, by the clock of the virtual machine, and whether it answers while a large folder is gathered, planned anew, filtered and sorted: the times between its pictures until all is there,
/// and how much of them the thread of the interface works itself; the rest it waits for a processor, as files are read on all of them, or for memory to be collected.
public final class WindowLiveness {
    private static Path folder;
    private static long files;

    private WindowLiveness() {}

    /// @param arguments the folder to gather
    public static void main(String[] arguments) throws IOException {
        folder = Path.of(arguments[0]);
        try (Stream<Path> all = Files.walk(folder)) {
            files = all.filter(Files::isRegularFile).count();
        }
        Application.launch(Window.class);
    }

    /// The window that is watched.
    public static final class Window extends Application {
        @Override public void start(Stage stage) {
            Background background = new Background(
                    Executors.newFixedThreadPool(Math.max(2, Runtime.getRuntime().availableProcessors()), Thread.ofPlatform().daemon().factory()),
                    Platform::runLater);
            AppWindow window = new AppWindow(background, Platform::runLater, Settings.DEFAULT, new Catalogue(folder.resolveSibling("window.sqlite")),
                    new Presets(folder.resolveSibling("presets")));
            stage.setScene(window.scene());
            stage.show();
            new Watch(window).start();
        }
    }

    /// What a user does, and how it is known that all of it is there.
    private record Step(String told, Runnable start, BooleanSupplier isDone) {}

    private static List<Step> steps(AppWindow window) {
        Button worstFirst = (Button) window.scene().lookup("#worst-first");
        return List.of(
                new Step("files are gathered", () -> window.crate().gather(List.of(folder)),
                        () -> !window.crate().readingProperty().get() && window.list().all().size() == files),
                new Step("another rate is chosen, and all are planned anew",
                        () -> window.crate().changeOptions(o -> o.withRate(Choice.of(32_000)), "rate"), () -> window.crate().isKnownProperty().get()),
                new Step("those with a word in their names are shown", () -> window.list().textProperty().set("7"), () -> true),
                new Step("all are shown", () -> window.list().showAll(), () -> true),
                new Step("the worst come first", worstFirst::fire, () -> true));
    }

    private static final class Watch extends AnimationTimer {
        private static final long SETTLE_NANOS = 2_000_000_000L;

        private final AppWindow window;
        private final Queue<Step> steps;
        private Optional<Step> step = Optional.empty();
        private final List<Double> gapsMs = new ArrayList<>(), workMs = new ArrayList<>();
        private long before, workBefore, began, pictures;

        Watch(AppWindow window) {
            this.window = window;
            steps = new ArrayDeque<>(steps(window));
        }

        @Override public void handle(long picture) {
            long now = System.nanoTime(), work = ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
            if (began == 0) began = now;
            // By the second, the first was drawn.
            if (++pictures == 2)
                System.out.printf(Locale.ROOT, "| the window is there | %.1f s | | |%n",
                        (System.currentTimeMillis() - ManagementFactory.getRuntimeMXBean().getStartTime()) / 1000.0);
            if (step.isPresent()) {
                gapsMs.add((now - before) / 1e6);
                workMs.add((work - workBefore) / 1e6);
                // What was done by the start is drawn with the picture after it.
                if (gapsMs.size() > 1 && step.get().isDone.getAsBoolean()) tell(now);
            } else
                if (now - began > SETTLE_NANOS) next();
            before = now;
            workBefore = work;
        }

        private void next() {
            step = Optional.of(steps.remove());
            began = System.nanoTime();
            Platform.runLater(step.get().start);
        }

        private void tell(long now) {
            gapsMs.sort(null);
            workMs.sort(null);
            System.out.printf(Locale.ROOT, "| %s, of %,d | %.1f s | one each %.0f ms, 99 of 100 within %.0f ms, the slowest %.0f ms | at most %.0f ms |%n",
                    step.get().told, window.list().all().size(), (now - began) / 1e9, gapsMs.get(gapsMs.size() / 2), gapsMs.get(gapsMs.size() * 99 / 100),
                    gapsMs.getLast(), workMs.getLast());
            step = Optional.empty();
            gapsMs.clear();
            workMs.clear();
            began = now;
            if (!steps.isEmpty()) return;
            stop();
            Platform.exit();
        }
    }
}
