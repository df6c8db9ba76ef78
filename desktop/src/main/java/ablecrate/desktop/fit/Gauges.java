package ablecrate.desktop.fit;

import java.util.List;
import java.util.stream.Stream;
import javafx.beans.binding.DoubleExpression;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Line;
import javafx.scene.shape.Rectangle;

/// What there is of a device and what is taken of it, a row each.
public final class Gauges extends GridPane {
    /// Of a bar, where words need the room.
    private static final double SHORTEST = 28;

    private final double length;
    private final boolean isBrief;

    /// @param length of a bar, in pixels, where there is room
    /// @param isBrief whether only what is taken now is told in words
    public Gauges(double length, boolean isBrief) {
        super(10, 5);
        this.length = length;
        this.isBrief = isBrief;
        // Where room is short, bars are shorter, and if that is not enough, words go on in another line.
        if (!isBrief) setMinWidth(0);
        widthProperty().subscribe(_ -> fitWords());
    }

    public void show(List<FitModel.Gauge> gauges) {
        getChildren().clear();
        for (int row = 0; row < gauges.size(); row++) {
            FitModel.Gauge gauge = gauges.get(row);
            Label text = label(isBrief ? gauge.now() : gauge.text(), "beside-value");
            if (gauge.isOver()) text.getStyleClass().add("gauge-over");
            text.setWrapText(!isBrief);
            text.setMinHeight(Region.USE_PREF_SIZE);
            addRow(row, label(gauge.label(), "fact-name"), bar(gauge), text);
        }
        fitWords();
    }

    private void fitWords() {
        if (isBrief || getWidth() == 0) return;
        applyCss();
        boolean isNarrow = widest(0) + SHORTEST + widest(2) + 2 * getHgap() > getWidth();
        column(2).forEach(words -> words.setMinWidth(isNarrow ? SHORTEST : Region.USE_PREF_SIZE));
    }

    private double widest(int column) { return column(column).mapToDouble(l -> l.prefWidth(-1)).max().orElse(0); }

    private Stream<Label> column(int column) {
        return getChildren().stream().filter(c -> getColumnIndex(c) == column).map(Label.class::cast);
    }

    private static Label label(String text, String style) {
        Label label = new Label(text);
        label.getStyleClass().add(style);
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    /// What was taken as an outline, what is taken as a bar, the limit as a line.
    private Node bar(FitModel.Gauge gauge) {
        double most = Math.max(Math.max(gauge.before(), gauge.limit()), 1);
        Pane pane = new Pane();
        DoubleExpression whole = pane.widthProperty().subtract(2);
        Rectangle before = new Rectangle(0, 2, 0, 9), after = new Rectangle(0, 2, 0, 9);
        before.widthProperty().bind(whole.multiply(gauge.before() / most));
        after.widthProperty().bind(whole.multiply(gauge.after() / most));
        before.getStyleClass().add("gauge-before");
        after.getStyleClass().add("gauge-after");
        pane.getChildren().addAll(before, after);
        if (gauge.limit() > 0) {
            Line limit = new Line(0, 0, 0, 13);
            limit.startXProperty().bind(whole.multiply(gauge.limit() / most));
            limit.endXProperty().bind(limit.startXProperty());
            limit.getStyleClass().add("gauge-limit");
            pane.getChildren().add(limit);
        }
        pane.setMinSize(SHORTEST, 13);
        pane.setPrefSize(length + 2, 13);
        pane.setMaxSize(length + 2, 13);
        return pane;
    }
}
