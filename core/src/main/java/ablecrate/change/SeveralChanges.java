package ablecrate.change;

import java.util.List;
import java.util.Optional;

/// What happens to several sounds alike, in one line.
public sealed interface SeveralChanges extends Change {
    /// @return the change that speaks for the others
    Change foremost();

    int sounds();

    @Override List<String> each();

    @Override default Property property() { return foremost().property(); }

    @Override default String kind() { return foremost().kind(); }

    @Override default Verdict verdict() { return foremost().verdict(); }

    /// A property of the sounds of an instrument.
    /// @param foremost the first of the worst
    /// @param alike how many are as bad
    /// @param startAlike whether all were the same before
    record OfSounds(Change foremost, int alike, int sounds, boolean startAlike, List<String> each) implements SeveralChanges {
        @Override public Text text() {
            Text t = foremost.text();
            String what = t.reason().isEmpty() ? t.before() + " → " + t.after() : t.reason(),
                    which = alike == sounds ? "all " + Told.count(sounds, "sound") : alike + " of " + Told.count(sounds, "sound");
            return new Text(startAlike ? t.before() : "various", t.after(),
                    sounds == 1 ? what : which + ": " + (startAlike || alike == 1 ? "" : "e.g. ") + what);
        }
    }

    /// What turned out alike while several sounds were written.
    /// @param foremost with the farthest number
    record WhilePacking(Change foremost, int sounds, List<String> each) implements SeveralChanges {
        @Override public Text text() {
            Text t = foremost.text();
            return new Text(t.before(), t.after(), Told.count(sounds, "sound") + ", at most: " + t.reason());
        }

        @Override public Optional<Numbers> numbers() { return foremost.numbers(); }
    }
}
