package ablecrate.desktop.bench;

import javafx.scene.control.ScrollPane;
import javafx.scene.layout.VBox;

/// The column at the right of a bench, which scrolls where it is too long.
public final class BenchSide extends ScrollPane {
    /// @param leastWidth below which it does not shrink
    public BenchSide(VBox content, double width, double leastWidth) {
        super(content);
        content.getStyleClass().add("bench-side");
        setFitToWidth(true);
        setHbarPolicy(ScrollBarPolicy.NEVER);
        setPrefWidth(width);
        setMinWidth(leastWidth);
    }
}
