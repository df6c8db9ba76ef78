package ablecrate.desktop.bench;

import ablecrate.desktop.action.Action;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.plan.PackingItem;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;

/// One way to look at what is chosen, and to work on it. The window lists the benches; each brings its node, its keys and what is heard of it.
public interface Bench {
    /// For buttons and tests: `wave`.
    String id();

    String title();

    Node node();

    /// Puts the keyboard where the work is done.
    void focus();

    /// What the mouse does here, in a few words.
    default String hint() { return ""; }

    /// The lines that are looked at here unless something else is chosen; empty for a bench that is turned to by hand.
    default Optional<Predicate<PackingItem>> lines() { return Optional.empty(); }

    /// Whether the name of the line stands in the head.
    default boolean namesLine() { return false; }

    /// Whether what the file says has its place beside it.
    default boolean hasFileFacts() { return false; }

    /// Told when it comes to lie open, and when another does.
    default void shown(boolean isShown) {}

    /// Whether a plain key is the bench's own at this moment, as a letter that plays a note is, and is no key of an action.
    default boolean takes(KeyCode code) { return false; }

    /// What is heard here; empty for the chosen line.
    default Optional<Hearable> hearable() { return Optional.empty(); }

    /// Its keys, to be told.
    default List<Action> keys() { return List.of(); }
}
