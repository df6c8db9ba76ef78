package ablecrate.option;

/// How loose sounds are laid on keys where they become a kit.
/// @param startKey of the first sound
/// @param stepKeys from one sound to the next: 1 for neighbouring keys, more leaves keys between them silent
/// @param isOfAll whether the sounds of all folders make one kit, in the order of their names; else each folder makes its own
public record KitLayout(int startKey, int stepKeys, boolean isOfAll) {
    /// The usual lowest key of drums (General MIDI level 1: 35 and 36 are bass drums).
    public static final KitLayout DEFAULT = new KitLayout(36, 1, false);

    public KitLayout {
        if (startKey < 0 || startKey > 127) throw new IllegalArgumentException("a start key of " + startKey + ", 0 to 127 are possible");
        if (stepKeys < 1 || stepKeys > 12) throw new IllegalArgumentException("a step of " + stepKeys + " keys, 1 to 12 are possible");
    }

    public KitLayout withStartKey(int key) { return new KitLayout(key, stepKeys, isOfAll); }

    public KitLayout withStep(int keys) { return new KitLayout(startKey, keys, isOfAll); }

    public KitLayout withAll(boolean all) { return new KitLayout(startKey, stepKeys, all); }
}
