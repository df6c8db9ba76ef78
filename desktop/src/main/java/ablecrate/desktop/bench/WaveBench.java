package ablecrate.desktop.bench;

import ablecrate.desktop.action.Action;
import ablecrate.plan.PackingItem;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.scene.Node;
import javafx.scene.layout.BorderPane;

/// The bench of single sounds: the wave, and its numbers below.
public final class WaveBench implements Bench {
    private final WaveView wave;
    private final BorderPane pane = new BorderPane();

    public WaveBench(BenchModel model, WaveView wave, WaveEdits edits) {
        this.wave = wave;
        BooleanProperty inFrames = new SimpleBooleanProperty();
        wave.inFramesProperty().bind(inFrames);
        pane.setCenter(wave);
        pane.setBottom(new WaveBar(model, edits, inFrames, wave.markProperty()));
    }

    @Override public String id() { return "wave"; }

    @Override public String title() { return "Wave"; }

    @Override public Node node() { return pane; }

    @Override public void focus() { wave.requestFocus(); }

    @Override public String hint() { return "wheel zooms · drag moves · click marks · handles cut"; }

    @Override public Optional<Predicate<PackingItem>> lines() { return Optional.of(i -> !i.isInstruments()); }

    @Override public boolean namesLine() { return true; }

    @Override public boolean hasFileFacts() { return true; }

    @Override public List<Action> keys() {
        return List.of(Action.told("wave-zoom", "On the wave", "Zoom in time", "+ −"), Action.told("wave-height", "On the wave", "Zoom in level", "PgUp PgDn"),
                Action.told("wave-move", "On the wave", "Move along; by a page", "← →, Shift"),
                Action.told("wave-mark", "On the wave", "Move the mark; by single frames", "Alt+← →, Shift"),
                Action.told("wave-all", "On the wave", "Show all", "Home"));
    }
}
