package ablecrate.desktop.crate;

import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.job.Job;
import ablecrate.library.Catalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;

/// The files of a job: found first, then looked into, a few at first and then more and more, so that lines fill in while one watches. FX thread only.
final class GatheredFiles {
    private static final int FIRST_FILES = 128, MOST_FILES = 4096;

    private final Background background;
    private final Catalogue catalogue;
    private final Runnable more, all;
    private final Consumer<Exception> failed;
    private final Map<Path, Gathered> known = new HashMap<>();
    private final ReadOnlyBooleanWrapper reading = new ReadOnlyBooleanWrapper();
    private final ReadOnlyIntegerWrapper toRead = new ReadOnlyIntegerWrapper();
    /// What [#found] was found below; absent when it has to be looked for anew.
    private Optional<List<Path>> listedSources = Optional.empty();
    private List<Gathered> found = List.of();
    /// Files that were read since the last that were listed.
    private int unlisted;
    /// What was found by a search that was overtaken is thrown away.
    private int search;

    /// @param catalogue of what is known of files from earlier runs
    /// @param more told when there is more to list
    /// @param all told when all is read and listed
    GatheredFiles(Background background, Catalogue catalogue, Runnable more, Runnable all, Consumer<Exception> failed) {
        this.background = background;
        this.catalogue = catalogue;
        this.more = more;
        this.all = all;
        this.failed = failed;
    }

    /// Whether files are still being looked at.
    ReadOnlyBooleanProperty readingProperty() { return reading.getReadOnlyProperty(); }

    /// How many files have to be looked at yet.
    ReadOnlyIntegerProperty toReadProperty() { return toRead.getReadOnlyProperty(); }

    boolean isReading() { return reading.get(); }

    /// One of them; empty if its headers were not read.
    Optional<SoundFile> sound(Path path) { return Optional.ofNullable(known.get(path)).flatMap(Gathered::sound); }

    /// What a job has, as far as it is read: of the rest nothing can be said yet.
    List<Gathered> of(Job job) {
        Set<Path> removed = job.removed();
        return found.stream().map(g -> known.get(g.path())).filter(g -> g != null && !removed.contains(g.path())).toList();
    }

    /// The same, to be listed: what is read from now on is more.
    List<Gathered> listed(Job job) {
        toRead.set((int) found.stream().filter(g -> !known.containsKey(g.path())).count());
        unlisted = 0;
        return of(job);
    }

    /// Nothing is known of any file.
    void forget() {
        known.clear();
        catalogue.forget(found.stream().map(Gathered::path).toList());
        forgetSources();
    }

    /// Where files lie has to be looked at anew.
    void forgetSources() { listedSources = Optional.empty(); }

    /// Gives up.
    void stop() { reading.set(false); }

    /// Finds what lies below a job's sources, unless that is known.
    void find(Job job) {
        if (listedSources.equals(Optional.of(job.sources()))) {
            more.run();
            return;
        }
        listedSources = Optional.of(job.sources());
        int mine = ++search;
        reading.set(true);
        List<Path> there = job.sources().stream().filter(Files::exists).toList();
        background.run(() -> Gatherer.find(there, job.folders(), () -> false), items -> {
            if (mine != search) return;
            found = items;
            more.run();
            readKnown(mine);
        }, failed);
    }

    /// What the catalogue knows is there at once; only the rest has to be looked into.
    private void readKnown(int mine) {
        List<Gathered> wanted = found.stream().filter(g -> !known.containsKey(g.path())).toList();
        background.run(() -> Gatherer.known(wanted, catalogue), items -> {
            if (mine != search) return;
            items.forEach(i -> known.put(i.path(), i));
            if (!items.isEmpty()) more.run();
            read(mine, 0, FIRST_FILES);
        }, failed);
    }

    /// Looks at the next files that are not known, shows them, goes on.
    private void read(int mine, int from, int count) {
        List<Gathered> next = new ArrayList<>();
        int at = from;
        for (; at < found.size() && next.size() < count; at++)
            if (!known.containsKey(found.get(at).path())) next.add(found.get(at));
        if (next.isEmpty()) {
            boolean isBehind = unlisted > 0;
            if (isBehind) more.run();
            reading.set(false);
            if (!isBehind) all.run();
            return;
        }
        int resume = at;
        background.run(() -> Gatherer.readAll(next, catalogue), items -> {
            if (mine != search) return;
            items.forEach(i -> known.put(i.path(), i));
            unlisted += items.size();
            toRead.set(toRead.get() - items.size());
            // Each time the whole list is planned anew: not before there is half as much again.
            if (2 * unlisted >= found.size() - toRead.get() - unlisted) more.run();
            read(mine, resume, Math.min(2 * count, MOST_FILES));
        }, failed);
    }
}
