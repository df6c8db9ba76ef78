package ablecrate.desktop.bench;

import ablecrate.desktop.Headings;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.plan.Change;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Below: the wave of the current line, and beside it what changes and what the file says.
public final class BenchView extends BorderPane {
    private final BenchModel model;
    private final Label name = new Label();
    private final VBox changes = new VBox(3);
    private final GridPane facts = new GridPane();

    public BenchView(BenchModel model, WaveView wave) {
        this.model = model;
        getStyleClass().add("bench");
        Label title = Headings.heading("Bench");
        name.getStyleClass().add("bench-name");
        name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Label keys = new Label("wheel or + − zooms · drag or arrows move · Home shows all · click plays");
        keys.getStyleClass().add("hint");
        HBox head = new HBox(10, title, name, gap, keys);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("pane-head");
        facts.getStyleClass().add("facts");
        VBox side = new VBox(Headings.subheading("What happens"), changes, Headings.subheading("What the file says"), facts);
        side.getStyleClass().add("bench-side");
        ScrollPane scroll = new ScrollPane(side);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.setPrefWidth(370);
        scroll.setMinWidth(260);
        scroll.setId("bench-facts");
        setTop(head);
        setCenter(wave);
        setRight(scroll);
        model.itemProperty().subscribe(_ -> renew());
    }

    private void renew() {
        name.setText(model.itemProperty().get().map(i -> i.source().relative().toString()).orElse("choose a line of the list to see it here"));
        changes.getChildren().setAll(model.changes().stream().map(BenchView::line).toList());
        facts.getChildren().clear();
        int row = 0;
        for (BenchModel.Fact fact : model.facts()) {
            Label key = new Label(fact.name()), value = new Label(fact.value());
            key.getStyleClass().add("fact-name");
            key.setMinWidth(Region.USE_PREF_SIZE);
            value.getStyleClass().add("fact-value");
            value.setWrapText(!fact.name().equals("File"));
            value.setTextOverrun(OverrunStyle.LEADING_ELLIPSIS);
            value.setTooltip(new Tooltip(fact.value()));
            GridPane.setHgrow(value, Priority.ALWAYS);
            facts.addRow(row++, key, value);
        }
    }

    private static HBox line(Change change) {
        Label what = new Label(change.property().id() + "  " + change.before() + " → " + change.after()), why = new Label(change.reason());
        what.getStyleClass().add("change-what");
        what.setWrapText(true);
        VerdictStamp.mark(what, change.verdict());
        why.getStyleClass().add("change-why");
        why.setWrapText(true);
        VBox words = new VBox(what);
        if (!change.reason().isEmpty()) words.getChildren().add(why);
        HBox.setHgrow(words, Priority.ALWAYS);
        HBox line = new HBox(8, new VerdictStamp(change.verdict()), words);
        line.getStyleClass().add("change");
        return line;
    }
}
