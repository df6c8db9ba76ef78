package ablecrate.instrument;

import java.util.Optional;

/// Where a sound lies on the keyboard.
/// @param rootKey MIDI key at which it plays untransposed, 0…127, 60 is middle C
/// @param fineTuneCents what a player adds on playback: a sample that sounds 25 cents sharp has −25
/// @param gainDb what a player adds to the level
public record Mapping(Optional<Integer> rootKey, double fineTuneCents, Optional<Span> keys, Optional<Span> velocities,
        Optional<Double> gainDb) {
    public static final Mapping NONE = new Mapping(Optional.empty(), 0, Optional.empty(), Optional.empty(), Optional.empty());

    public boolean isEmpty() { return rootKey.isEmpty() && fineTuneCents == 0 && keys.isEmpty() && velocities.isEmpty() && gainDb.isEmpty(); }

    public Mapping withRootKey(Optional<Integer> key) { return new Mapping(key, fineTuneCents, keys, velocities, gainDb); }

    public Mapping withFineTune(double cents) { return new Mapping(rootKey, cents, keys, velocities, gainDb); }

    /// Played `cents` higher. More than half a semitone goes to the root key: a lower root is played higher.
    public Mapping tunedBy(double cents) {
        double sum = fineTuneCents + cents;
        int semitones = rootKey.isPresent() && (sum >= 50 || sum < -50) ? Math.clamp(Math.round(sum / 100), rootKey.get() - 127, rootKey.get()) : 0;
        return new Mapping(rootKey.map(k -> k - semitones), sum - 100 * semitones, keys, velocities, gainDb);
    }

    /// The fine tuning as far as root keys reach: beyond a key it is told by another root, and below the lowest and above the highest there is none.
    public double tellableCents() { return fineTuneCents > 0 && rootKey.filter(k -> k == 0).isPresent() ? 0 : fineTuneCents < -100 ? -50 : fineTuneCents; }

    public Mapping withRanges(Optional<Span> keyRange, Optional<Span> velocityRange) {
        return new Mapping(rootKey, fineTuneCents, keyRange, velocityRange, gainDb);
    }

    public Mapping withGain(Optional<Double> db) { return new Mapping(rootKey, fineTuneCents, keys, velocities, db); }
}
