package ablecrate.desktop.device;

import javafx.scene.layout.Pane;
import javafx.scene.shape.Polygon;

/// A sound's peaks, mirrored, as wide and high as there is room.
final class Outline extends Pane {
    private static final double LEAST_HEIGHT = 8;

    private final Polygon shape = new Polygon();
    private double[] peaks = new double[0];

    Outline() {
        setMinSize(0, 0);
        setMouseTransparent(true);
        shape.getStyleClass().add("outline");
        getChildren().add(shape);
    }

    void show(double[] now) {
        peaks = now;
        requestLayout();
    }

    @Override protected void layoutChildren() {
        shape.getPoints().clear();
        double middle = getHeight() / 2;
        if (getHeight() < LEAST_HEIGHT) return;
        for (int i = 0; i < 2 * peaks.length; i++) {
            boolean isAbove = i < peaks.length;
            int at = isAbove ? i : 2 * peaks.length - 1 - i;
            shape.getPoints().addAll(getWidth() * at / (peaks.length - 1), middle - (isAbove ? 1 : -1) * Math.max(0.5, Math.min(1, peaks[at]) * middle));
        }
    }
}
