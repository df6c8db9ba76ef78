package ablecrate.desktop.action;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;

/// All that the window does, by id: the one list that keys, menus, the search and tests go by.
public final class Actions {
    /// What a text field does with its text.
    private static final List<KeyCombination> TEXT_KEYS = Stream.of("Z", "Shift+Z", "Y", "X", "C", "V", "A").map(k -> KeyCombination.valueOf("Shortcut+" + k))
            .toList();

    private final Map<String, Action> all = new LinkedHashMap<>();

    public void add(List<Action> more) {
        for (Action action : more)
            if (all.put(action.id(), action) != null) throw new IllegalArgumentException("two actions are called " + action.id());
    }

    public List<Action> all() { return List.copyOf(all.values()); }

    /// @throws IllegalArgumentException if there is none
    public Action find(String id) {
        if (!all.containsKey(id)) throw new IllegalArgumentException("no action " + id);
        return all.get(id);
    }

    public List<MenuItem> menu(String... ids) { return Stream.of(ids).map(this::find).map(Actions::item).toList(); }

    private static MenuItem item(Action action) {
        String text = action.label() + "   " + action.keyText();
        MenuItem item = action.isOn().isPresent() ? new CheckMenuItem(text) : new MenuItem(text);
        if (item instanceof CheckMenuItem check) {
            check.setSelected(action.isOn().get().getAsBoolean());
            check.setOnMenuValidation(_ -> check.setSelected(action.isOn().get().getAsBoolean()));
        }
        item.setId("menu-" + action.id());
        item.setOnAction(_ -> action.run().run());
        return item;
    }

    /// Runs what a key means where it was pressed, and takes the event then.
    /// @param isCovered whether a card lies over the window
    public void answer(KeyEvent event, Node focus, boolean isCovered) {
        boolean typing = focus instanceof TextInputControl, pressing = focus instanceof ButtonBase || focus instanceof ComboBoxBase<?>;
        boolean bareCharacter = !event.isShortcutDown() && !event.isAltDown();
        // A menu or list that is open gets its keys first.
        if (focus instanceof ComboBoxBase<?> combo && combo.isShowing()) return;
        if (typing && TEXT_KEYS.stream().anyMatch(k -> k.match(event))) return;
        for (Action action : all.values())
            if (action.answers(event)) {
                if (isCovered && !action.isForCards()) return;
                if (typing && bareCharacter && event.getCode() != KeyCode.ESCAPE && !event.getCode().isFunctionKey()) return;
                if (pressing && action.scope() == Action.Scope.CHARACTERS && event.getCode() == KeyCode.SPACE) return;
                action.run().run();
                event.consume();
                return;
            }
    }
}
