package ablecrate.desktop.bench;

import ablecrate.codec.SoundFile;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Tips;
import ablecrate.detect.FoundLoop;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.DoubleSupplier;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javafx.beans.InvalidationListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.layout.Region;
import javafx.util.StringConverter;

/// Below the wave: where the loops of a sound are and how they go.
final class LoopBar {
    private final LoopEdits loops;
    private final Positions positions;
    private final ComboBox<Integer> which = new ComboBox<>();
    private final ComboBox<LoopMode> mode = new ComboBox<>();
    private final BarField start, end, count;
    private final List<Node> ofLoop, nodes;
    private final ComboBox<FoundLoop> found = new ComboBox<>();
    private boolean renewing;

    /// @param mark where a loop that is added starts; below 0 for no place
    LoopBar(LoopEdits loops, Positions positions, DoubleSupplier mark) {
        this.loops = loops;
        this.positions = positions;
        which.setId("loop-which");
        which.setPrefWidth(78);
        which.setAccessibleText("Loop");
        which.setConverter(new StringConverter<>() {
            @Override public String toString(Integer i) { return i == null ? "" : "Loop " + (i + 1); }

            @Override public Integer fromString(String text) { return which.getValue(); }
        });
        which.setOnAction(_ -> {
            if (!renewing && which.getValue() != null) loops.chosenProperty().set(which.getValue());
        });
        start = new BarField("loop-start", "from", "First frame of the loop (Ctrl+Shift+← → moves it by a frame)", 5, positions::read, v -> {
            loops.moveStart(v);
            loops.settle(true);
        }, this::renew);
        end = new BarField("loop-end", "to", "The loop ends before this frame (Ctrl+← → moves it by a frame)", 5, positions::read, v -> {
            loops.moveEnd(v);
            loops.settle(false);
        }, this::renew);
        mode.setId("loop-mode");
        mode.setPrefWidth(96);
        mode.setAccessibleText("Mode of the loop");
        Tips.on(mode, "How the loop goes");
        mode.getItems().setAll(LoopMode.values());
        mode.setConverter(new StringConverter<>() {
            @Override public String toString(LoopMode m) { return m == null ? "" : m.label(); }

            @Override public LoopMode fromString(String text) { return mode.getValue(); }
        });
        mode.setOnAction(_ -> {
            if (!renewing && mode.getValue() != null) loops.setMode(mode.getValue());
        });
        count = new BarField("loop-count", "times", "How often it is played; empty for as long as the key is held", 2, LoopBar::times,
                v -> loops.setCount((long) v), this::renew);
        CheckBox snap = new CheckBox("snap");
        snap.setId("loop-snap");
        snap.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(snap, "Ends go to the nearest zero crossing");
        snap.selectedProperty().bindBidirectional(loops.snapsProperty());
        Button add = Buttons.of("loop-add", "Add", "A loop from the mark to the end (L)", () -> loops.add(mark.getAsDouble())),
                remove = Buttons.of("loop-remove", "Remove", "Takes the loop out", loops::remove);
        Button find = Buttons.of("loop-find", "Find", "Look for the best places to loop (Shift+L)", loops::find);
        found.setId("loop-found");
        found.setAccessibleText("Places that were found");
        Tips.on(found,
                "Places to loop, the best first; ↑ and ↓ walk through them. A seam's figure is how much changes there, over what the sound changes by itself:\n"
                        + "up to 1 it passes");
        found.setPrefWidth(168);
        found.setItems(loops.found());
        found.setConverter(new StringConverter<>() {
            @Override public String toString(FoundLoop f) { return f == null ? "" : told(f); }

            @Override public FoundLoop fromString(String text) { return found.getValue(); }
        });
        found.setOnAction(_ -> {
            if (!renewing && found.getValue() != null) loops.take(found.getValue());
        });
        found.managedProperty().bind(found.visibleProperty());
        loops.found().addListener((InvalidationListener) _ -> renew());
        ofLoop = List.of(which, start, end, mode, count, snap, remove);
        ofLoop.forEach(n -> n.managedProperty().bind(n.visibleProperty()));
        nodes = Stream.concat(ofLoop.stream(), Stream.of(add, find, found)).toList();
        loops.subscribe(this::renew);
        positions.inFramesProperty().subscribe(_ -> renew());
    }

    List<Node> nodes() { return nodes; }

    private String told(FoundLoop f) {
        int rate = loops.file().map(SoundFile::rateHz).orElse(1);
        return String.format(Locale.ROOT, "%.2f s%s%s, %s", (double) f.frames().length() / rate,
                f.mode() == LoopMode.ALTERNATING
                        ? ", alternating"
                        : f.crossfadeFrames() == 0 ? "" : String.format(Locale.ROOT, ", %.0f ms fade", f.crossfadeFrames() * 1000.0 / rate),
                f.riseDb() == 0 ? "" : String.format(Locale.ROOT, ", +%.1f dB", f.riseDb()),
                String.format(Locale.ROOT, f.quality().passes() ? "seam %.1f" : "seam %.1f, does not pass", f.quality().cost()));
    }

    /// Nothing is as long as the key is held.
    private static OptionalDouble times(String text) {
        return text.isEmpty() || text.equals("∞")
                ? OptionalDouble.of(0)
                : text.matches("\\d{1,9}") ? OptionalDouble.of(Long.parseLong(text)) : OptionalDouble.empty();
    }

    private void renew() {
        renewing = true;
        Optional<Loop> loop = loops.loop();
        ofLoop.forEach(n -> n.setVisible(loop.isPresent()));
        nodes.forEach(n -> n.setDisable(loops.file().isEmpty()));
        found.setVisible(!loops.found().isEmpty());
        found.setValue(loops.loop().flatMap(l -> loops.found().stream().filter(f -> f.frames().equals(l.frames())).findFirst()).orElse(null));
        loop.ifPresent(l -> {
            // Set anew, as its words count the loops.
            which.setValue(null);
            which.getItems().setAll(IntStream.range(0, loops.loops().size()).boxed().toList());
            which.setValue(loops.chosenProperty().get());
            start.show(positions.text(l.frames().start()));
            end.show(positions.text(l.frames().end()));
            mode.setValue(l.mode());
            count.show(l.playCount() == 0 ? "∞" : Long.toString(l.playCount()));
        });
        renewing = false;
    }
}
