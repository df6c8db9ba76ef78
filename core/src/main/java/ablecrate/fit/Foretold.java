package ablecrate.fit;

import ablecrate.instrument.Span;
import java.util.LinkedHashMap;
import java.util.Map;

/// How stacks sound on other keys than their own, foretold from one rendering of each. Those that sound alike but for their level, as velocity layers of the same
/// sample do, share one. Safe for threads.
final class Foretold {
    /// A rendering takes half a megabyte a side.
    private static final int MOST_KEPT = 64;

    private final Notes notes;
    private final boolean isRough;
    private final Map<Alike.Note, NoteAnalyser.Reference> references = new LinkedHashMap<>(16, 0.75f, true) {
        @Override protected boolean removeEldestEntry(Map.Entry<Alike.Note, NoteAnalyser.Reference> eldest) { return size() > MOST_KEPT; }
    };

    /// @param isRough whether what differs a little in brightness counts as alike
    Foretold(Notes notes, boolean isRough) {
        this.notes = notes;
        this.isRough = isRough;
    }

    Notes notes() { return notes; }

    /// @return `[key]` while the key is held; null beyond the keys
    HeardNote[] on(Stack stack, int velocity, Span keys) {
        Alike alike = Alike.of(notes.carried(stack.alone()), stack.root(), velocity, isRough);
        NoteAnalyser.Reference reference = reference(alike.note());
        HeardNote[] out = new HeardNote[128];
        for (int key = keys.low(); key <= keys.high(); key++)
            out[key] = notes.moved(reference, key - stack.root(), alike.louderDb());
        return out;
    }

    private NoteAnalyser.Reference reference(Alike.Note note) {
        synchronized (references) {
            NoteAnalyser.Reference known = references.get(note);
            if (known != null) return known;
        }
        // Not rendered under the lock: others would wait.
        NoteAnalyser.Reference made = notes.reference(note);
        synchronized (references) {
            references.put(note, made);
        }
        return made;
    }
}
