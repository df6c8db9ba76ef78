package ablecrate.desktop.list;

import ablecrate.change.Change;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// One change of a line of the packing list, with its stamp: before → after, and why.
public final class ChangeLine extends HBox {
    public ChangeLine(Change change) {
        super(8);
        boolean stays = change.before().equals(change.after());
        Label what = new Label(change.property().label() + "  " + (stays ? change.after() : change.before() + " → " + change.after())),
                why = new Label(stays && change.reason().isEmpty() ? "stays as it is" : change.reason());
        what.getStyleClass().add("change-what");
        what.setWrapText(true);
        VerdictStamp.mark(what, change.verdict());
        why.getStyleClass().add("change-why");
        why.setWrapText(true);
        VBox words = new VBox(what);
        if (!why.getText().isEmpty()) words.getChildren().add(why);
        HBox.setHgrow(words, Priority.ALWAYS);
        getChildren().addAll(new VerdictStamp(change.verdict()), words);
        getStyleClass().add("change");
    }
}
