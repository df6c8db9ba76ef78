package ablecrate.desktop;

import ablecrate.job.Jobs;
import ablecrate.job.Presets;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.application.Platform;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.framework.junit5.ApplicationExtension;

/// The real window, and the demo crate to gather. Work is done on the spot, so nothing has to be waited for.
@ExtendWith(ApplicationExtension.class) abstract class WindowFixture {
    static final Path crate = SharedCrate.FOLDER;
    @TempDir Path temp;
    AppWindow window;

    final void show(Stage stage) {
        window = new AppWindow(new Background(Runnable::run, WindowFixture::onFx), Platform::runLater, Settings.DEFAULT, SharedCrate.CATALOGUE,
                new Presets(temp.resolve("presets")));
        window.useChoosers(new Answers());
        stage.setScene(window.scene());
        stage.setX(0);
        stage.setY(0);
        stage.show();
    }

    /// Packing has threads of its own.
    private static void onFx(Runnable task) {
        if (Platform.isFxApplicationThread())
            task.run();
        else
            Platform.runLater(task);
    }

    /// Stops what sounds, and takes away what a window that closes takes away.
    @AfterEach void quiet() {
        Platform.runLater(() -> {
            window.hearing().stop();
            window.beside().shownProperty().set(false);
            window.device().changes().close();
        });
    }

    /// What a user would answer.
    class Answers implements Choosers {
        @Override public List<Path> files(String title) { return List.of(crate.resolve("Rhythms/windmill 96 bpm.wav")); }

        @Override public Optional<Path> folder(String title) {
            return Optional.of(switch (title) {
                case "Pack into" -> temp.resolve("out");
                case String named when named.startsWith("Pack into: ") -> temp.resolve(named.substring("Pack into: ".length()));
                case "Put the sounds into" -> temp.resolve("received");
                default -> crate;
            });
        }

        @Override public Optional<Path> jobToOpen() { return Optional.of(temp.resolve("job.ablecrate")); }

        @Override public Optional<Path> jobToSave(String suggested) { return Optional.of(temp.resolve("job" + Jobs.EXTENSION)); }

        @Override public Optional<Path> sheetToOpen() { return Optional.empty(); }

        @Override public Optional<Path> sheetToSave(String suggested) { return Optional.of(temp.resolve(suggested)); }

        @Override public Optional<Path> midiToPlay() { return Optional.empty(); }

        @Override public Optional<String> reveal(Path path) { return Optional.of("shown " + path.getFileName()); }
    }
}
