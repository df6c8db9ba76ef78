package ablecrate.desktop.device;

import ablecrate.desktop.hearing.LetterKeys;
import ablecrate.instrument.NoteName;
import ablecrate.standins.Preset;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Text;

/// The keyboard of an instrument, as far as it has sounds.
final class KeyFace extends Pane implements Face {
    private static final PseudoClass DOWN = PadFace.DOWN;
    private static final double NAMES = 18, BLACK_WIDTH = 0.62, BLACK_HEIGHT = 0.62;
    private static final int LEAST_KEYS = 24;

    private final DeviceModel model;
    private final Map<Integer, Rectangle> keys = new TreeMap<>();
    private int low = 36, high = 96, pressed = -1;
    private Preset preset;

    KeyFace(DeviceModel model) {
        this.model = model;
        getStyleClass().add("device-keys");
        setId("device-keys");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.NODE);
        setMinSize(0, 0);
        setOnMousePressed(this::press);
        setOnMouseDragged(this::press);
        setOnMouseReleased(_ -> release());
        addEventHandler(KeyEvent.KEY_PRESSED, e -> {
            OptionalInt note = LetterKeys.note(e.getCode());
            if (note.isEmpty() || e.isShortcutDown() || e.isAltDown() || !model.areLettersNotes()) return;
            model.on(note.getAsInt(), DeviceModel.USUAL_VELOCITY);
            e.consume();
        });
        addEventHandler(KeyEvent.KEY_RELEASED, e -> LetterKeys.note(e.getCode()).ifPresent(model::off));
    }

    @Override public Node node() { return this; }

    @Override public boolean plays(KeyCode code, boolean areLetters) { return areLetters && LetterKeys.note(code).isPresent(); }

    @Override public void show(Preset now) {
        preset = now;
        int from = now.slots().stream().mapToInt(Preset.Slot::low).min().orElse(36), to = now.slots().stream().mapToInt(Preset.Slot::high).max().orElse(96);
        // Whole octaves, so that the first and the last key are white.
        low = Math.max(0, Math.min(from, to - LEAST_KEYS) / 12 * 12);
        high = Math.min(127, Math.max(to, low + LEAST_KEYS));
        if (isBlack(high)) high++;
        setAccessibleText("Keys of " + now.name() + ", " + NoteName.of(from) + " to " + NoteName.of(to));
        draw();
    }

    @Override protected void layoutChildren() {
        draw();
        super.layoutChildren();
    }

    private static boolean isBlack(int key) { return NoteName.of(key).contains("#"); }

    /// How many white keys lie below.
    private static int whites(int key) { return key / 12 * 7 + new int[]{0, 1, 1, 2, 2, 3, 4, 4, 5, 5, 6, 6}[key % 12]; }

    private void draw() {
        if (preset == null || getWidth() < 40) return;
        getChildren().clear();
        keys.clear();
        double white = getWidth() / (whites(high) - whites(low) + 1), height = getHeight() - NAMES;
        for (int pass = 0; pass < 2; pass++)
            for (int key = low; key <= high; key++) {
                boolean isBlack = isBlack(key);
                if (isBlack != (pass == 1)) continue;
                double x = (whites(key) - whites(low)) * white, width = isBlack ? white * BLACK_WIDTH : white;
                Rectangle shape = new Rectangle(isBlack ? x - width / 2 : x + 0.5, 0, isBlack ? width : width - 1, isBlack ? height * BLACK_HEIGHT : height);
                shape.getStyleClass().add(isBlack ? "key-black" : "key-white");
                int at = key;
                if (preset.slots().stream().noneMatch(s -> s.low() <= at && s.high() >= at)) shape.getStyleClass().add("key-silent");
                keys.put(key, shape);
                getChildren().add(shape);
                if (key % 12 == 0) {
                    Text name = new Text(x + 2, getHeight() - 4, NoteName.of(key));
                    name.getStyleClass().add("axis-text");
                    getChildren().add(name);
                }
            }
        light(model.lit());
    }

    private int keyAt(double x, double y) {
        int found = -1;
        for (Map.Entry<Integer, Rectangle> key : keys.entrySet())
            if (key.getValue().contains(x, y) && (found < 0 || isBlack(key.getKey()))) found = key.getKey();
        return found;
    }

    private void press(MouseEvent e) {
        if (!e.isPrimaryButtonDown()) return;
        requestFocus();
        int key = keyAt(e.getX(), e.getY());
        if (key == pressed) return;
        release();
        if (key < 0) return;
        pressed = key;
        model.on(key, PadFace.velocity(e.getY() / keys.get(key).getHeight()));
    }

    private void release() {
        if (pressed >= 0) model.off(pressed);
        pressed = -1;
    }

    @Override public void light(Set<Integer> lit) { keys.forEach((key, shape) -> shape.pseudoClassStateChanged(DOWN, lit.contains(key))); }

    @Override public String hint() { return "click a key; farther down is louder"; }
}
