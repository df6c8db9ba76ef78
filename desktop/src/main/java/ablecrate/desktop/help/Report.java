package ablecrate.desktop.help;

import ablecrate.disk.UserFolders;
import ablecrate.json.Product;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.regex.Pattern;

/// What the window writes of its own faults, and what somebody sends who asks for help: versions, the system, the last lines of the log. Names of files and
/// folders are left out, as they may tell of work that nobody is to know of.
public final class Report {
    private static final int MOST_LINES = 200;
    private static final String HIDDEN = "(name)";
    private static final String ENDING = "\\.(?:wav|aiff?|flac|mp3|m4a|aac|ogg|opus|caf|w64|sds|syx|sfz|sf2|dls|midi?|m3u8?|pls|json|ablecrate)\\b";
    /// Where a path begins, and all that follows, as names may hold whatever stands between words; frames of a stack have their slash after a word.
    private static final Pattern PATH = Pattern.compile("(?:[A-Za-z]:\\\\|(?<![\\w.)])/).*");
    /// A name from where its words may begin to its ending; and one of a single word anywhere.
    private static final Pattern NAME = Pattern.compile("(?i)(?:(?<= - )|(?<=: )|(?<=['\"])|^)[^'\":]*?" + ENDING + "|[^\\s'\"]+" + ENDING);

    private Report() {}

    /// Of this run; what was written before lies beside it as `ablecrate.1.log`.
    public static Path logFile() { return UserFolders.caches().resolve("ablecrate.log"); }

    /// Has the log written into a file from now on, which has to be said before there is any logger. Where no file can be made it goes to the console.
    public static void begin(Path log) {
        try {
            Files.createDirectories(log.getParent());
            if (Files.exists(log)) Files.move(log, log.resolveSibling("ablecrate.1.log"), StandardCopyOption.REPLACE_EXISTING);
            System.setProperty("org.slf4j.simpleLogger.logFile", log.toString());
        } catch (IOException e) {
            // A folder that cannot be written to is no reason not to start.
        }
    }

    /// @param log where the log lies; it may be missing
    public static String of(Path log) {
        return String.join("\n", Product.NAME + " " + Product.VERSION,
                System.getProperty("os.name") + " " + System.getProperty("os.version") + ", " + System.getProperty("os.arch"),
                "Java " + System.getProperty("java.runtime.version") + ", JavaFX " + System.getProperty("javafx.runtime.version", "?"),
                Runtime.getRuntime().availableProcessors() + " processors, at most " + (Runtime.getRuntime().maxMemory() >> 20) + " MB", "",
                String.join("\n", lines(log))) + "\n";
    }

    private static List<String> lines(Path log) {
        try {
            if (!Files.exists(log)) return List.of("Nothing was logged.");
            // Names may be in any writing.
            List<String> all = new String(Files.readAllBytes(log), StandardCharsets.UTF_8).lines().map(Report::withoutNames).toList();
            return all.isEmpty() ? List.of("Nothing was logged.") : all.subList(Math.max(0, all.size() - MOST_LINES), all.size());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static String withoutNames(String line) { return NAME.matcher(PATH.matcher(line).replaceAll(HIDDEN)).replaceAll(HIDDEN); }
}
