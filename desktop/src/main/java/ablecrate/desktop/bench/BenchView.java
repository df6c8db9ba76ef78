package ablecrate.desktop.bench;

import ablecrate.desktop.Headings;
import ablecrate.desktop.list.ChangeLine;
import ablecrate.plan.PackingItem;
import java.util.Map;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Below: the wave of the current line, and beside it what changes and what the file says.
public final class BenchView extends BorderPane {
    private final BenchModel model;
    private final Label name = new Label();
    private final VBox changes = new VBox(3);
    private final GridPane facts = new GridPane();

    /// The faces, one for each kind of work.
    public enum Face { WAVE, KEYS, LEVELS, RESULT }

    private final ToggleButton waveButton = new ToggleButton("Wave"), keysButton = new ToggleButton("Keys"), levelsButton = new ToggleButton("Levels"),
            resultButton = new ToggleButton("Result");
    private final Label keys = new Label();
    private final Map<Face, Node> faces;
    private final ScrollPane scroll;
    private final ReadOnlyObjectWrapper<Face> face = new ReadOnlyObjectWrapper<>(Face.WAVE);

    public BenchView(BenchModel model, WaveView wave, Node keyBench, Node levels, Node beside) {
        this.model = model;
        faces = Map.of(Face.WAVE, wave, Face.KEYS, keyBench, Face.LEVELS, levels, Face.RESULT, beside);
        getStyleClass().add("bench");
        Label title = Headings.heading("Bench");
        name.getStyleClass().add("bench-name");
        name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        keys.getStyleClass().add("hint");
        waveButton.setMinWidth(Region.USE_PREF_SIZE);
        levelsButton.setMinWidth(Region.USE_PREF_SIZE);
        waveButton.setId("face-wave");
        waveButton.setTooltip(new Tooltip("V changes the face of the bench"));
        waveButton.setOnAction(_ -> show(Face.WAVE));
        keysButton.setMinWidth(Region.USE_PREF_SIZE);
        keysButton.setId("face-keys");
        keysButton.setTooltip(new Tooltip("V changes the face of the bench"));
        keysButton.setOnAction(_ -> show(Face.KEYS));
        levelsButton.setId("face-levels");
        levelsButton.setTooltip(new Tooltip("V changes the face of the bench"));
        levelsButton.setOnAction(_ -> show(Face.LEVELS));
        resultButton.setMinWidth(Region.USE_PREF_SIZE);
        resultButton.setId("face-result");
        resultButton.setTooltip(new Tooltip("Source beside result (R)"));
        resultButton.setOnAction(_ -> show(Face.RESULT));
        HBox head = new HBox(10, title, waveButton, keysButton, levelsButton, resultButton, name, gap, keys);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("pane-head");
        facts.getStyleClass().add("facts");
        VBox side = new VBox(Headings.subheading("What happens"), changes, Headings.subheading("What the file says"), facts);
        side.getStyleClass().add("bench-side");
        scroll = new ScrollPane(side);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.setPrefWidth(370);
        scroll.setMinWidth(260);
        scroll.setId("bench-facts");
        setTop(head);
        show(Face.WAVE);
        model.itemProperty().subscribe((_, now) -> {
            // A sound has a wave, an instrument has keys; levels are of all.
            boolean isInstrument = now.filter(PackingItem::isInstruments).isPresent();
            if (isInstrument && face.get() == Face.WAVE) show(Face.KEYS);
            if (!isInstrument && now.isPresent() && face.get() == Face.KEYS) show(Face.WAVE);
            renew();
        });
        renew();
    }

    public ReadOnlyObjectProperty<Face> faceProperty() { return face.getReadOnlyProperty(); }

    public void show(Face next) {
        face.set(next);
        waveButton.setSelected(next == Face.WAVE);
        keysButton.setSelected(next == Face.KEYS);
        levelsButton.setSelected(next == Face.LEVELS);
        resultButton.setSelected(next == Face.RESULT);
        keys.setText(next == Face.WAVE ? "wheel zooms · drag moves · click plays · handles cut" : "");
        setCenter(faces.get(next));
        // Levels are many sounds: what one file says has its place beside its wave.
        setRight(next == Face.WAVE ? scroll : null);
        name.setVisible(next != Face.LEVELS && next != Face.KEYS);
    }

    private void renew() {
        name.setText(model.itemProperty().get().map(i -> i.source().relative().toString()).orElse("choose a line of the list to see it here"));
        changes.getChildren().setAll(model.changes().stream().map(ChangeLine::new).toList());
        facts.getChildren().clear();
        int row = 0;
        for (BenchModel.Fact fact : model.facts()) {
            Label key = new Label(fact.name()), value = new Label(fact.value());
            key.getStyleClass().add("fact-name");
            key.setMinWidth(Region.USE_PREF_SIZE);
            value.getStyleClass().add("fact-value");
            value.setWrapText(!fact.name().equals("File"));
            value.setTextOverrun(OverrunStyle.LEADING_ELLIPSIS);
            value.setTooltip(new Tooltip(fact.value()));
            GridPane.setHgrow(value, Priority.ALWAYS);
            facts.addRow(row++, key, value);
        }
    }
}
