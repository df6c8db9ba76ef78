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

/// One packing run at a time: started, watched, stopped; then its slip. FX thread only.
public final class PackRunModel {
    private final Background background;
    private final Consumer<String> tell;
    private final ReadOnlyBooleanWrapper running = new ReadOnlyBooleanWrapper();
    private final ReadOnlyObjectWrapper<Optional<PackProgress>> progress = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<PackingSlip>> slip = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final Map<String, PackingSlip.Item> done = new HashMap<>();
    private final ReadOnlyIntegerWrapper doneCount = new ReadOnlyIntegerWrapper();
    private Path folder = Path.of("");
    private StopSignal stop = new StopSignal();

    public PackRunModel(Background background, Consumer<String> tell) {
        this.background = background;
        this.tell = tell;
    }

    public ReadOnlyBooleanProperty runningProperty() { return running.getReadOnlyProperty(); }

    public ReadOnlyObjectProperty<Optional<PackProgress>> progressProperty() { return progress.getReadOnlyProperty(); }

    /// The slip of the last run.
    public ReadOnlyObjectProperty<Optional<PackingSlip>> slipProperty() { return slip.getReadOnlyProperty(); }

    /// How many lines of this run are done.
    public ReadOnlyIntegerProperty doneProperty() { return doneCount.getReadOnlyProperty(); }

    /// What became of a source in the run that goes on; nothing once it is over, as the slip tells it then.
    public Optional<PackingSlip.Item> done(Path source) { return running.get() ? Optional.ofNullable(done.get(source.toString())) : Optional.empty(); }

    /// The first file that this run or the last one wrote of a source.
    public Optional<Path> written(Path source) {
        return done(source).flatMap(i -> first(i, folder))
                .or(() -> slip.get().flatMap(s -> s.items().stream().filter(i -> i.source().equals(source.toString())).findFirst()
                        .flatMap(i -> first(i, Path.of(s.into())))))
                .filter(Files::isRegularFile);
    }

    private static Optional<Path> first(PackingSlip.Item item, Path into) { return item.outputs().stream().findFirst().map(o -> into.resolve(o.path())); }

    /// @param path what the list was listened to with
    public void pack(PackingList list, SoundPath path, Path into) {
        if (running.get()) return;
        stop = new StopSignal();
        StopSignal mine = stop;
        running.set(true);
        progress.set(Optional.of(new PackProgress(0, list.items().size(), 0, "", Optional.empty())));
        folder = into.toAbsolutePath().normalize();
        background.run(() -> new Packer(list, path, Runtime.getRuntime().availableProcessors(), mine, listener(), InstantSource.system()).packInto(into),
                result -> {
                    ended();
                    slip.set(Optional.of(result));
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

    private PackListener listener() {
        Queue<PackingSlip.Item> waiting = new ConcurrentLinkedQueue<>();
        Consumer<PackProgress> shown = background.newest(p -> progress.set(Optional.of(p)));
        Consumer<Queue<PackingSlip.Item>> taken = background.newest(queue -> {
            for (PackingSlip.Item item = queue.poll(); item != null; item = queue.poll())
                done.put(item.source(), item);
            doneCount.set(done.size());
        });
        return new PackListener() {
            @Override public void progress(PackProgress now) { shown.accept(now); }

            @Override public void done(PackingSlip.Item item) {
                waiting.add(item);
                taken.accept(waiting);
            }
        };
    }

    public void stop() { stop.stop(); }
}
