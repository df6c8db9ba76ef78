package ablecrate.benchmarks;

import ablecrate.desktop.AppWindow;
import ablecrate.desktop.Background;
import ablecrate.desktop.Settings;
import ablecrate.job.Presets;
import ablecrate.library.Catalogue;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Executors;
import java.util.stream.Stream;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.stage.Stage;

/// How soon the window is there, by the clock of the virtual machine, and whether it answers while a large folder is gathered: the times between its pictures, from the order to gather until all is read, and how much
/// of them the thread of the interface works itself; the rest it waits for a processor, as files are read on all of them.
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

    private static final class Watch extends AnimationTimer {
        private static final long SETTLE_NANOS = 2_000_000_000L;

        private final AppWindow window;
        private final List<Double> gapsMs = new ArrayList<>(), workMs = new ArrayList<>();
        private long before, workBefore, gatheredAt, firstPicture, pictures;
        private double upAfter;

        Watch(AppWindow window) { this.window = window; }

        @Override public void handle(long picture) {
            long now = System.nanoTime(), work = ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
            if (firstPicture == 0) firstPicture = now;
            // By the second, the first was drawn.
            if (++pictures == 2) upAfter = (System.currentTimeMillis() - ManagementFactory.getRuntimeMXBean().getStartTime()) / 1000.0;
            if (gatheredAt == 0 && now - firstPicture > SETTLE_NANOS) {
                gatheredAt = now;
                window.crate().gather(List.of(folder));
            } else
                if (gatheredAt > 0) {
                    gapsMs.add((now - before) / 1e6);
                    workMs.add((work - workBefore) / 1e6);
                }
            before = now;
            workBefore = work;
            boolean isDone = gatheredAt > 0 && !window.crate().readingProperty().get() && window.list().all().size() == files;
            if (!isDone) return;
            stop();
            gapsMs.sort(null);
            workMs.sort(null);
            System.out.printf(Locale.ROOT,
                    "| the window, there after %.1f s, while %,d files are gathered | %.1f s | one each %.0f ms, 99 of 100 within %.0f ms, the slowest %.0f ms | at most %.0f ms |%n",
                    upAfter, window.list().all().size(), (now - gatheredAt) / 1e9, gapsMs.get(gapsMs.size() / 2), gapsMs.get(gapsMs.size() * 99 / 100),
                    gapsMs.getLast(), workMs.getLast());
            Platform.exit();
        }
    }
}
