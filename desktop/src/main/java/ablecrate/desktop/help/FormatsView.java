package ablecrate.desktop.help;

import ablecrate.codec.SurvivalTable;
import ablecrate.desktop.Headings;
import ablecrate.format.SurvivalTables;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// "What survives where", printed from the formats' declarations.
public final class FormatsView extends VBox {
    public FormatsView(Runnable close) {
        getStyleClass().addAll("overlay", "formats");
        setId("formats");
        Label title = Headings.title("What survives where");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button back = new Button("Close");
        back.setOnAction(_ -> close.run());
        HBox head = new HBox(10, title, gap, back);
        head.setAlignment(Pos.CENTER_LEFT);
        Label about = new Label("What each format carries. The packing list derives its verdicts from the same declarations.");
        about.getStyleClass().add("about");
        VBox tables = new VBox(18);
        SurvivalTables.all().forEach(t -> tables.getChildren().addAll(Headings.subheading(t.title()), grid(t)));
        ScrollPane scroll = new ScrollPane(tables);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(head, about, scroll);
    }

    private static GridPane grid(SurvivalTable table) {
        GridPane grid = new GridPane();
        grid.getStyleClass().add("survival");
        int column = 1;
        for (String name : table.columns()) {
            grid.add(Headings.subheading(name), column++, 0);
        }
        int row = 1;
        for (SurvivalTable.Row line : table.rows()) {
            Label property = new Label(line.property());
            property.getStyleClass().add("fact-name");
            property.setMinWidth(210);
            grid.add(property, 0, row);
            for (int c = 0; c < line.cells().size(); c++) {
                Label cell = new Label(line.cells().get(c));
                cell.setWrapText(true);
                cell.setMaxWidth(table.columns().size() > 3 ? 190 : 430);
                grid.add(cell, c + 1, row);
            }
            row++;
        }
        return grid;
    }
}
