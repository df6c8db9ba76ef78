package ablecrate.desktop;

import javafx.scene.control.Button;
import javafx.scene.layout.Region;

/// Buttons as the window has them.
public final class Buttons {
    private Buttons() {}

    /// One whose words are never cut.
    public static Button of(String id, String text, String tip, Runnable run) {
        Button button = new Button(text);
        button.setId(id);
        button.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(button, tip);
        button.setOnAction(_ -> run.run());
        return button;
    }

    /// One as wide as what it stands in.
    public static Button wide(String id, String text, String tip, Runnable run) {
        Button button = of(id, text, tip, run);
        button.setMaxWidth(Double.MAX_VALUE);
        return button;
    }
}
