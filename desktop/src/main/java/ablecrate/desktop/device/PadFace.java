package ablecrate.desktop.device;

import ablecrate.standins.Preset;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.RowConstraints;
import javafx.scene.layout.VBox;

/// Pads in rows of three, the first at the top left. The digits play them.
final class PadFace extends GridPane implements Face {
    static final PseudoClass DOWN = PseudoClass.getPseudoClass("down");
    private static final int ACROSS = 3, PADS = 9, FIRST_KEY = 36;

    private final DeviceModel model;
    private final Map<Integer, VBox> pads = new HashMap<>();
    private final Map<Path, Outline> outlines = new HashMap<>();
    private int pressed = -1;

    PadFace(DeviceModel model) {
        this.model = model;
        getStyleClass().add("pads");
        setId("device-pads");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.NODE);
        for (int i = 0; i < ACROSS; i++) {
            ColumnConstraints column = new ColumnConstraints();
            column.setPercentWidth(100.0 / ACROSS);
            getColumnConstraints().add(column);
            RowConstraints row = new RowConstraints();
            row.setVgrow(Priority.ALWAYS);
            row.setPercentHeight(100.0 / ACROSS);
            getRowConstraints().add(row);
        }
        addEventHandler(KeyEvent.KEY_PRESSED, e -> {
            if (!plays(e.getCode(), false) || e.isShortcutDown() || e.isAltDown()) return;
            model.on(FIRST_KEY + pad(e.getCode()), DeviceModel.USUAL_VELOCITY);
            e.consume();
        });
        addEventHandler(KeyEvent.KEY_RELEASED, e -> {
            if (plays(e.getCode(), false)) model.off(FIRST_KEY + pad(e.getCode()));
        });
        addEventFilter(MouseEvent.MOUSE_RELEASED, _ -> release());
        model.card().outlinesProperty().subscribe(this::draw);
    }

    private static int pad(KeyCode code) { return code.isDigitKey() ? code.ordinal() - KeyCode.DIGIT1.ordinal() : -1; }

    @Override public boolean plays(KeyCode code, boolean areLetters) { return pad(code) >= 0 && pad(code) < PADS; }

    @Override public Node node() { return this; }

    @Override public void show(Preset preset) {
        getChildren().clear();
        pads.clear();
        outlines.clear();
        setAccessibleText("Pads of " + preset.name() + ", played with 1 to 9");
        for (int i = 0; i < PADS; i++) {
            int key = FIRST_KEY + i;
            Optional<Preset.Slot> slot = preset.slots().stream().filter(s -> s.covers(key, DeviceModel.USUAL_VELOCITY)).findFirst();
            VBox pad = pad(i + 1, slot.map(PadFace::name).orElse(""));
            slot.ifPresent(s -> {
                pad.setOnMousePressed(e -> press(key, e.getY() / pad.getHeight()));
                pads.put(key, pad);
                Outline outline = new Outline();
                VBox.setVgrow(outline, Priority.ALWAYS);
                pad.getChildren().add(outline);
                outlines.put(s.sound().file(), outline);
            });
            add(pad, i % ACROSS, i / ACROSS);
        }
        draw();
    }

    private void draw() {
        model.card().outlinesProperty().get().forEach((file, peaks) -> Optional.ofNullable(outlines.get(file)).ifPresent(o -> o.show(peaks)));
    }

    /// Its file without number and extension.
    private static String name(Preset.Slot slot) {
        return slot.sound().file().getFileName().toString().replaceFirst("^[1-9]-?", "").replaceFirst("(?i)\\.wav$", "");
    }

    private static VBox pad(int number, String sound) {
        Label count = new Label(Integer.toString(number)), name = new Label(sound.isEmpty() ? "empty" : sound);
        count.getStyleClass().add("pad-number");
        name.getStyleClass().add("pad-name");
        HBox head = new HBox(8, count, name);
        head.setAlignment(Pos.BASELINE_LEFT);
        VBox pad = new VBox(4, head);
        pad.setId("pad-" + number);
        pad.getStyleClass().addAll(sound.isEmpty() ? new String[]{"pad", "pad-empty"} : new String[]{"pad"});
        pad.setMinSize(0, 0);
        pad.setMaxSize(Double.MAX_VALUE, Double.MAX_VALUE);
        pad.setAccessibleText("Pad " + number + ": " + name.getText());
        return pad;
    }

    private void press(int key, double depth) {
        requestFocus();
        pressed = key;
        model.on(key, velocity(depth));
    }

    /// Farther down is louder.
    static int velocity(double depth) { return Math.clamp(Math.round(40 + 87 * depth), 1, 127); }

    private void release() {
        if (pressed >= 0) model.off(pressed);
        pressed = -1;
    }

    @Override public void light(Set<Integer> keys) { pads.forEach((key, pad) -> pad.pseudoClassStateChanged(DOWN, keys.contains(key))); }

    @Override public String hint() { return "click a pad, or 1 to 9; farther down is louder"; }
}
