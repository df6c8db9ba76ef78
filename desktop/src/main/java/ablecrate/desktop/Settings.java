package ablecrate.desktop;

import ablecrate.disk.SafeFile;
import ablecrate.disk.UserFolders;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/// What the window remembers from one start to the next.
/// @param x,y where the window stood; empty before it stood anywhere
/// @param lastJob opened at the next start
/// @param benchShare of the window's height that is above the bench
/// @param isBenchLarge whether the bench takes all of it
/// @param recentFolders that were gathered, the last first
/// @param columns of the packing list that are hidden or sorted by
/// @param knowsContents whether files are known by their content where their path is new
public record Settings(boolean dark, Optional<Double> x, Optional<Double> y, double width, double height, double benchShare, List<String> recentJobs,
        Optional<String> lastJob,
        Optional<String> lastFolder, boolean knowsContents, List<String> columns, boolean isBenchLarge, List<String> recentFolders) {
    private static final int MOST_RECENT = 8;
    public static final Settings DEFAULT = new Settings(false, Optional.empty(), Optional.empty(), 1280, 800, 0.64, List.of(), Optional.empty(),
            Optional.empty(), false, List.of(), false, List.of());

    public Settings {
        columns = columns == null ? List.of() : List.copyOf(columns);
        recentJobs = List.copyOf(recentJobs);
        recentFolders = recentFolders == null ? List.of() : List.copyOf(recentFolders);
        x = x.filter(Double::isFinite);
        y = y.filter(Double::isFinite);
    }

    /// The settings of a user, in the usual folder of the system.
    public static Path usualFile() { return UserFolders.settings().resolve("settings.json"); }

    /// What the file says; the defaults where it is missing or spoilt.
    public static Settings load(Path file) {
        try {
            return Files.exists(file) ? Json.read(file, Settings.class) : DEFAULT;
        } catch (IOException | Json.JsonFault e) {
            LoggerFactory.getLogger(Settings.class).warn("settings are started anew: {}", e.getMessage());
            return DEFAULT;
        }
    }

    public void save(Path file) {
        try {
            Files.createDirectories(file.getParent());
            SafeFile.write(file, Json.write(this));
        } catch (IOException e) {
            LoggerFactory.getLogger(Settings.class).warn("settings could not be saved: {}", e.getMessage());
        }
    }

    public Settings withDark(boolean d) {
        return new Settings(d, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, knowsContents, columns, isBenchLarge, recentFolders);
    }

    public Settings withWindow(double nx, double ny, double w, double h, double bench) {
        return new Settings(dark, Optional.of(nx), Optional.of(ny), w, h, bench, recentJobs, lastJob, lastFolder, knowsContents, columns, isBenchLarge,
                recentFolders);
    }

    /// @param size as in `1280x800`
    Settings sized(String size) {
        int x = size.indexOf('x');
        return withSize(Double.parseDouble(size.substring(0, x)), Double.parseDouble(size.substring(x + 1)), benchShare);
    }

    public Settings withSize(double w, double h, double bench) {
        return new Settings(dark, x, y, w, h, bench, recentJobs, lastJob, lastFolder, knowsContents, columns, isBenchLarge, recentFolders);
    }

    private static List<String> first(Path last, List<String> before) {
        return Stream.concat(Stream.of(last.toString()), before.stream().filter(b -> !b.equals(last.toString()))).limit(MOST_RECENT).toList();
    }

    public Settings withBenchLarge(boolean isLarge) {
        return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, knowsContents, columns, isLarge, recentFolders);
    }

    public Settings withGathered(Path folder) {
        return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, knowsContents, columns, isBenchLarge,
                first(folder, recentFolders));
    }

    public Settings withJob(Path job) {
        return new Settings(dark, x, y, width, height, benchShare, first(job, recentJobs), Optional.of(job.toString()),
                lastFolder, knowsContents, columns, isBenchLarge, recentFolders);
    }

    public Settings withColumns(List<String> c) {
        return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, knowsContents, c, isBenchLarge, recentFolders);
    }

    public Settings withContents(boolean k) {
        return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, k, columns, isBenchLarge, recentFolders);
    }

    public Settings withLastFolder(Path folder) {
        return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, Optional.of(folder.toString()), knowsContents, columns, isBenchLarge,
                recentFolders);
    }
}
