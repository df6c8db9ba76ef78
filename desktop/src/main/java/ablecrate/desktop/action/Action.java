package ablecrate.desktop.action;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;

/// Something the window does, with its keys.
/// @param id stable, for menus and tests: `gather-folder`
/// @param group heading among the keys
/// @param keys the first is the one that is shown
/// @param scope where the keys count
/// @param isOn of something that is on or off
/// @param told how the keys are written where a view of its own answers them; otherwise by their first combination
public record Action(String id, String group, String label, List<KeyCombination> keys, Scope scope, boolean isForCards, Runnable run,
        Optional<BooleanSupplier> isOn, Optional<String> told) {
    private static final Map<String, String> KEY_NAMES = Map.of("Slash", "/", "Shortcut", "Ctrl", "Back Space", "Backspace", "↵", "Enter");

    public enum Scope {
        /// Everywhere.
        WINDOW,
        /// Plain characters, which belong to a text field while one is typed in.
        CHARACTERS,
        /// In a view that answers for itself.
        VIEW
    }

    public Action {
        keys = List.copyOf(keys);
    }

    public static Action of(String id, String group, String label, String key, Runnable run) {
        return new Action(id, group, label, List.of(KeyCombination.valueOf(key)), Scope.WINDOW, false, run, Optional.empty(), Optional.empty());
    }

    public static Action plain(String id, String group, String label, String key, Runnable run) {
        return new Action(id, group, label, List.of(KeyCombination.valueOf(key)), Scope.CHARACTERS, false, run, Optional.empty(), Optional.empty());
    }

    /// What the focused view does by itself; only to be told.
    public static Action told(String id, String group, String label, String keys) {
        return new Action(id, group, label, List.of(), Scope.VIEW, false, () -> {}, Optional.empty(), Optional.of(keys));
    }

    public Action or(String key) {
        List<KeyCombination> more = new ArrayList<>(keys);
        more.add(KeyCombination.valueOf(key));
        return new Action(id, group, label, more, scope, isForCards, run, isOn, told);
    }

    /// The same, also while a card lies over the list.
    public Action forCards() { return new Action(id, group, label, keys, scope, true, run, isOn, told); }

    /// The same, shown with whether it is on.
    public Action on(BooleanSupplier state) { return new Action(id, group, label, keys, scope, isForCards, run, Optional.of(state), told); }

    public boolean answers(KeyEvent event) { return keys.stream().anyMatch(k -> k.match(event)); }

    /// Whether it can be chosen from a list, and not only by its keys in a view.
    public boolean canBeChosen() { return scope != Scope.VIEW; }

    public String keyText() {
        return told.orElseGet(() -> {
            String text = keys.getFirst().getDisplayText();
            for (Map.Entry<String, String> name : KEY_NAMES.entrySet())
                text = text.replace(name.getKey(), name.getValue());
            return text;
        });
    }
}
