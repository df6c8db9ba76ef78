package ablecrate.desktop.library;

import ablecrate.dsp.StereoWidth;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.Pane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Line;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.Path;

/// How wide a stereo sound is: its frames as dots, the middle upwards and the sides across, and below it in figures.
final class WidthPane extends VBox {
    private static final double SIZE = 108, DOT = 1.2;

    private final Path dots = new Path();
    private final Label correlation = new Label(), sides = new Label();

    WidthPane() {
        super(4);
        setId("library-width");
        getStyleClass().add("width-pane");
        setAlignment(Pos.TOP_CENTER);
        setMinWidth(SIZE + 20);
        Pane picture = new Pane(new Line(SIZE / 2, 0, SIZE / 2, SIZE), new Line(0, SIZE / 2, SIZE, SIZE / 2), dots);
        picture.getStyleClass().add("width-picture");
        picture.setMinSize(SIZE, SIZE);
        picture.setPrefSize(SIZE, SIZE);
        picture.setMaxSize(SIZE, SIZE);
        dots.getStyleClass().add("width-dots");
        correlation.getStyleClass().add("hint");
        sides.getStyleClass().add("hint");
        Label title = new Label("Stereo width");
        title.getStyleClass().add("option-title");
        getChildren().addAll(title, picture, correlation, sides);
        Tooltip.install(this,
                new Tooltip("Up and down: what both sides have in common. Across: in what they differ.\nA line straight up is mono; a line straight across "
                        + "cancels in mono.\nCorrelation: 1 mono, 0 nothing in common, below 0 cancels in mono"));
        managedProperty().bind(visibleProperty());
    }

    void show(Optional<StereoWidth> width) {
        setVisible(width.isPresent());
        dots.getElements().clear();
        if (width.isEmpty()) return;
        for (StereoWidth.Dot dot : width.get().dots()) {
            double x = SIZE / 2 * (1 + 0.96 * dot.across()), y = SIZE / 2 * (1 - 0.96 * dot.up());
            dots.getElements().addAll(new MoveTo(x, y), new LineTo(x + DOT, y));
        }
        correlation.setText(String.format(Locale.ROOT, "Correlation %.2f", width.get().correlation()));
        double db = width.get().sidesDb();
        sides.setText(Double.isInfinite(db) ? "Sides the same" : String.format(Locale.ROOT, "Sides %.1f dB", db));
        setAccessibleText("Stereo width. " + correlation.getText() + ". " + sides.getText());
    }
}
