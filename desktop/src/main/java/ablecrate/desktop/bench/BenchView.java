package ablecrate.desktop.bench;

import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import ablecrate.desktop.list.ChangeLine;
import ablecrate.plan.PackingItem;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Below: the wave of the current line, and beside it what changes and what the file says.
public final class BenchView extends BorderPane {
    private static final double LEAST_FOR_HINT = 900;

    private final BenchModel model;
    private final Label name = new Label();
    private final VBox changes = new VBox(3);
    private final GridPane facts = new GridPane();

    private final Label hint = new Label();
    private final VBox side;
    private final ScrollPane scroll;
    private final Map<Bench, ToggleButton> buttons = new LinkedHashMap<>();
    private final ReadOnlyObjectWrapper<Bench> open;

    /// @param benches in the order of their buttons; the first is open where none suits
    public BenchView(BenchModel model, List<Bench> benches) {
        this.model = model;
        open = new ReadOnlyObjectWrapper<>(benches.getFirst());
        getStyleClass().add("bench");
        name.getStyleClass().add("bench-name");
        name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
        name.textProperty().subscribe(whole -> Tips.on(name, whole));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        hint.getStyleClass().add("hint");
        hint.setMinWidth(Region.USE_PREF_SIZE);
        // Where there is little room it goes to the line's name.
        hint.visibleProperty().bind(widthProperty().greaterThan(LEAST_FOR_HINT));
        hint.managedProperty().bind(hint.visibleProperty());
        HBox head = new HBox(6, Headings.heading("Bench"));
        for (Bench bench : benches) {
            ToggleButton button = new ToggleButton(bench.title());
            button.setMinWidth(Region.USE_PREF_SIZE);
            button.setId("face-" + bench.id());
            button.getStyleClass().add("bench-face");
            Tips.on(button, "V and R turn the bench");
            button.setOnAction(_ -> show(bench));
            buttons.put(bench, button);
            head.getChildren().add(button);
        }
        head.getChildren().addAll(name, gap, hint);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("pane-head");
        facts.getStyleClass().add("facts");
        side = new VBox(Headings.subheading("What happens"), changes, Headings.subheading("What the file says"), facts);
        side.getStyleClass().add("bench-side");
        scroll = new ScrollPane(side);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.prefWidthProperty().bind(widthProperty().map(w -> Math.clamp(w.doubleValue() * 0.36, 220, 330)));
        scroll.setId("bench-facts");
        setTop(head);
        show(benches.getFirst());
        model.itemProperty().subscribe((_, now) -> {
            // A sound has a wave, an instrument has keys; what was turned to by hand stays.
            if (now.isPresent() && open.get().lines().isPresent() && !suits(open.get(), now.get())) show(own());
            renew();
        });
        renew();
    }

    private static boolean suits(Bench bench, PackingItem item) { return bench.lines().filter(l -> l.test(item)).isPresent(); }

    public List<Bench> benches() { return List.copyOf(buttons.keySet()); }

    public ReadOnlyObjectProperty<Bench> openProperty() { return open.getReadOnlyProperty(); }

    /// @throws IllegalArgumentException if no bench is called so
    public Bench find(String id) {
        return buttons.keySet().stream().filter(b -> b.id().equals(id)).findFirst().orElseThrow(() -> new IllegalArgumentException("no bench " + id));
    }

    public void show(String id) { show(find(id)); }

    /// The bench of the line that is looked at.
    public void showOwn() { show(own()); }

    private Bench own() {
        return buttons.keySet().stream().filter(b -> model.itemProperty().get().filter(i -> suits(b, i)).isPresent()).findFirst()
                .orElse(buttons.keySet().iterator().next());
    }

    private void show(Bench next) {
        Bench last = open.get();
        open.set(next);
        if (last != next) last.shown(false);
        next.shown(true);
        buttons.forEach((bench, button) -> button.setSelected(bench == next));
        hint.setText(next.hint());
        setCenter(next.node());
        // Levels are many sounds: what one file says has its place beside its wave.
        setRight(next.hasFileFacts() ? scroll : null);
        name.setVisible(next.namesLine());
    }

    private void renew() {
        name.setText(model.itemProperty().get().map(i -> i.source().relative().toString()).orElse("choose a line of the list"));
        side.setVisible(model.itemProperty().get().isPresent());
        changes.getChildren().setAll(model.changes().stream().map(ChangeLine::new).toList());
        facts.getChildren().clear();
        int row = 0;
        for (BenchModel.Fact fact : model.facts()) {
            Label key = new Label(fact.name()), value = new Label(fact.value());
            key.getStyleClass().add("fact-name");
            key.setMinWidth(Region.USE_PREF_SIZE);
            value.getStyleClass().add("fact-value");
            value.setWrapText(!fact.name().equals("File"));
            value.setTextOverrun(OverrunStyle.LEADING_ELLIPSIS);
            Tips.on(value, fact.value());
            GridPane.setHgrow(value, Priority.ALWAYS);
            facts.addRow(row++, key, value);
        }
    }
}
