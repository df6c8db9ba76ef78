package ablecrate.desktop.action;

import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javafx.application.Platform;
import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Hyperlink;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// All actions with their keys, over the window; what is typed narrows them, and Enter does the first.
public final class ActionsView extends VBox {
    private final List<Action> actions;
    private final Runnable close;
    private final TextField search = new TextField();
    private static final double GAP = 18, BETWEEN_COLUMNS = 26, KEY_WIDTH = 112;

    private final HBox columns = new HBox(BETWEEN_COLUMNS);
    private final ScrollPane scroll = new ScrollPane(columns);
    private List<VBox> blocks = List.of();
    private final Label nothing = Headings.label("No action has these words.", "placeholder");

    public ActionsView(Actions actions, Runnable close) {
        this.actions = actions.all();
        this.close = close;
        getStyleClass().addAll("overlay", "keys");
        setId("actions");
        search.setId("action-search");
        search.setPromptText("What do you want to do?");
        search.setAccessibleText("Search in actions");
        Tips.on(search, "Words of an action; Enter does the first");
        search.setPrefColumnCount(24);
        search.textProperty().subscribe(_ -> renew());
        search.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() != KeyCode.ENTER) return;
            first().ifPresent(this::run);
            e.consume();
        });
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button back = new Button("Close");
        back.setOnAction(_ -> close.run());
        HBox head = new HBox(16, Headings.title("Actions and keys"), search, gap, back);
        head.setAlignment(Pos.CENTER_LEFT);
        scroll.getStyleClass().add("plain-scroll");
        scroll.setFitToHeight(true);
        scroll.setFocusTraversable(false);
        scroll.viewportBoundsProperty().map(Bounds::getHeight).subscribe(_ -> arrange());
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(head, nothing, scroll);
        nothing.managedProperty().bind(nothing.visibleProperty());
        focusedProperty().subscribe(isFocused -> {
            if (isFocused) Platform.runLater(search::requestFocus);
        });
    }

    private List<Action> found() {
        List<String> words = List.of(search.getText().strip().toLowerCase(Locale.ROOT).split("\\s+"));
        return actions.stream().filter(a -> words.stream().allMatch((a.label() + " " + a.group() + " " + a.keyText()).toLowerCase(Locale.ROOT)::contains))
                .toList();
    }

    private Optional<Action> first() { return found().stream().filter(Action::canBeChosen).findFirst(); }

    private void run(Action action) {
        close.run();
        action.run().run();
    }

    private void renew() {
        List<Action> found = found();
        Optional<Action> first = search.getText().isBlank() ? Optional.empty() : first();
        Map<String, GridPane> groups = new LinkedHashMap<>();
        for (Action action : found) {
            GridPane grid = groups.computeIfAbsent(action.group(), _ -> new GridPane());
            Label key = Headings.label(action.keyText(), "key");
            key.setMinWidth(KEY_WIDTH);
            grid.addRow(grid.getRowCount(), key, label(action, first.filter(action::equals).isPresent()));
        }
        blocks = new ArrayList<>();
        groups.forEach((name, grid) -> {
            grid.getStyleClass().add("key-grid");
            blocks.add(new VBox(6, Headings.subheading(name), grid));
        });
        nothing.setVisible(found.isEmpty());
        arrange();
    }

    /// Each group in the first column that has room for it, so that as few columns as can be hold all of them.
    private void arrange() {
        double room = scroll.getViewportBounds().getHeight();
        columns.getChildren().setAll(blocks);
        applyCss();
        List<VBox> filled = new ArrayList<>();
        for (VBox block : blocks) {
            double height = block.prefHeight(-1);
            VBox column = filled.stream().filter(c -> c.prefHeight(-1) + GAP + height <= room).findFirst().orElseGet(() -> {
                filled.add(new VBox(GAP));
                return filled.getLast();
            });
            column.getChildren().add(block);
        }
        columns.getChildren().setAll(filled);
    }

    private Region label(Action action, boolean isFirst) {
        if (!action.canBeChosen()) return Headings.label(action.label(), "action-told");
        String state = action.isOn().map(on -> on.getAsBoolean() ? " (on)" : " (off)").orElse("");
        Hyperlink link = new Hyperlink(action.label() + state);
        link.setId("action-" + action.id());
        link.getStyleClass().add("action");
        if (isFirst) link.getStyleClass().add("action-first");
        link.setOnAction(_ -> run(action));
        return link;
    }
}
