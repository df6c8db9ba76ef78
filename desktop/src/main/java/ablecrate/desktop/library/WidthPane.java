package ablecrate.desktop.library;

import ablecrate.desktop.Tips;
import ablecrate.dsp.StereoWidth;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.layout.HBox;
import javafx.scene.shape.Line;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.Path;

/// How wide a stereo sound is: its frames as dots, the middle upwards and the sides across, and beside it in figures.
final class WidthPane extends HBox {
    private static final double SIZE = 38, DOT = 1;

    /// Sides that are softer than this are rounding.
    private static final double NOTHING_DB = -150;

    private final Path dots = new Path();
    private final Label correlation = new Label(), sides = new Label();

    WidthPane() {
        super(14);
        setId("library-width");
        getStyleClass().add("width-pane");
        setAlignment(Pos.CENTER_LEFT);
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
        getChildren().addAll(picture, title, correlation, sides);
        Tips.on(this, "Up and down: what both sides have in common. Across: in what they differ.\nA line straight up is mono; a line straight across "
                + "cancels in mono.\nCorrelation: 1 mono, 0 nothing in common, below 0 cancels in mono");
    }

    void show(Optional<StereoWidth> width) {
        dots.getElements().clear();
        correlation.setText(width.map(w -> String.format(Locale.ROOT, "correlation %.2f", w.correlation())).orElse("not stereo"));
        sides.setText(
                width.map(StereoWidth::sidesDb).map(db -> db < NOTHING_DB ? "sides the same" : String.format(Locale.ROOT, "sides %.1f dB", db)).orElse(""));
        setAccessibleText("Stereo width: " + correlation.getText() + (width.isEmpty() ? "" : ", " + sides.getText()));
        for (StereoWidth.Dot dot : width.map(StereoWidth::dots).orElse(List.of())) {
            double x = SIZE / 2 * (1 + 0.96 * dot.across()), y = SIZE / 2 * (1 - 0.96 * dot.up());
            dots.getElements().addAll(new MoveTo(x, y), new LineTo(x + DOT, y));
        }
    }
}
