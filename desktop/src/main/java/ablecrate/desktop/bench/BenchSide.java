package ablecrate.desktop.bench;

import javafx.scene.control.ScrollPane;
import javafx.scene.layout.Region;

/// What stands at the right of a bench's picture, and scrolls if it is longer than the bench is high. It leaves the picture more than half.
public final class BenchSide extends ScrollPane {
    private static final double SHARE = 0.45, LEAST = 330;

    /// @param width where there is room
    /// @param bench in which it stands
    public BenchSide(Region content, double width, Region bench) {
        super(content);
        content.getStyleClass().add("bench-side");
        prefWidthProperty().bind(bench.widthProperty().map(w -> Math.clamp(w.doubleValue() * SHARE, LEAST, width)));
        setFitToWidth(true);
        setHbarPolicy(ScrollBarPolicy.NEVER);
    }
}
