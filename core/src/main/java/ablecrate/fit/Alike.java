package ablecrate.fit;

import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.List;
import java.util.Optional;

/// A note that stands for all that sound like it while the key is held: wherever they lie on the keys, and however loud they are.
/// @param louderDb by how much the one it stands for is louder
record Alike(Note note, double louderDb) {
    /// What is played.
    record Note(List<Zone> zones, int key, int velocity) {}

    private static final int ROOT = 60, VELOCITY = 100;
    /// Cutoffs of filters are alike within half an octave, where one listens less closely.
    private static final double CUTOFFS_PER_OCTAVE = 2;

    /// @param zones that sound whatever is met, see [Stack#alone]
    /// @param isRough whether what differs a little in brightness, or in what wheels and vibrato do, counts as alike
    static Alike of(List<Zone> zones, int key, int velocity, boolean isRough) {
        Zone first = zones.getFirst();
        int root = first.get(Parameter.ROOT_KEY), place = ROOT + key - root;
        double tracking = first.get(Parameter.VELOCITY_TRACKING), gain = first.get(Parameter.GAIN);
        boolean isMovable = isKey(place) && tracking >= 0 && zones.stream().allMatch(z -> z.get(Parameter.VELOCITY_TRACKING) == tracking
                && !isFaded(z) && isKey(ROOT + z.get(Parameter.ROOT_KEY) - root));
        if (!isMovable) return new Alike(new Note(zones.stream().map(z -> held(z, isRough)).toList(), key, velocity), 0);
        List<Zone> plain = zones.stream().map(zone -> {
            // Zones beside each other keep what they differ by.
            Zone moved = held(zone, isRough).without(Parameter.Area.MAP).without(Parameter.VELOCITY_TRACKING).without(Parameter.FILTER_VELOCITY)
                    .with(Parameter.ROOT_KEY, ROOT + zone.get(Parameter.ROOT_KEY) - root)
                    .with(Parameter.GAIN, Parameter.GAIN.nearest(zone.get(Parameter.GAIN) - gain));
            return zone.get(Parameter.FILTER) == FilterKind.NONE
                    ? moved.without(Parameter.Area.FILTER)
                    : moved.with(Parameter.CUTOFF, cutoffHz(zone, velocity, isRough));
        }).toList();
        return new Alike(new Note(plain, place, VELOCITY), gain + 40 * (tracking / 100 * Math.log10(velocity / 127.0) - Math.log10(VELOCITY / 127.0)));
    }

    private static boolean isKey(int key) { return key >= 0 && key <= 127; }

    private static boolean isFaded(Zone zone) {
        return List.of(Parameter.KEY_FADE_IN, Parameter.KEY_FADE_OUT, Parameter.VELOCITY_FADE_IN, Parameter.VELOCITY_FADE_OUT).stream().map(zone::get)
                .anyMatch(Optional::isPresent);
    }

    /// Without what is not heard while the key is held.
    private static Zone held(Zone zone, boolean isRough) {
        Zone out = zone.without(Parameter.RELEASE).without(Parameter.FILTER_RELEASE).without(Parameter.Area.CHOICE).without(Parameter.Area.OTHER);
        return isRough ? out.without(Parameter.Area.MODULATION) : out;
    }

    private static double cutoffHz(Zone zone, int velocity, boolean isRough) {
        double hertz = zone.get(Parameter.CUTOFF) * Math.pow(2, zone.get(Parameter.FILTER_VELOCITY) * velocity / 127.0 / 1200);
        double octaves = Math.log(hertz) / Math.log(2);
        return Math.clamp(isRough ? Math.pow(2, Math.rint(CUTOFFS_PER_OCTAVE * octaves) / CUTOFFS_PER_OCTAVE) : hertz, 1, 100_000);
    }
}
