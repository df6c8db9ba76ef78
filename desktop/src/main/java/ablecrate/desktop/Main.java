package ablecrate.desktop;

import ablecrate.demo.DemoCrate;
import ablecrate.demo.DemoDevices;
import ablecrate.demo.DemoSession;
import ablecrate.desktop.help.Report;
import ablecrate.disk.DiskFault;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.job.Presets;
import ablecrate.job.Recovery;
import ablecrate.library.Catalogue;
import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.SymbolLookup;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.image.Image;
import javafx.stage.Stage;
import org.slf4j.LoggerFactory;

/// Starts the window: with the last job, with a job's file, with the demo crate, or only to take its pictures.
public final class Main {
    /// System libraries that the window needs on Linux, and the package that has each (Debian's names).
    private static final Map<String, String> LINUX_LIBRARIES = new LinkedHashMap<>(
            Map.of("libgtk-3.so.0", "libgtk-3-0", "libXtst.so.6", "libxtst6", "libX11.so.6", "libx11-6"));

    private Main() {}

    /// What the command line asks for.
    private sealed interface Start {
        record Last() implements Start {}

        record Open(Path job) implements Start {}

        record Demo() implements Start {}

        /// @param until name of the last picture; empty: all
        record Shots(Path folder, Settings settings, String until) implements Start {
            /// Empty where the arguments behind the folder are none of those that there are.
            static Optional<Start> of(Path folder, List<String> arguments) {
                Shots shots = new Shots(folder, Settings.DEFAULT, "");
                for (int i = 0; i + 1 < arguments.size(); i += 2) {
                    String value = arguments.get(i + 1);
                    if (arguments.get(i).equals("--size") && value.matches("[1-9]\\d{2,3}x[1-9]\\d{2,3}"))
                        shots = new Shots(folder, shots.settings().sized(value), shots.until());
                    else
                        if (arguments.get(i).equals("--until"))
                            shots = new Shots(folder, shots.settings(), value);
                        else
                            return Optional.empty();
                }
                return arguments.size() % 2 == 0 ? Optional.of(shots) : Optional.empty();
            }
        }

        /// Empty where the arguments are none.
        static Optional<Start> of(List<String> arguments) {
            if (arguments.isEmpty()) return Optional.of(new Last());
            if (arguments.getFirst().equals("demo")) {
                if (arguments.size() == 1) return Optional.of(new Demo());
                if (arguments.get(1).equals("--shots") && arguments.size() > 2)
                    return Shots.of(Path.of(arguments.get(2)), arguments.subList(3, arguments.size()));
            }
            return arguments.size() == 1 && arguments.getFirst().endsWith(Jobs.EXTENSION)
                    ? Optional.of(new Open(Path.of(arguments.getFirst())))
                    : Optional.empty();
        }
    }

    public static void main(String[] arguments) throws IOException {
        if (arguments.length == 3 && arguments[0].equals("demo") && arguments[1].equals("--crate")) {
            Path crate = DemoCrate.make(Path.of(arguments[2]));
            System.out.println(crate);
            System.out.println(DemoSession.make(crate));
            DemoDevices.make(crate).forEach(System.out::println);
            return;
        }
        Optional<Start> start = Start.of(List.of(arguments));
        if (start.isEmpty()) {
            System.err.println("ablecrate: usage: ablecrate [demo [--shots DIR [--size WIDTHxHEIGHT] [--until PICTURE] | --crate DIR] | JOB.ablecrate]");
            System.exit(2);
            return;
        }
        boolean offScreen = "Headless".equals(System.getProperty("glass.platform"));
        if (offScreen && !(start.get() instanceof Start.Shots))
            System.err.println("ablecrate: no display was found, so the window runs off screen. To see it, start it on a desktop, or with DISPLAY set\n"
                    + "(for example under an X server that you reach from afar). 'ablecrate demo --shots DIR' writes pictures of it. Ctrl-C ends it.");
        if (!offScreen) missingLibrary().ifPresent(m -> {
            System.err.println("ablecrate: " + m);
            System.exit(3);
        });
        App.start = start.get();
        Report.begin(Report.logFile());
        try {
            Application.launch(App.class);
        } catch (RuntimeException | UnsatisfiedLinkError e) {
            System.err.println("ablecrate: the window could not be opened: " + (e.getCause() == null ? e : e.getCause()).getMessage());
            System.exit(3);
        }
    }

    @SuppressWarnings("restricted") // native access is granted by the start script
    private static Optional<String> missingLibrary() {
        if (!System.getProperty("os.name", "").startsWith("Linux")) return Optional.empty();
        for (Map.Entry<String, String> library : LINUX_LIBRARIES.entrySet())
            try (Arena arena = Arena.ofConfined()) {
                SymbolLookup.libraryLookup(library.getKey(), arena);
            } catch (IllegalArgumentException missing) {
                return Optional.of("the window needs the system library " + library.getKey() + ", which is not installed (on Debian and its kin: apt install "
                        + library.getValue() + ")");
            }
        return Optional.empty();
    }

    /// The JavaFX application; made by the toolkit, hence the static way in.
    public static final class App extends Application {
        private static final int MOST_FAULTS = 100;
        private static Start start = new Start.Last();

        private final AtomicInteger faults = new AtomicInteger();
        private final ExecutorService workers = Executors.newFixedThreadPool(Math.max(2, Runtime.getRuntime().availableProcessors()),
                Thread.ofPlatform().name("work-", 0).daemon().factory());
        private AppWindow window;
        private Path settingsFile;
        private Optional<Recovery> recovery = Optional.empty();

        @Override public void start(Stage stage) throws IOException {
            boolean isDemo = start instanceof Start.Demo || start instanceof Start.Shots;
            settingsFile = Settings.usualFile();
            Settings settings = start instanceof Start.Shots shots ? shots.settings() : isDemo ? Settings.DEFAULT : Settings.load(settingsFile);
            window = new AppWindow(new Background(workers, Platform::runLater), Platform::runLater, settings, isDemo ? Catalogue.none() : Catalogue.ofUser(),
                    Presets.ofUser());
            // Off screen the toolkit minds windows that are larger than the screen it thinks of; pictures of them are whole all the same.
            if (!(start instanceof Start.Shots)) Thread.setDefaultUncaughtExceptionHandler((thread, e) -> {
                // What fails with every picture would fill the disk.
                if (faults.incrementAndGet() <= MOST_FAULTS) LoggerFactory.getLogger(Main.class).error("in {}", thread.getName(), e);
                Platform.runLater(() -> window.crate().fail("a fault in Able Crate itself: " + e + ". Shift+F1 copies a report of it."));
            });
            window.useChoosers(
                    new SystemChoosers(stage, () -> window.settings().recent().chooserFolder(),
                            folder -> window.remember(window.settings().withChooserFolder(folder))));
            stage.setScene(window.scene());
            stage.titleProperty().bind(window.crate().fileProperty().map(f -> f.map(p -> p.getFileName() + " – Able Crate").orElse("Able Crate")));
            stage.getIcons().add(new Image(AppWindow.class.getResource("icon.png").toExternalForm()));
            stage.setMinWidth(1000);
            stage.setMinHeight(640);
            settings.place().x().ifPresent(stage::setX);
            settings.place().y().ifPresent(stage::setY);
            stage.show();
            switch (start) {
                case Start.Last() -> settings.recent().openJob().map(Path::of).filter(Files::exists).ifPresent(window.crate()::open);
                case Start.Open(Path job) -> window.crate().open(job);
                case Start.Demo() -> {
                    // They stand among the recent jobs, under More.
                    for (Path job : DemoDevices.make(DemoCrate.make(demoFolder())).reversed())
                        window.remember(window.settings().withJob(job));
                    window.crate().start(demoJob(demoFolder()));
                }
                case Start.Shots(Path folder, Settings _, String until) -> new Shots(window, folder, until, Platform::exit).take();
            }
            if (!isDemo) {
                keepWork();
                stage.setOnCloseRequest(e -> {
                    e.consume();
                    window.beforeClosing(() -> close(stage));
                });
            }
        }

        private void keepWork() {
            try {
                recovery = Optional.of(Recovery.ofUser());
                window.keepWork(recovery.get(), new Background(workers, Platform::runLater));
            } catch (IOException e) {
                window.crate().fail("what is unsaved cannot be kept for a crash: " + DiskFault.text(e));
            }
        }

        private void close(Stage stage) {
            window.settings().with(
                    new Settings.Place(Optional.of(stage.getX()), Optional.of(stage.getY()), window.scene().getWidth(), window.scene().getHeight()))
                    .save(settingsFile);
            recovery.ifPresent(r -> {
                try {
                    r.forget();
                } catch (IOException e) {
                    // It is offered at the next start, and can be thrown away there.
                }
            });
            stage.close();
        }

        @Override public void stop() {
            // A preview that was looked at last goes with the window.
            if (window != null) window.beside().shownProperty().set(false);
            if (window != null) window.device().changes().close();
            workers.shutdownNow();
        }
    }

    /// Beside the system's temporary files: made in a moment, and no one's library.
    private static Path demoFolder() { return Path.of(System.getProperty("java.io.tmpdir"), "ablecrate-demo"); }

    /// The demo crate, aimed at a session, ready to pack.
    static Job demoJob(Path folder) throws IOException {
        Path crate = DemoCrate.make(folder);
        return Job.EMPTY.gathering(List.of(crate)).aimedAt("session").packingInto(Optional.of(DemoSession.make(crate)));
    }
}
