package ablecrate.fit;

import java.util.Arrays;

/// A note as it is heard: its power in mel bands, block by block of time, left and right apart; and how different two of them sound.
///
/// Harm is the weighted mean of the level differences of their cells in dB. Cells count by the square root of their time, and by how far the louder of both lies above a
/// floor 60 dB below the first note's loudest cell; power rises by 3 dB an octave above 500 Hz, as ears do. Below some 0.7 dB lies what other phases, or other noise of
/// the same colour, do by themselves. A note is pressed for a second and a half; what has no loop is judged by how it goes on for up to ten seconds as well
/// ([LongNote]), as else the end of a long sound could be left out for nothing.
/// Sources: the mel scale, 2595 log10(1 + f/700), is common practice (D. O'Shaughnessy, *Speech Communication*, 1987); distances of log spectra as in R. Gray and
/// J. Markel, *Distance measures for speech processing*, IEEE Trans. ASSP 24, 1976. Pooling, weights and floor were tried out for this use, without a listening test.
public final class HeardNote {
    /// Length of a key press and of what is heard after it.
    public static final double HELD_SECONDS = 1.5;
    static final double RELEASE_SECONDS = 0.5;
    static final int BANDS = 40;
    /// Of the blocks of time, in ms: while the key is held; where it is held longer; once it was let go.
    private static final int[] FROM_MS = {0, 20, 40, 80, 160, 320, 640, 1000, 1480, 3000, 6000, 1480, 1580, 1740},
            TO_MS = {20, 40, 80, 160, 320, 640, 1000, 1480, 3000, 6000, 10_000, 1580, 1740, 2000};
    static final int BLOCKS = FROM_MS.length;
    /// Blocks in which the key is held, and those behind them in which it may still be.
    static final int HELD_BLOCKS = 8, LATE_BLOCKS = 3;
    /// Notes are seldom held that long.
    private static final double LATE_SHARE = 0.5;
    private static final double FLOOR = 1e-6, FLOOR_DB = 60, MARGIN_DB = 3, TO_DB = 10 / Math.log(10);

    /// Silence.
    static final HeardNote NOTHING = new HeardNote(new double[2 * BLOCKS * BANDS]);

    /// `[(side · BLOCKS + block) · BANDS + band]`
    private final double[] cells;
    private final double loudest;
    /// Whether it ends by itself while the key is held: only then is it judged by how it goes on.
    private final boolean isEnding;
    /// Of the cells and the floor below them, in dB; worked out once it is held against another one, as mostly many follow.
    private volatile double[] levels;

    HeardNote(double[] cells) { this(cells, false); }

    private HeardNote(double[] cells, boolean isEnding) {
        this.cells = cells;
        this.isEnding = isEnding;
        double most = 0;
        for (double cell : cells)
            most = Math.max(most, cell);
        loudest = most;
    }

    static double fromSeconds(int block) { return FROM_MS[block] / 1000.0; }

    static double toSeconds(int block) { return TO_MS[block] / 1000.0; }

    static double middleSeconds(int block) { return (FROM_MS[block] + TO_MS[block]) / 2000.0; }

    static boolean isLate(int block) { return block >= HELD_BLOCKS && block < HELD_BLOCKS + LATE_BLOCKS; }

    private static double blockMs(int block) { return TO_MS[block] - FROM_MS[block]; }

    /// The same note where its key is held longer: in the colours of the last block that was rendered.
    HeardNote goingOn(LongNote as) {
        double[] more = cells.clone();
        for (int side = 0; side < 2; side++)
            for (int late = 0; late < LATE_BLOCKS; late++)
                for (int band = 0; band < BANDS; band++)
                    more[(side * BLOCKS + HELD_BLOCKS + late) * BANDS + band] = cells[(side * BLOCKS + HELD_BLOCKS - 1) * BANDS + band] * as.parts()[late];
        return new HeardNote(more, as.isEnding());
    }

    public boolean isSilent() { return loudest <= 0; }

    /// Mean power while the key is held, in dB; comparable between notes only.
    double levelDb() {
        double sum = 0;
        for (int side = 0; side < 2; side++)
            for (int block = 0; block < HELD_BLOCKS; block++)
                for (int band = 0; band < BANDS; band++)
                    sum += cells[(side * BLOCKS + block) * BANDS + band] * blockMs(block);
        return 10 * Math.log10(sum + 1e-30);
    }

    /// How different the other one sounds, in dB.
    public double harm(HeardNote other) { return harm(other, 1, NOTHING, BLOCKS); }

    /// Both at once, as far as powers add up.
    HeardNote with(HeardNote other) {
        double[] both = new double[cells.length];
        for (int at = 0; at < both.length; at++)
            both[at] = cells[at] + other.cells[at];
        return new HeardNote(both, isEnding || other.isEnding);
    }

    /// How different another one sounds while the key is held.
    /// @param gainDb by which it is louder than it is
    /// @param beside what sounds beside it, and is part of this one
    double heldHarm(HeardNote other, double gainDb, HeardNote beside) { return harm(other, Math.pow(10, gainDb / 10), beside, HELD_BLOCKS + LATE_BLOCKS); }

    /// How different the other one would sound at the same level while the key is held, in dB.
    double alignedHarm(HeardNote other) {
        if (isSilent() || other.isSilent()) return harm(other);
        return heldHarm(other, levelDb() - other.levelDb(), NOTHING);
    }

    private double harm(HeardNote other, double gain, HeardNote beside, int blocks) {
        double floor = FLOOR * (loudest > 0 ? loudest : other.loudest), floorDb = TO_DB * Math.log(floor), sum = 0, weights = 0;
        if (floor <= 0) return 0;
        double[] own = loudest > 0 ? levelsDb() : null;
        for (int side = 0; side < 2; side++)
            for (int block = 0; block < blocks; block++) {
                boolean isLate = isLate(block);
                if (isLate && !isEnding) continue;
                double time = Math.sqrt(blockMs(block)) * (isLate ? LATE_SHARE : 1);
                for (int at = (side * BLOCKS + block) * BANDS, end = at + BANDS; at < end; at++) {
                    double a = own == null ? floorDb : own[at], power = other.cells[at] * gain + beside.cells[at] + floor;
                    // What goes on in a loop where this one ended misses nothing.
                    if (isLate) power = Math.min(power, cells[at] + floor);
                    // Most cells that nobody hears need no logarithm.
                    if (power <= cells[at] + floor && a <= floorDb + MARGIN_DB) continue;
                    double b = power == cells[at] + floor ? a : TO_DB * Math.log(power), weight = time * (Math.max(a, b) - floorDb - MARGIN_DB);
                    if (weight <= 0) continue;
                    weights += weight;
                    sum += weight * Math.abs(a - b);
                }
            }
        return weights == 0 ? 0 : Math.min(FLOOR_DB, sum / weights);
    }

    private double[] levelsDb() {
        double[] known = levels;
        if (known != null) return known;
        double floor = FLOOR * loudest, floorDb = TO_DB * Math.log(floor);
        // Notes that are held alone have nothing in a third of their blocks.
        return levels = Arrays.stream(cells).map(cell -> cell == 0 ? floorDb : TO_DB * Math.log(cell + floor)).toArray();
    }
}
