package ablecrate.desktop;

import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.layout.StackPane;

/// What lies over the window: one card at a time, of which nothing reaches what is below.
final class Overlays {
    private final StackPane layers = new StackPane();
    private Optional<Node> focusBelow = Optional.empty();

    Overlays(Node board) { layers.getChildren().add(board); }

    StackPane layers() { return layers; }

    void show(Node card) {
        close();
        focusBelow = Optional.ofNullable(layers.getScene().getFocusOwner());
        layers.getChildren().getFirst().setDisable(true);
        layers.getChildren().add(card);
        card.requestFocus();
    }

    boolean isOpen() { return layers.getChildren().size() > 1; }

    boolean shows(Node card) { return layers.getChildren().contains(card); }

    void close() {
        if (!isOpen()) return;
        while (isOpen())
            layers.getChildren().removeLast();
        layers.getChildren().getFirst().setDisable(false);
        focusBelow.ifPresent(Node::requestFocus);
    }
}
