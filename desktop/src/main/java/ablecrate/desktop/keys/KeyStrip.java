package ablecrate.desktop.keys;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.Arrays;
import java.util.List;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Rectangle;

/// A row's picture of an instrument: which keys sound, and where the roots are.
public final class KeyStrip extends Pane {
    private static final double WIDTH = 72, HEIGHT = 26, TOP = 5, KEYS_HEIGHT = 16;

    public KeyStrip() {
        setMinSize(WIDTH, HEIGHT);
        setMaxSize(WIDTH, HEIGHT);
        setMouseTransparent(true);
    }

    public void show(List<Instrument> instruments) {
        getChildren().clear();
        boolean[] sounds = new boolean[129], roots = new boolean[128];
        for (Instrument i : instruments)
            for (Zone z : i.zones()) {
                Span keys = z.get(Parameter.KEYS);
                Arrays.fill(sounds, keys.low(), keys.high() + 1, true);
                roots[z.get(Parameter.ROOT_KEY)] = true;
            }
        for (int key = 0, start = -1; key <= 128; key++) {
            if (sounds[key] && start < 0) start = key;
            if (!sounds[key] && start >= 0) {
                add(start, key, TOP, KEYS_HEIGHT, "strip-keys");
                start = -1;
            }
        }
        for (int key = 0; key < 128; key++)
            if (roots[key] && sounds[key]) add(key, key + 1, TOP, KEYS_HEIGHT, "strip-root");
    }

    private void add(int from, int to, double y, double height, String style) {
        Rectangle r = new Rectangle(WIDTH * from / 128, y, Math.max(1, WIDTH * (to - from) / 128), height);
        r.getStyleClass().add(style);
        getChildren().add(r);
    }
}
