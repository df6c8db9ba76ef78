package ablecrate.desktop;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// The system's dialogues for files and folders, behind an interface that tests answer.
public interface Choosers {
    List<Path> files(String title);

    Optional<Path> folder(String title);

    Optional<Path> jobToOpen();

    Optional<Path> jobToSave(String suggested);

    Optional<Path> sheetToOpen();

    Optional<Path> sheetToSave(String suggested);

    Optional<Path> midiToPlay();

    /// Shows a file or folder in the system's file manager.
    /// @return what stood in the way, if anything
    Optional<String> reveal(Path path);
}
