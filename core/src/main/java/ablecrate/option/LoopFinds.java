package ablecrate.option;

import ablecrate.instrument.LoopMode;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;

/// Which loops are looked for.
/// @param missing whether a sound without a loop gets one
/// @param bumping whether a loop that is heard is replaced by a better one
/// @param levelled whether a decay within a loop that is found may be made up for
/// @param way how loops go that sounds get which have none
/// @param decay of notes that go on in a loop that was found
public record LoopFinds(boolean missing, boolean bumping, boolean levelled, Way way, Decay decay) {
    public static final LoopFinds NONE = new LoopFinds(false, false, false, Way.FORWARD, Decay.SOUND);

    /// How a loop goes.
    public enum Way {
        FORWARD("forward", EnumSet.of(LoopMode.FORWARD)), ALTERNATING("alternating", EnumSet.of(LoopMode.ALTERNATING)),
        EITHER("forward, else alternating", EnumSet.of(LoopMode.FORWARD, LoopMode.ALTERNATING));

        private final String label;
        private final Set<LoopMode> modes;

        Way(String label, Set<LoopMode> modes) {
            this.label = label;
            this.modes = Set.copyOf(modes);
        }

        public String id() { return name().toLowerCase(Locale.ROOT); }

        /// For people.
        public String label() { return label; }

        public Set<LoopMode> modes() { return modes; }
    }

    /// How a note goes on whose sound dies away, once it plays a loop.
    public enum Decay {
        SOUND("as the sound"), NONE("none");

        private final String label;

        Decay(String label) { this.label = label; }

        public String id() { return name().toLowerCase(Locale.ROOT); }

        /// For people.
        public String label() { return label; }
    }

    public LoopFinds withMissing(boolean m) { return new LoopFinds(m, bumping, levelled, way, decay); }

    public LoopFinds withBumping(boolean b) { return new LoopFinds(missing, b, levelled, way, decay); }

    public LoopFinds withLevelled(boolean l) { return new LoopFinds(missing, bumping, l, way, decay); }

    public LoopFinds withWay(Way w) { return new LoopFinds(missing, bumping, levelled, w, decay); }

    public LoopFinds withDecay(Decay d) { return new LoopFinds(missing, bumping, levelled, way, d); }
}
