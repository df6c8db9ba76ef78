package ablecrate.desktop.bench;

import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;

/// What stands above a bench's picture. It goes on in a second row where the bench is narrow; the hint at its end is there if it has room.
public final class BenchHead extends FlowPane {
    private static final double GAP = 10;

    public BenchHead(Node... controls) {
        super(GAP, 4, controls);
        setAlignment(Pos.CENTER_LEFT);
        setMinWidth(0);
        getStyleClass().add("levels-head");
    }

    public BenchHead(Label hint, Node... controls) {
        this(controls);
        hint.getStyleClass().add("hint");
        getChildren().add(hint);
        hint.managedProperty().bind(hint.visibleProperty());
        widthProperty().subscribe(_ -> fit(hint));
        hint.textProperty().subscribe(_ -> fit(hint));
    }

    private void fit(Label hint) {
        double wanted = getInsets().getLeft() + getInsets().getRight();
        for (Node node : getChildren())
            if (node == hint || node.isManaged()) wanted += node.prefWidth(-1) + GAP;
        hint.setVisible(wanted - GAP <= getWidth());
    }
}
