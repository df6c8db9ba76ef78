package ablecrate.disk;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/// The disk's faults in words.
public final class DiskFault {
    private DiskFault() {}

    public static String text(IOException e) {
        return switch (e) {
            case NoSuchFileException missing -> missing.getFile() + " is no longer there; gather it again";
            case AccessDeniedException denied -> denied.getFile() + " may not be read or written; check its permissions";
            case FileSystemException f when f.getReason() != null -> f.getFile() + ": the disk says '" + f.getReason() + "'";
            default -> e.getMessage() != null && e.getMessage().contains("No space left")
                    ? "the disk is full; make room and pack again, what is written stays"
                    : String.valueOf(e.getMessage());
        };
    }

    public static void deleteQuietly(Path part) {
        try {
            Files.deleteIfExists(part);
        } catch (IOException e) {
            // It lies under a temporary name; the next run removes it.
        }
    }
}
