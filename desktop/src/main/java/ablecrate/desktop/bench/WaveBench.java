package ablecrate.desktop.bench;

import ablecrate.change.Told;
import ablecrate.desktop.Background;
import ablecrate.desktop.Tips;
import ablecrate.desktop.action.Action;
import ablecrate.plan.PackingItem;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import javafx.beans.property.BooleanProperty;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/// The bench of single sounds: the wave, and its numbers below.
public final class WaveBench implements Bench {
    private final WaveView wave;
    private final BorderPane pane = new BorderPane();

    public WaveBench(BenchModel model, WaveView wave, WaveEdits edits, LoopEdits loops, TempoModel tempo, Background background) {
        this.wave = wave;
        Positions positions = new Positions(wave.inFramesProperty(), () -> model.itemProperty().get().flatMap(i -> i.source().clip()));
        SeamModel seam = new SeamModel(loops, model, background);
        pane.setTop(views(model, wave, loops, seam, tempo));
        pane.setCenter(wave);
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

    /// How the sound is looked at.
    private static Node views(BenchModel model, WaveView wave, LoopEdits loops, SeamModel seam, TempoModel tempo) {
        ToggleButton sides = view("wave-sides", "Middle and sides of a stereo sound, or left and right", model.midSideProperty(), "mid/side", "left/right"),
                spectrum = view("wave-spectrum", "Frequencies over time, or the wave", wave.asSpectrumProperty(), "spectrum", "wave"),
                unit = view("wave-unit", "Positions in seconds or in frames", wave.inFramesProperty(), "frames", "seconds");
        sides.visibleProperty().bind(model.itemProperty().map(i -> i.flatMap(item -> item.source().clip()).filter(f -> f.channels() == 2).isPresent()));
        ToggleButton open = view("loop-seam", "The end of the loop laid over its start, frame by frame", seam.openProperty(), "seam", "seam");
        loops.subscribe(() -> open.setVisible(loops.loop().isPresent()));
        ToggleButton bars = view("wave-bars", "Bars and beats along the top, at the tempo beside", wave.inBarsProperty(), "bars",
                "bars");
        bars.visibleProperty().bind(tempo.tempoProperty().map(Optional::isPresent));
        HBox views = new HBox(4, sides, spectrum, unit, bars, tempos(model, wave, tempo), open);
        views.getChildren().forEach(n -> n.managedProperty().bind(n.visibleProperty()));
        views.getStyleClass().add("wave-views");
        views.setAlignment(Pos.CENTER_RIGHT);
        return views;
    }

    /// How fast the clip goes, and what else it may be.
    private static MenuButton tempos(BenchModel model, WaveView wave, TempoModel tempo) {
        MenuButton button = new MenuButton();
        button.setId("wave-tempo");
        button.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(button, "The tempo of the clip, for bars, grids and MIDI files: as it is told or heard, or another");
        button.textProperty().bind(tempo.tempoProperty().map(t -> t.map(bpm -> Told.bpm(bpm) + " bpm").orElse("tempo")));
        button.accessibleTextProperty().bind(button.textProperty());
        model.itemProperty().subscribe(_ -> button.setVisible(tempo.isOfClip()));
        tempo.tempoProperty().subscribe(_ -> button.setVisible(tempo.isOfClip()));
        button.setOnShowing(_ -> {
            button.getItems().setAll(tempo.choices().stream().map(c -> item(Told.bpm(c.bpm()) + " bpm: " + c.why(), () -> tempo.take(Optional.of(c.bpm()))))
                    .toList());
            if (tempo.said().isPresent()) button.getItems().add(item("as it is told or heard", () -> tempo.take(Optional.empty())));
            button.getItems().add(item("Bar 1 begins at the mark (D)", () -> tempo.beginBarAt(wave.place())));
            if (tempo.hasDownbeat()) button.getItems().add(item("Bar 1 begins with the clip", tempo::beginBarWithClip));
            if (!tempo.isHeard()) button.getItems().add(item("Listen for it", tempo::listen));
        });
        return button;
    }

    private static MenuItem item(String text, Runnable run) {
        MenuItem item = new MenuItem(text);
        item.setOnAction(_ -> run.run());
        return item;
    }

    private static ToggleButton view(String id, String tip, BooleanProperty property, String on, String off) {
        ToggleButton button = new ToggleButton();
        button.setId(id);
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.selectedProperty().bindBidirectional(property);
        button.textProperty().bind(property.map(isOn -> isOn ? on : off));
        Tips.on(button, tip);
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
