package ablecrate.desktop.help;

import java.util.List;
import java.util.Optional;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;

/// Something the window does, with its keys: the one list that keys, menus and the overlay are made from.
/// @param group heading in the overlay
/// @param keys the first is the one that is shown
/// @param plain whether the keys are plain characters, which belong to a text field while one is typed in
/// @param isForCards whether it may be done while a card lies over the list
/// @param told how the keys are written where a view of its own answers them; otherwise by their first combination
public record Action(String group, String label, List<KeyCombination> keys, boolean plain, boolean isForCards, Runnable run, Optional<String> told) {
    public static Action of(String group, String label, String key, Runnable run) {
        return new Action(group, label, List.of(KeyCombination.valueOf(key)), false, false, run, Optional.empty());
    }

    public static Action plain(String group, String label, String key, Runnable run) {
        return new Action(group, label, List.of(KeyCombination.valueOf(key)), true, false, run, Optional.empty());
    }

    /// What the focused view does by itself; only for the overlay.
    public static Action told(String group, String label, String keys) {
        return new Action(group, label, List.of(), false, false, () -> {}, Optional.of(keys));
    }

    public Action or(String key) {
        List<KeyCombination> more = new java.util.ArrayList<>(keys);
        more.add(KeyCombination.valueOf(key));
        return new Action(group, label, List.copyOf(more), plain, isForCards, run, told);
    }

    /// The same, also while a card lies over the list.
    public Action forCards() { return new Action(group, label, keys, plain, true, run, told); }

    public boolean answers(KeyEvent event) { return keys.stream().anyMatch(k -> k.match(event)); }

    public String keyText() { return told.orElseGet(() -> keys.getFirst().getDisplayText().replace("Slash", "/").replace("Shortcut", "Ctrl")); }
}
