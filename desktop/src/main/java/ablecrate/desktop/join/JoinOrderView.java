package ablecrate.desktop.join;

import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// Lies over the list: the joined sounds in their order, to be moved by keys, buttons and mouse.
public final class JoinOrderView extends VBox {
    private final JoinOrderModel model;
    private final ListView<String> list;
    private int dragged = -1;

    public JoinOrderView(JoinOrderModel model, Runnable close) {
        super(12);
        this.model = model;
        getStyleClass().addAll("overlay", "card");
        setId("join-order-card");
        list = new ListView<>(model.files());
        list.setId("join-order-list");
        list.setAccessibleText("Joined sounds in their order");
        Label nothing = new Label("Nothing is joined yet. Type a name under 'Join into one' on the right first.");
        nothing.setWrapText(true);
        nothing.getStyleClass().add("placeholder");
        list.setPlaceholder(nothing);
        list.setCellFactory(_ -> new Cell());
        list.getSelectionModel().selectFirst();
        list.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            if (!e.isAltDown() || e.getCode() != KeyCode.UP && e.getCode() != KeyCode.DOWN) return;
            move(e.getCode() == KeyCode.UP ? -1 : 1);
            e.consume();
        });
        focusedProperty().subscribe(isFocused -> {
            if (isFocused) list.requestFocus();
        });
        Button up = Buttons.of("join-up", "Up", "Earlier (Alt+↑)", () -> move(-1)), down = Buttons.of("join-down", "Down", "Later (Alt+↓)", () -> move(1)),
                before = Buttons.of("join-as-before", "As before", "The order that the options say, by folder, name or length", model::asBefore);
        for (Button needsOne : new Button[]{up, down})
            needsOne.disableProperty().bind(list.getSelectionModel().selectedItemProperty().isNull());
        before.disableProperty().bind(model.byHandProperty().not());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox head = new HBox(10, Headings.title("Order of joined sounds"), gap, Buttons.of("join-close", "Close", "Back to the list (Esc)", close)),
                acting = new HBox(10, up, down, before);
        for (HBox row : new HBox[]{head, acting})
            row.setAlignment(Pos.CENTER_LEFT);
        VBox.setVgrow(list, Priority.ALWAYS);
        Label about = new Label("The first at the top. Drag, or move the chosen one with Alt+↑ and Alt+↓.");
        about.getStyleClass().add("about");
        getChildren().addAll(head, about, list, acting);
        setMaxSize(560, 520);
    }

    private void move(int by) { moveTo(list.getSelectionModel().getSelectedIndex(), by); }

    private void moveTo(int from, int by) {
        int now = model.move(from, by);
        list.getSelectionModel().clearAndSelect(now);
        list.getFocusModel().focus(now);
        list.scrollTo(Math.max(0, now - 3));
    }

    /// A sound, with its number; what is dragged over another takes its place.
    private final class Cell extends ListCell<String> {
        Cell() {
            setOnMousePressed(_ -> dragged = isEmpty() ? -1 : getIndex());
            setOnDragDetected(_ -> startFullDrag());
            setOnMouseReleased(_ -> dragged = -1);
            setOnMouseDragEntered(_ -> {
                if (isEmpty() || dragged < 0 || dragged == getIndex()) return;
                int to = getIndex();
                moveTo(dragged, to - dragged);
                dragged = to;
            });
        }

        @Override protected void updateItem(String file, boolean isEmpty) {
            super.updateItem(file, isEmpty);
            setText(isEmpty ? null : getIndex() + 1 + "  " + file);
        }
    }
}
