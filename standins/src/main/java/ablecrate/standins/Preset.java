package ablecrate.standins;

import java.nio.file.Path;
import java.util.List;

/// What a device plays as one: zones of sounds.
/// @param path of its file or folder, below the card
public record Preset(String name, Path path, List<Slot> slots, Playing playing) {
    /// How all of it is played.
    /// @param channel of MIDI that it listens on; 0 for all
    /// @param isMono whether a note ends the one before
    /// @param bendKeys by which the bend wheel raises and lowers
    /// @param isSmooth whether a curve through four samples is played between two, rather than a straight line
    public record Playing(int channel, boolean isMono, int bendKeys, boolean isSmooth) {
        static final int BEND_KEYS = 2;
        static final Playing USUAL = new Playing(0, false, BEND_KEYS, false);
    }

    public Preset {
        slots = List.copyOf(slots);
    }

    /// One that plays as devices do of which nothing is said: all channels, many voices.
    public Preset(String name, Path path, List<Slot> slots) { this(name, path, slots, Playing.USUAL); }

    /// Some of its sounds.
    public Preset with(List<Slot> some) { return new Preset(name, path, some, playing); }

    /// Keys on which its sounds lie as they are, each once, upwards.
    public List<Integer> keys() { return slots.stream().map(Slot::key).distinct().sorted().toList(); }

    /// @throws Refused if more velocity layers than a device plays lie on a key
    static void layers(List<Slot> slots, int most) throws Refused {
        for (int key = 0; key < 128; key++) {
            int k = key;
            long layers = slots.stream().filter(s -> s.low() <= k && s.high() >= k).map(s -> List.of(s.softest(), s.loudest())).distinct().count();
            if (layers > most) throw new Refused(layers + " velocity layers on key " + key + "; plays " + most);
        }
    }

    /// A sound on keys and velocities.
    /// @param low,high keys, both included; so are velocities
    /// @param centsPerKey by which the pitch rises from key to key
    /// @param velocityPercent how much of the level follows velocity, by its square
    /// @param from,to frames that are played
    /// @param loop empty frames where there is none
    /// @param group sounds of one group end each other; 0 for none
    public record Slot(int low, int high, int softest, int loudest, int root, double cents, double centsPerKey, double gainDb, double pan,
            double velocityPercent,
            int from, int to, boolean isOneShot, Loop loop, int group, Shape shape, CardWave sound) {
        /// The root, or the nearest key it plays on.
        public int key() { return Math.clamp(root, low, high); }

        Slot with(Shape other) {
            return new Slot(low, high, softest, loudest, root, cents, centsPerKey, gainDb, pan, velocityPercent, from, to, isOneShot, loop, group, other,
                    sound);
        }

        /// As long as it plays at its root.
        public double seconds() { return (double) (to - from) / sound.rateHz(); }

        public boolean covers(int key, int velocity) { return key >= low && key <= high && velocity >= softest && velocity <= loudest; }
    }

    /// @param end behind the last frame; 0 where there is no loop
    public record Loop(int start, int end, boolean alternates, int crossfade) {
        static final Loop NONE = new Loop(0, 0, false, 0);
    }

    /// Attack, hold, decay, release in seconds, the level held in dB; a low-pass that stands still; and vibrato.
    /// @param cutoffHz 0 where all passes
    public record Shape(double attack, double hold, double decay, double sustainDb, double release, double cutoffHz, double resonanceDb, Vibrato vibrato) {
        static final Shape PLAIN = new Shape(0, 0, 0, 0, 0.005, 0, 0, Vibrato.NONE);

        Shape with(Vibrato other) { return new Shape(attack, hold, decay, sustainDb, release, cutoffHz, resonanceDb, other); }
    }

    /// The pitch goes up and down in straight lines.
    /// @param cents by which it does so
    /// @param wheelCents by which it does so more where the modulation wheel is all the way up
    /// @param delay in seconds, before it begins
    public record Vibrato(double cents, double wheelCents, double hertz, double delay) {
        static final double HERTZ = 5;
        static final Vibrato NONE = ofWheel(0);

        static Vibrato ofWheel(double cents) { return new Vibrato(0, cents, HERTZ, 0); }

        /// @param wheel 0 … 1
        /// @return cents at a time, in seconds
        double at(double seconds, double wheel) {
            double t = (seconds - delay) * hertz, depth = cents + wheel * wheelCents;
            if (depth == 0 || t < 0) return 0;
            double turn = (t + 0.25) % 1;
            return depth * (turn < 0.5 ? 4 * turn - 1 : 3 - 4 * turn);
        }
    }
}
