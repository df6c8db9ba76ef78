package ablecrate.desktop.slip;

import ablecrate.desktop.Background;
import ablecrate.disk.DiskFault;
import ablecrate.pack.PackListener;
import ablecrate.pack.PackProgress;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// One packing run at a time, into one folder or several: started, watched, stopped; then its slips. FX thread only.
public final class PackRunModel {
    private final Background background;
    private final Consumer<String> tell;
    private final ReadOnlyBooleanWrapper running = new ReadOnlyBooleanWrapper();
    private final ReadOnlyObjectWrapper<Optional<PackProgress>> progress = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<List<PackingSlip>> slips = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<Optional<PackingSlip>> slip = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final Map<Done, PackingSlip.Item> done = new HashMap<>();
    private final ReadOnlyIntegerWrapper doneCount = new ReadOnlyIntegerWrapper();
    /// Folders that this run packs into, and the one that is looked at.
    private List<Path> folders = List.of();
    private Optional<Path> looked = Optional.empty();
    private StopSignal stop = new StopSignal();

    /// A line that is done, by its source, and the folder that it was packed into.
    private record Done(Path folder, String source) {}

    public PackRunModel(Background background, Consumer<String> tell) {
        this.background = background;
        this.tell = tell;
    }

    public ReadOnlyBooleanProperty runningProperty() { return running.getReadOnlyProperty(); }

    public ReadOnlyObjectProperty<Optional<PackProgress>> progressProperty() { return progress.getReadOnlyProperty(); }

    /// The slips of the last run, one for each folder.
    public ReadOnlyObjectProperty<List<PackingSlip>> slipsProperty() { return slips.getReadOnlyProperty(); }

    /// The one of them whose folder is looked at.
    public ReadOnlyObjectProperty<Optional<PackingSlip>> slipProperty() { return slip.getReadOnlyProperty(); }

    /// How many lines of this run are done.
    public ReadOnlyIntegerProperty doneProperty() { return doneCount.getReadOnlyProperty(); }

    /// Looks at what is packed into a folder; where the run does not go there, at what went into its first.
    public void lookAt(Optional<Path> folder) {
        looked = folder.map(f -> f.toAbsolutePath().normalize());
        renewSlip();
    }

    private void renewSlip() {
        slip.set(slips.get().stream().filter(s -> looked.equals(Optional.of(Path.of(s.into())))).findFirst().or(() -> slips.get().stream().findFirst()));
    }

    private Optional<Path> folder() { return looked.filter(folders::contains).or(() -> folders.stream().findFirst()); }

    /// What became of a source in the run that goes on; nothing once it is over, as the slip tells it then.
    public Optional<PackingSlip.Item> done(Path source) {
        return running.get() ? folder().map(f -> done.get(new Done(f, source.toString()))) : Optional.empty();
    }

    /// The first file that this run or the last one wrote of a source.
    public Optional<Path> written(Path source) {
        return done(source).flatMap(i -> first(i, folder().orElseThrow()))
                .or(() -> slip.get().flatMap(s -> s.items().stream().filter(i -> i.source().equals(source.toString())).findFirst()
                        .flatMap(i -> first(i, Path.of(s.into())))))
                .filter(Files::isRegularFile);
    }

    private static Optional<Path> first(PackingSlip.Item item, Path into) { return item.outputs().stream().findFirst().map(o -> into.resolve(o.path())); }

    /// @param path what the list was listened to with
    public void pack(PackingList list, SoundPath path, Path into) { pack(list, path, into, _ -> {}); }

    /// @param packed told the slip once it is shown; not where the run failed as a whole
    public void pack(PackingList list, SoundPath path, Path into, Consumer<PackingSlip> packed) {
        pack(List.of(list), path, List.of(into), slips -> packed.accept(slips.getFirst()));
    }

    /// @param path what the lists were listened to with
    /// @param into a folder for each
    public void pack(List<PackingList> lists, SoundPath path, List<Path> into) { pack(lists, path, into, _ -> {}); }

    private void pack(List<PackingList> lists, SoundPath path, List<Path> into, Consumer<List<PackingSlip>> packed) {
        if (running.get()) return;
        stop = new StopSignal();
        StopSignal mine = stop;
        running.set(true);
        progress.set(Optional.of(new PackProgress(0, lists.stream().mapToInt(l -> l.items().size()).sum(), 0, "", Optional.empty())));
        folders = into.stream().map(f -> f.toAbsolutePath().normalize()).toList();
        List<Path> mineInto = folders;
        background.run(
                () -> new Packer(lists, path, Runtime.getRuntime().availableProcessors(), mine, listener(mineInto), InstantSource.system()).packInto(mineInto),
                result -> {
                    ended();
                    slips.set(result);
                    renewSlip();
                    packed.accept(result);
                }, e -> {
                    ended();
                    tell.accept(e instanceof IOException io ? DiskFault.text(io) : "a fault in Able Crate itself: " + e);
                });
    }

    private void ended() {
        running.set(false);
        progress.set(Optional.empty());
        done.clear();
        doneCount.set(0);
    }

    private record Told(Done line, PackingSlip.Item item) {}

    private PackListener listener(List<Path> into) {
        Queue<Told> waiting = new ConcurrentLinkedQueue<>();
        Consumer<PackProgress> shown = background.newest(p -> progress.set(Optional.of(p)));
        Consumer<Queue<Told>> taken = background.newest(queue -> {
            for (Told told = queue.poll(); told != null; told = queue.poll())
                done.put(told.line(), told.item());
            doneCount.set(done.size());
        });
        return new PackListener() {
            @Override public void progress(PackProgress now) { shown.accept(now); }

            @Override public void done(int list, PackingSlip.Item item) {
                waiting.add(new Told(new Done(into.get(list), item.source()), item));
                taken.accept(waiting);
            }
        };
    }

    public void stop() { stop.stop(); }
}
