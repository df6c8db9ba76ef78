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
        mark.setContent(verdict.stamp());
        mark(mark, verdict);
        setAccessibleText(verdict.id());
    }

    /// Gives any node the state of a verdict, for its colour.
    public static void mark(javafx.scene.Node node, Verdict verdict) { STATES.forEach((v, state) -> node.pseudoClassStateChanged(state, v == verdict)); }
}
