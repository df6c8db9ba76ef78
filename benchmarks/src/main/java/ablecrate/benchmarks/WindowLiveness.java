package ablecrate.benchmarks;

import ablecrate.desktop.AppWindow;
import ablecrate.desktop.Background;
import ablecrate.desktop.Settings;
import ablecrate.job.Presets;
import ablecrate.library.Catalogue;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Executors;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.stage.Stage;

/// Whether the window answers while a large folder is gathered: the times between its pictures, from the order to gather until all is read.
public final class WindowLiveness {
    private static Path folder;

    private WindowLiveness() {}

    /// @param arguments the folder to gather
    public static void main(String[] arguments) {
        folder = Path.of(arguments[0]);
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
        private final List<Double> gapsMs = new ArrayList<>();
        private long before, gatheredAt, firstPicture;

        Watch(AppWindow window) { this.window = window; }

        @Override public void handle(long picture) {
            long now = System.nanoTime();
            if (firstPicture == 0) firstPicture = now;
            if (gatheredAt == 0 && now - firstPicture > SETTLE_NANOS) {
                gatheredAt = now;
                window.crate().gather(List.of(folder));
            } else
                if (gatheredAt > 0) gapsMs.add((now - before) / 1e6);
            before = now;
            boolean isDone = gatheredAt > 0 && !window.crate().readingProperty().get() && !window.list().all().isEmpty();
            if (!isDone) return;
            stop();
            gapsMs.sort(null);
            System.out.printf(Locale.ROOT,
                    "| the window while %,d files are gathered | %.1f s | a picture each %.0f ms, 99 of 100 within %.0f ms, the slowest %.0f ms |%n",
                    window.list().all().size(), (now - gatheredAt) / 1e9, gapsMs.get(gapsMs.size() / 2), gapsMs.get(gapsMs.size() * 99 / 100),
                    gapsMs.getLast());
            Platform.exit();
        }
    }
}
