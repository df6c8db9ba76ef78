package ablecrate.desktop.device;

import ablecrate.change.Told;
import ablecrate.desktop.Buttons;
import ablecrate.standins.Preset;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;

/// Tracks of a song below each other; each can be heard alone.
final class TrackFace extends ScrollPane implements Face {
    private static final double ROW = 30;

    private final DeviceModel model;
    private final GridPane rows = new GridPane(10, 6);
    private final Map<Path, Outline> outlines = new HashMap<>();

    TrackFace(DeviceModel model) {
        this.model = model;
        setContent(rows);
        setFitToWidth(true);
        setId("device-tracks");
        rows.getStyleClass().add("pads");
        ColumnConstraints wide = new ColumnConstraints();
        wide.setHgrow(Priority.ALWAYS);
        rows.getColumnConstraints().addAll(new ColumnConstraints(), new ColumnConstraints(), wide);
        model.card().outlinesProperty().subscribe(this::draw);
    }

    @Override public Node node() { return this; }

    @Override public void show(Preset preset) {
        rows.getChildren().clear();
        outlines.clear();
        for (int i = 0; i < preset.slots().size(); i++) {
            int at = i;
            Preset.Slot slot = preset.slots().get(i);
            String name = slot.sound().file().getFileName().toString();
            Button alone = Buttons.of("track-" + (i + 1), "Alone", "Hear " + name + " alone", () -> model.playTrack(at));
            alone.getStyleClass().add("small");
            alone.setAccessibleText("Hear " + name + " alone");
            Label number = new Label(Integer.toString(i + 1)), title = new Label(name), length = new Label(Told.duration(slot.seconds()));
            number.getStyleClass().add("pad-number");
            title.getStyleClass().add("pad-name");
            length.getStyleClass().add("beside-value");
            Outline outline = new Outline();
            outline.setMinHeight(ROW);
            outlines.put(slot.sound().file(), outline);
            rows.addRow(i, number, title, outline, length, alone);
        }
        draw();
    }

    private void draw() {
        model.card().outlinesProperty().get().forEach((file, peaks) -> Optional.ofNullable(outlines.get(file)).ifPresent(o -> o.show(peaks)));
    }

    @Override public void light(Set<Integer> keys) {}

    @Override public boolean plays(KeyCode code, boolean areLetters) { return false; }

    @Override public String hint() { return "Space plays all tracks from their start"; }
}
