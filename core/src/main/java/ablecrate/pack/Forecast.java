package ablecrate.pack;

import ablecrate.option.ExistingFiles;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import ablecrate.change.Verdict;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// What packing into a folder would do with each line, by what lies there: told before anything is written.
public final class Forecast {
    /// From what has nothing to do to what needs a look.
    public enum Fate {
        /// It is there and stays.
        SAME("there already"),
        /// Nothing is there yet.
        NEW("new"),
        /// Its source or the options changed since it was packed.
        OUTDATED("changed since it was packed"),
        /// What is there was damaged since.
        DAMAGED("damaged there, to be written anew"),
        /// What is there was changed by somebody, and is left unless it is to be replaced.
        EDITED("edited there"),
        /// A file of that name is there that no slip knows.
        STRANGE("another file is there"),
        /// It does not go.
        NONE("");

        private final String text;

        Fate(String text) { this.text = text; }

        public String id() { return name().toLowerCase(Locale.ROOT); }

        /// What is done about it, in words.
        public String text(ExistingFiles existing) {
            if (this == SAME && existing != ExistingFiles.REPLACE && existing != ExistingFiles.NUMBER || this == NEW || this == NONE || this == DAMAGED) return text;
            return text + switch (existing) {
                case REPLACE -> ", will be replaced";
                case NUMBER -> ", the new one gets a number";
                case UPDATE -> this == OUTDATED ? ", will be updated" : this == EDITED ? ", will be left" : ", will be compared";
                case SKIP -> this == EDITED ? ", will be left" : ", will be compared";
            };
        }
    }

    private Forecast() {}

    /// @return for each line of the list
    public static List<Fate> of(PackingList list, Path into) throws IOException {
        Path root = into.toAbsolutePath().normalize();
        PackedBefore before = PackedBefore.of(root);
        List<Fate> fates = new ArrayList<>();
        for (PackingItem item : list.items())
            fates.add(item.verdict() == Verdict.BLOCKED ? Fate.NONE : fate(item, root, before, list.options().placing().verifies()));
        return fates;
    }

    private static Fate fate(PackingItem item, Path root, PackedBefore before, boolean verifies) throws IOException {
        Fate worst = Fate.SAME;
        for (PlannedMap map : item.maps())
            worst = worse(worst, fate(map.path(), PackedBefore.recipe(map, item.outputs()), root, before, verifies));
        for (PlannedSidecar sidecar : item.sidecars())
            worst = worse(worst, fate(sidecar.path(), PackedBefore.recipe(sidecar, item.outputs()), root, before, verifies));
        if (item.maps().stream().anyMatch(PlannedMap::holdsSounds)) return worst;
        for (PlannedOutput output : item.outputs())
            worst = worse(worst, fate(output.path(), PackedBefore.recipe(output.source(), output), root, before, verifies));
        return worst;
    }

    private static Fate worse(Fate a, Fate b) { return a.compareTo(b) >= 0 ? a : b; }

    private static Fate fate(String path, String recipe, Path root, PackedBefore before, boolean verifies) throws IOException {
        return switch (before.standing(path, root.resolve(path), verifies)) {
            case ABSENT -> Fate.NEW;
            case INTACT -> before.isMadeSo(path, recipe) ? Fate.SAME : Fate.OUTDATED;
            case DAMAGED -> Fate.DAMAGED;
            case CHANGED -> Fate.EDITED;
            case STRANGE -> Fate.STRANGE;
        };
    }
}
