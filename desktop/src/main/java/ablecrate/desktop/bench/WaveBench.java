package ablecrate.desktop.bench;

import ablecrate.desktop.Background;
import ablecrate.desktop.action.Action;
import ablecrate.plan.PackingItem;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import javafx.beans.property.BooleanProperty;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;

/// The bench of single sounds: the wave, and its numbers below.
public final class WaveBench implements Bench {
    private final WaveView wave;
    private final BorderPane pane = new BorderPane();

    public WaveBench(BenchModel model, WaveView wave, WaveEdits edits, LoopEdits loops, Background background) {
        this.wave = wave;
        Positions positions = new Positions(wave.inFramesProperty(), () -> model.itemProperty().get().flatMap(i -> i.source().clip()));
        SeamModel seam = new SeamModel(loops, model, background);
        pane.setCenter(new StackPane(wave, views(model, wave, loops, seam)));
        SeamView seams = new SeamView(seam);
        seams.prefWidthProperty().bind(pane.widthProperty().map(w -> Math.clamp(w.doubleValue() * 0.36, 120, 230)));
        pane.setRight(seams);
        FlowPane numbers = new FlowPane(8, 4);
        numbers.getStyleClass().add("wave-bar");
        numbers.setMinWidth(0);
        numbers.getChildren().addAll(new WaveBar(model, edits, positions, wave.markProperty()).nodes());
        numbers.getChildren().addAll(new LoopBar(loops, positions, wave::place).nodes());
        pane.setBottom(numbers);
    }

    /// How the sound is looked at, in the corner of the view.
    private static Node views(BenchModel model, WaveView wave, LoopEdits loops, SeamModel seam) {
        ToggleButton sides = view("wave-sides", "Middle and sides of a stereo sound, or left and right", model.midSideProperty(), "mid/side", "left/right"),
                spectrum = view("wave-spectrum", "Frequencies over time, or the wave", wave.asSpectrumProperty(), "spectrum", "wave"),
                unit = view("wave-unit", "Positions in seconds or in frames", wave.inFramesProperty(), "frames", "seconds");
        sides.visibleProperty().bind(model.itemProperty().map(i -> i.flatMap(item -> item.source().clip()).filter(f -> f.channels() == 2).isPresent()));
        ToggleButton open = view("loop-seam", "The end of the loop laid over its start, frame by frame", seam.openProperty(), "seam", "seam");
        loops.subscribe(() -> open.setVisible(loops.loop().isPresent()));
        ToggleButton bars = view("wave-bars", "Bars and beats along the top, at the tempo that the name tells or that was heard", wave.inBarsProperty(), "bars",
                "bars");
        model.itemProperty().subscribe(_ -> bars.setVisible(model.tempo().isPresent()));
        HBox views = new HBox(4, sides, spectrum, unit, bars, open);
        views.getChildren().forEach(n -> n.managedProperty().bind(n.visibleProperty()));
        views.getStyleClass().add("wave-views");
        views.setMaxSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
        StackPane.setAlignment(views, Pos.TOP_RIGHT);
        return views;
    }

    private static ToggleButton view(String id, String tip, BooleanProperty property, String on, String off) {
        ToggleButton button = new ToggleButton();
        button.setId(id);
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.selectedProperty().bindBidirectional(property);
        button.textProperty().bind(property.map(isOn -> isOn ? on : off));
        button.setTooltip(new Tooltip(tip));
        return button;
    }

    @Override public String id() { return "wave"; }

    @Override public String title() { return "Wave"; }

    @Override public Node node() { return pane; }

    @Override public void focus() { wave.requestFocus(); }

    @Override public String hint() { return "wheel zooms · drag moves · click marks"; }

    @Override public Optional<Predicate<PackingItem>> lines() { return Optional.of(i -> !i.isInstruments() || i.source().clip().isPresent()); }

    @Override public boolean namesLine() { return true; }

    @Override public boolean hasFileFacts() { return true; }

    @Override public List<Action> keys() {
        return List.of(Action.told("wave-zoom", "On the wave", "Zoom in time", "+ −"), Action.told("wave-height", "On the wave", "Zoom in level", "PgUp PgDn"),
                Action.told("wave-move", "On the wave", "Move along; by a page", "← →, Shift"),
                Action.told("wave-loop-end", "On the wave", "Move the loop's end; its start", "Ctrl+← →, Shift"),
                Action.told("wave-mark", "On the wave", "Move the mark; by single frames", "Alt+← →, Shift"),
                Action.told("wave-all", "On the wave", "Show all", "Home"));
    }
}
