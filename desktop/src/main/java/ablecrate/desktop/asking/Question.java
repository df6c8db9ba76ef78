package ablecrate.desktop.asking;

import ablecrate.desktop.Headings;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// A card over the list that asks one thing.
final class Question extends VBox {
    /// @param id of the button
    record Answer(String id, String label, Runnable run) {}

    /// @param lines below the title
    /// @param answers the first is the usual one, Enter; Escape closes the card
    Question(String id, String title, List<String> lines, List<Answer> answers) {
        super(12);
        setId(id);
        getStyleClass().addAll("overlay", "card");
        getChildren().add(Headings.title(title));
        for (String line : lines) {
            Label label = new Label(line);
            label.setWrapText(true);
            label.setMinHeight(Region.USE_PREF_SIZE);
            getChildren().add(label);
        }
        HBox row = new HBox(10);
        row.setAlignment(Pos.CENTER_RIGHT);
        for (Answer answer : answers) {
            Button button = new Button(answer.label());
            button.setId(answer.id());
            button.setMinWidth(Region.USE_PREF_SIZE);
            button.setDefaultButton(answer == answers.getFirst());
            button.setOnAction(_ -> answer.run().run());
            row.getChildren().add(button);
        }
        getChildren().add(row);
        setMaxSize(600, Region.USE_PREF_SIZE);
    }

    /// The usual answer has the keys.
    @Override public void requestFocus() { ((HBox) getChildren().getLast()).getChildren().getFirst().requestFocus(); }
}
