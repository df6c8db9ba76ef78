package ablecrate.desktop.bench;

import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.Region;
import javafx.scene.transform.Scale;

/// A canvas that fills a view. Where the window is shown larger it has as many more points, as its picture would be blurred otherwise.
final class SharpCanvas extends Canvas {
    private final Scale back = new Scale(1, 1, 0, 0);

    SharpCanvas() {
        getTransforms().add(back);
        setMouseTransparent(true);
    }

    /// Empty, as large as the view; places are those of the view.
    GraphicsContext cleared(Region view) {
        double scale = view.getLocalToSceneTransform().getMxx();
        back.setX(1 / scale);
        back.setY(1 / scale);
        setWidth(Math.max(1, view.getWidth()) * scale);
        setHeight(Math.max(1, view.getHeight()) * scale);
        GraphicsContext g = getGraphicsContext2D();
        g.setTransform(scale, 0, 0, scale, 0, 0);
        g.clearRect(0, 0, view.getWidth(), view.getHeight());
        return g;
    }
}
