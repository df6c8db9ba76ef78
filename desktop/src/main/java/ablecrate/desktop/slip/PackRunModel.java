package ablecrate.desktop.slip;

import ablecrate.desktop.Background;
import ablecrate.disk.DiskFault;
import ablecrate.pack.PackProgress;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// One packing run at a time: started, watched, stopped; then its slip. FX thread only.
public final class PackRunModel {
    private final Background background;
    private final Consumer<String> tell;
    private final ReadOnlyBooleanWrapper running = new ReadOnlyBooleanWrapper();
    private final ReadOnlyObjectWrapper<Optional<PackProgress>> progress = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<PackingSlip>> slip = new ReadOnlyObjectWrapper<>(Optional.empty());
    private StopSignal stop = new StopSignal();

    public PackRunModel(Background background, Consumer<String> tell) {
        this.background = background;
        this.tell = tell;
    }

    public ReadOnlyBooleanProperty runningProperty() { return running.getReadOnlyProperty(); }

    public ReadOnlyObjectProperty<Optional<PackProgress>> progressProperty() { return progress.getReadOnlyProperty(); }

    /// The slip of the last run.
    public ReadOnlyObjectProperty<Optional<PackingSlip>> slipProperty() { return slip.getReadOnlyProperty(); }

    /// @param path what the list was listened to with
    public void pack(PackingList list, SoundPath path, Path into) {
        if (running.get()) return;
        stop = new StopSignal();
        StopSignal mine = stop;
        running.set(true);
        progress.set(Optional.of(new PackProgress(0, list.items().size(), 0, "", Optional.empty())));
        Consumer<PackProgress> shown = background.newest(p -> progress.set(Optional.of(p)));
        background.run(() -> new Packer(list, path, Runtime.getRuntime().availableProcessors(), mine, shown, InstantSource.system()).packInto(into),
                done -> {
                    running.set(false);
                    progress.set(Optional.empty());
                    slip.set(Optional.of(done));
                }, e -> {
                    running.set(false);
                    progress.set(Optional.empty());
                    tell.accept(e instanceof IOException io ? DiskFault.text(io) : "a fault in Able Crate itself: " + e);
                });
    }

    public void stop() { stop.stop(); }
}
