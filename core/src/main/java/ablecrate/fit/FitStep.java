package ablecrate.fit;

import java.util.Locale;

/// One thing that was done to make an instrument fit.
/// @param before,after what of it there was, and is: layers on a key, turns of a round robin, samples, or bytes where that is what a step is about
/// @param savedBytes of memory
/// @param harmDb by which the instrument sounds more different for it, in the mean over its notes
public record FitStep(Kind kind, long before, long after, long savedBytes, double harmDb) {
    public enum Kind {
        KEYS("keys"), TURNS("round-robin turns"), RELEASES("release samples"), LAYERS("velocity layers"), ROOTS("samples"), DEPTH("bit depths"),
        RATE("sample rates"), MONO("stereo to mono"), TAILS("ends of sounds");

        private final String label;

        Kind(String label) { this.label = label; }

        /// Whether it is done to samples one by one, and not to how many there are.
        public boolean isOfEachSample() { return this == DEPTH || this == RATE || this == MONO || this == TAILS; }

        public String id() { return name().toLowerCase(Locale.ROOT); }

        /// For people.
        public String label() { return label; }
    }
}
