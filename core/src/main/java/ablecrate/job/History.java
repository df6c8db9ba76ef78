package ablecrate.job;

import java.util.ArrayDeque;
import java.util.Deque;

/// States that can be undone and redone. Not for two threads.
public final class History<T> {
    /// More steps than anyone goes back.
    private static final int LONGEST = 500;

    /// @param label what was done, for the menu: `remove 3 files`
    private record Step<T>(T state, String label) {}

    private final Deque<Step<T>> past = new ArrayDeque<>(), future = new ArrayDeque<>();
    private T present;

    public History(T first) { present = first; }

    public T present() { return present; }

    /// A new state; what was undone before is forgotten. A state equal to the present one is no step.
    public void step(T next, String label) {
        if (next.equals(present)) return;
        past.push(new Step<>(present, label));
        if (past.size() > LONGEST) past.removeLast();
        future.clear();
        present = next;
    }

    /// The latest step, taken further: while something is dragged the steps on the way are none.
    /// @param label of the step; if the latest is another, this is a new one
    public void amend(T next, String label) {
        if (past.isEmpty() || !past.peek().label().equals(label) || !future.isEmpty())
            step(next, label);
        else
            present = next;
    }

    /// The present state, seen otherwise: no step, and what was undone can still be redone.
    public void look(T present) { this.present = present; }

    public boolean canUndo() { return !past.isEmpty(); }

    public boolean canRedo() { return !future.isEmpty(); }

    /// What undo would take back; empty if nothing.
    public String undoLabel() { return past.isEmpty() ? "" : past.peek().label(); }

    public String redoLabel() { return future.isEmpty() ? "" : future.peek().label(); }

    public T undo() { return move(past, future); }

    public T redo() { return move(future, past); }

    private T move(Deque<Step<T>> from, Deque<Step<T>> to) {
        if (from.isEmpty()) return present;
        Step<T> step = from.pop();
        to.push(new Step<>(present, step.label()));
        present = step.state();
        return present;
    }
}
