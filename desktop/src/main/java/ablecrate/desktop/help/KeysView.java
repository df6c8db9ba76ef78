package ablecrate.desktop.help;

import ablecrate.desktop.Headings;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// All actions with their keys, over the window.
public final class KeysView extends VBox {
    public KeysView(List<Action> actions, Runnable close) {
        getStyleClass().addAll("overlay", "keys");
        setId("keys");
        Label title = Headings.title("Keys");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button back = new Button("Close");
        back.setOnAction(_ -> close.run());
        HBox head = new HBox(10, title, gap, back);
        head.setAlignment(Pos.CENTER_LEFT);
        Map<String, GridPane> groups = new LinkedHashMap<>();
        for (Action action : actions) {
            GridPane grid = groups.computeIfAbsent(action.group(), _ -> new GridPane());
            Label key = new Label(action.keyText()), label = new Label(action.label());
            key.getStyleClass().add("key");
            key.setMinWidth(118);
            grid.addRow(grid.getRowCount(), key, label);
        }
        FlowPane columns = new FlowPane(48, 26);
        groups.forEach((name, grid) -> {
            grid.getStyleClass().add("key-grid");
            columns.getChildren().add(new VBox(6, Headings.subheading(name), grid));
        });
        VBox.setVgrow(columns, Priority.ALWAYS);
        getChildren().addAll(head, columns);
    }
}
