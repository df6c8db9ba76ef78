package ablecrate.desktop;

import ablecrate.job.Jobs;
import java.awt.Desktop;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.stage.Window;

/// The real dialogues; they open where the last one ended.
final class SystemChoosers implements Choosers {
    private final Window owner;
    private final Supplier<Optional<String>> lastFolder;
    private final Consumer<Path> remember;

    SystemChoosers(Window owner, Supplier<Optional<String>> lastFolder, Consumer<Path> remember) {
        this.owner = owner;
        this.lastFolder = lastFolder;
        this.remember = remember;
    }

    @Override public List<Path> files(String title) {
        List<File> chosen = chooser(title).showOpenMultipleDialog(owner);
        if (chosen == null) return List.of();
        remember.accept(chosen.getFirst().toPath().getParent());
        return chosen.stream().map(File::toPath).toList();
    }

    @Override public Optional<Path> folder(String title) {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle(title);
        start().ifPresent(chooser::setInitialDirectory);
        Optional<Path> chosen = Optional.ofNullable(chooser.showDialog(owner)).map(File::toPath);
        chosen.ifPresent(remember);
        return chosen;
    }

    @Override public Optional<Path> jobToOpen() { return one("Open a job", "Able Crate job", "*" + Jobs.EXTENSION); }

    @Override public Optional<Path> sheetToOpen() { return one("Choose a destination sheet", "Destination sheet", "*.json"); }

    @Override public Optional<Path> midiToPlay() { return one("Choose a MIDI file", "MIDI file", "*.mid", "*.midi"); }

    @Override public Optional<Path> jobToSave(String suggested) { return toSave("Save the job", suggested, Jobs.EXTENSION); }

    @Override public Optional<Path> sheetToSave(String suggested) { return toSave("Save the destination sheet", suggested, ".json"); }

    private Optional<Path> toSave(String title, String suggested, String extension) {
        FileChooser chooser = chooser(title);
        chooser.setInitialFileName(suggested);
        return Optional.ofNullable(chooser.showSaveDialog(owner)).map(File::toPath)
                .map(p -> p.toString().endsWith(extension) ? p : p.resolveSibling(p.getFileName() + extension));
    }

    @Override public Optional<String> reveal(Path path) {
        Path folder = Files.isDirectory(path) ? path : path.getParent();
        if (!Desktop.isDesktopSupported() || !Desktop.getDesktop().isSupported(Desktop.Action.OPEN))
            return Optional.of("this system opens no folders; it is " + folder);
        Thread.ofVirtual().start(() -> {
            try {
                Desktop.getDesktop().open((Files.isRegularFile(path) && path.toString().endsWith(".html") ? path : folder).toFile());
            } catch (IOException | RuntimeException e) {
                org.slf4j.LoggerFactory.getLogger(SystemChoosers.class).warn("cannot open {}", folder, e);
            }
        });
        return Optional.empty();
    }

    private Optional<Path> one(String title, String kind, String... globs) {
        FileChooser chooser = chooser(title);
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter(kind, globs));
        return Optional.ofNullable(chooser.showOpenDialog(owner)).map(File::toPath);
    }

    private FileChooser chooser(String title) {
        FileChooser chooser = new FileChooser();
        chooser.setTitle(title);
        start().ifPresent(chooser::setInitialDirectory);
        return chooser;
    }

    private Optional<File> start() { return lastFolder.get().map(File::new).filter(File::isDirectory); }
}
