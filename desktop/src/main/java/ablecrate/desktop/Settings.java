package ablecrate.desktop;

import ablecrate.disk.SafeFile;
import ablecrate.disk.UserFolders;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/// What the window remembers from one start to the next.
/// @param isContentKnown whether files are known by their content where their path is new
/// @param watched folders in which it is told what lands there
public record Settings(Look look, Place place, Recent recent, boolean isContentKnown, List<String> watched) {
    public static final Settings DEFAULT = new Settings(new Look(false, TextSize.USUAL, List.of(), 0.64, false, false),
            new Place(Optional.empty(), Optional.empty(), 1280, 800), new Recent(List.of(), Optional.empty(), List.of(), Optional.empty()), false, List.of());

    public Settings {
        if (look == null) look = DEFAULT.look;
        if (place == null) place = DEFAULT.place;
        if (recent == null) recent = DEFAULT.recent;
        watched = watched == null ? List.of() : List.copyOf(watched);
    }

    /// @param textPercent size of text and all that is drawn with it, one of `TextSize.STEPS`
    /// @param columns of the packing list that are hidden or sorted by
    /// @param benchShare of the window's height that is above the bench
    /// @param isBenchLarge whether the bench takes all of it
    /// @param areStepsHidden whether an empty list does not show the first steps any more
    public record Look(boolean isDark, int textPercent, List<String> columns, double benchShare, boolean isBenchLarge, boolean areStepsHidden) {
        public Look {
            columns = columns == null ? List.of() : List.copyOf(columns);
            textPercent = textPercent == 0 ? TextSize.USUAL : TextSize.nearest(textPercent);
        }

        Look withColumns(List<String> c) { return new Look(isDark, textPercent, c, benchShare, isBenchLarge, areStepsHidden); }

        Look withBench(double share, boolean isLarge) { return new Look(isDark, textPercent, columns, share, isLarge, areStepsHidden); }
    }

    /// @param x,y where the window stood; empty before it stood anywhere
    public record Place(Optional<Double> x, Optional<Double> y, double width, double height) {
        public Place {
            x = x.filter(Double::isFinite);
            y = y.filter(Double::isFinite);
        }
    }

    /// @param openJob opened at the next start
    /// @param folders that were gathered, the last first
    /// @param chooserFolder where a folder or file was chosen last
    public record Recent(List<String> jobs, Optional<String> openJob, List<String> folders, Optional<String> chooserFolder) {
        private static final int MOST = 8;

        public Recent {
            jobs = jobs == null ? List.of() : List.copyOf(jobs);
            folders = folders == null ? List.of() : List.copyOf(folders);
        }

        private static List<String> first(Path last, List<String> before) {
            return Stream.concat(Stream.of(last.toString()), before.stream().filter(b -> !b.equals(last.toString()))).limit(MOST).toList();
        }
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

    /// @param size as in `1280x800`
    Settings sized(String size) {
        int x = size.indexOf('x');
        return with(new Place(place.x, place.y, Double.parseDouble(size.substring(0, x)), Double.parseDouble(size.substring(x + 1))));
    }

    public Settings with(Look l) { return new Settings(l, place, recent, isContentKnown, watched); }

    public Settings with(Place p) { return new Settings(look, p, recent, isContentKnown, watched); }

    private Settings with(Recent r) { return new Settings(look, place, r, isContentKnown, watched); }

    public Settings withDark(boolean d) { return with(new Look(d, look.textPercent, look.columns, look.benchShare, look.isBenchLarge, look.areStepsHidden)); }

    public Settings withText(int percent) {
        return with(new Look(look.isDark, percent, look.columns, look.benchShare, look.isBenchLarge, look.areStepsHidden));
    }

    public Settings withStepsHidden(boolean h) {
        return with(new Look(look.isDark, look.textPercent, look.columns, look.benchShare, look.isBenchLarge, h));
    }

    public Settings withGathered(Path folder) {
        return with(new Recent(recent.jobs, recent.openJob, Recent.first(folder, recent.folders), recent.chooserFolder));
    }

    public Settings withJob(Path job) {
        return with(new Recent(Recent.first(job, recent.jobs), Optional.of(job.toString()), recent.folders, recent.chooserFolder));
    }

    public Settings withChooserFolder(Path folder) { return with(new Recent(recent.jobs, recent.openJob, recent.folders, Optional.of(folder.toString()))); }

    public Settings withContentKnown(boolean isKnown) { return new Settings(look, place, recent, isKnown, watched); }

    public Settings withWatched(Set<Path> folders) {
        // A disk that is not there now comes back.
        Stream<String> away = watched.stream().filter(f -> !Files.isDirectory(Path.of(f)));
        return new Settings(look, place, recent, isContentKnown,
                Stream.concat(folders.stream().map(Path::toString), away).distinct().sorted().toList());
    }
}
