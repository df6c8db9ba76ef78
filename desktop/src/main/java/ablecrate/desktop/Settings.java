package ablecrate.desktop;

import ablecrate.disk.SafeFile;
import ablecrate.disk.UserFolders;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.slf4j.LoggerFactory;

/// What the window remembers from one start to the next.
/// @param x,y where the window stood; empty before it stood anywhere
/// @param lastJob opened at the next start
/// @param columns of the packing list that are hidden or sorted by
/// @param knowsContents whether files are known by their content where their path is new
public record Settings(boolean dark, Optional<Double> x, Optional<Double> y, double width, double height, double benchShare, List<String> recentJobs,
        Optional<String> lastJob,
        Optional<String> lastFolder, boolean knowsContents, List<String> columns) {
    private static final int MOST_RECENT = 8;
    public static final Settings DEFAULT = new Settings(false, Optional.empty(), Optional.empty(), 1280, 800, 0.64, List.of(), Optional.empty(),
            Optional.empty(), false, List.of());

    public Settings {
        columns = columns == null ? List.of() : List.copyOf(columns);
        recentJobs = List.copyOf(recentJobs);
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

    public Settings withDark(boolean d) { return new Settings(d, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, knowsContents, columns); }

    public Settings withWindow(double nx, double ny, double w, double h, double bench) {
        return new Settings(dark, Optional.of(nx), Optional.of(ny), w, h, bench, recentJobs, lastJob, lastFolder, knowsContents, columns);
    }

    /// @param size as in `1280x800`
    Settings sized(String size) {
        int x = size.indexOf('x');
        return withSize(Double.parseDouble(size.substring(0, x)), Double.parseDouble(size.substring(x + 1)), benchShare);
    }

    public Settings withSize(double w, double h, double bench) {
        return new Settings(dark, x, y, w, h, bench, recentJobs, lastJob, lastFolder, knowsContents, columns);
    }

    public Settings withJob(Path job) {
        List<String> recent = new ArrayList<>(recentJobs);
        recent.remove(job.toString());
        recent.addFirst(job.toString());
        return new Settings(dark, x, y, width, height, benchShare, recent.subList(0, Math.min(recent.size(), MOST_RECENT)), Optional.of(job.toString()),
                lastFolder, knowsContents, columns);
    }

    public Settings withColumns(List<String> c) {
        return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, knowsContents, c);
    }

    public Settings withContents(boolean k) { return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, lastFolder, k, columns); }

    public Settings withLastFolder(Path folder) {
        return new Settings(dark, x, y, width, height, benchShare, recentJobs, lastJob, Optional.of(folder.toString()), knowsContents, columns);
    }
}
