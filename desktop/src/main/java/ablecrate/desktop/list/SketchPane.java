package ablecrate.desktop.list;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import java.util.Optional;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Rectangle;

/// A small picture of a sound's wave, its first loop below it.
public final class SketchPane extends Pane {
    private static final double WIDTH = Sketches.COLUMNS, HEIGHT = 26;

    private final Sketches sketches;
    private final Polygon shape = new Polygon();
    private final Rectangle loop = new Rectangle(0, 3);
    private Optional<SoundFile.Id> shown = Optional.empty();

    public SketchPane(Sketches sketches) {
        this.sketches = sketches;
        getChildren().addAll(loop, shape);
        shape.getStyleClass().add("sketch-wave");
        loop.getStyleClass().add("sketch-loop");
        loop.setY(HEIGHT - 1);
        setMinSize(WIDTH, HEIGHT);
        setMaxSize(WIDTH, HEIGHT);
    }

    public void show(SoundFile sound) {
        shown = Optional.of(sound.id());
        shape.getPoints().clear();
        Optional<FrameRange> range = sound.metadata().loops().stream().findFirst().map(l -> l.frames());
        loop.setVisible(range.isPresent());
        range.ifPresent(r -> {
            loop.setX(WIDTH * r.start() / Math.max(1, sound.frames()));
            loop.setWidth(Math.max(1, WIDTH * r.length() / Math.max(1, sound.frames())));
        });
        sketches.request(sound, sketch -> {
            // Another file may be shown by now.
            if (shown.equals(Optional.of(sound.id()))) draw(sketch);
        });
    }

    /// What is still being drawn is not wanted any more.
    public void clear() { shown = Optional.empty(); }

    private void draw(float[] sketch) {
        Double[] points = new Double[sketch.length * 2];
        int columns = sketch.length / 2;
        for (int c = 0; c < columns; c++) {
            points[2 * c] = c + 0.5;
            points[2 * c + 1] = HEIGHT / 2 - Math.max(0.02, sketch[2 * c + 1]) * HEIGHT / 2;
            points[points.length - 2 - 2 * c] = c + 0.5;
            points[points.length - 1 - 2 * c] = HEIGHT / 2 - Math.min(-0.02, sketch[2 * c]) * HEIGHT / 2;
        }
        shape.getPoints().setAll(points);
    }
}
