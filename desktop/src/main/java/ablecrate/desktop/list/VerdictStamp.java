package ablecrate.desktop.list;

import ablecrate.change.Verdict;
import java.util.EnumMap;
import java.util.Map;
import javafx.css.PseudoClass;
import javafx.scene.layout.StackPane;
import javafx.scene.shape.FillRule;
import javafx.scene.shape.SVGPath;

/// A verdict as a mark that is told apart by shape first, then by colour.
public final class VerdictStamp extends StackPane {
    private static final double SIZE = 14;
    /// In a square of 14: an open ring; a ring with an arrow through it; a tilted square; a half-filled square; a solid square with a bar.
    private static final Map<Verdict, String> SHAPES = new EnumMap<>(
            Map.of(Verdict.KEPT, "M7 1A6 6 0 1 0 7 13A6 6 0 1 0 7 1ZM7 3A4 4 0 1 1 7 11A4 4 0 1 1 7 3Z",
                    Verdict.CONVERTED, "M7 1A6 6 0 1 0 7 13A6 6 0 1 0 7 1ZM7 2.6A4.4 4.4 0 1 1 7 11.4A4.4 4.4 0 1 1 7 2.6ZM0 6.2H8.2V3.9L12 7L8.2 10.1V7.8H0Z",
                    Verdict.ADJUSTED, "M7 0L14 7L7 14L0 7ZM7 2.8L2.8 7L7 11.2L11.2 7Z", Verdict.REDUCED, "M1 1H13V13H1ZM7 2.7V11.3H11.3V2.7Z", Verdict.BLOCKED,
                    "M1 1H13V13H1ZM3 6V8H11V6Z"));
    private static final Map<Verdict, PseudoClass> STATES = new EnumMap<>(Verdict.class);
    static {
        for (Verdict verdict : Verdict.values())
            STATES.put(verdict, PseudoClass.getPseudoClass(verdict.id()));
    }

    private final SVGPath mark = new SVGPath();

    public VerdictStamp(Verdict verdict) {
        getStyleClass().add("verdict-stamp");
        mark.getStyleClass().add("verdict-mark");
        mark.setFillRule(FillRule.EVEN_ODD);
        setMinSize(SIZE, SIZE);
        setPrefSize(SIZE, SIZE);
        setMaxSize(SIZE, SIZE);
        getChildren().add(mark);
        show(verdict);
    }

    public void show(Verdict verdict) {
        mark.setContent(SHAPES.get(verdict));
        mark(mark, verdict);
        setAccessibleText(verdict.id());
    }

    /// Gives any node the state of a verdict, for its colour.
    public static void mark(javafx.scene.Node node, Verdict verdict) { STATES.forEach((v, state) -> node.pseudoClassStateChanged(state, v == verdict)); }
}
