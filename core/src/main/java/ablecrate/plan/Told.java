package ablecrate.plan;

import ablecrate.audio.Figures;
import java.util.Locale;

/// Texts and changes that planning and packing tell alike.
public final class Told {
    private Told() {}

    /// `1 click`, `1,200 clicks`
    public static String count(long n, String noun) { return Figures.grouped(n) + " " + noun + (n == 1 ? "" : "s"); }

    /// Samples beyond full scale, found while planning or while packing.
    /// @param overDb how far the farthest
    public static Change overs(double overDb, boolean clips) {
        String reason = clips
                ? String.format(Locale.ROOT, "samples lie up to %.2f dB beyond full scale and are cut off, as chosen", overDb)
                : String.format(Locale.ROOT, "samples would lie up to %.2f dB beyond full scale: the limiter takes just that", overDb);
        return new Change(Property.LEVEL, String.format(Locale.ROOT, "%+.2f dBFS", overDb), "0.00 dBFS", clips ? Verdict.REDUCED : Verdict.ADJUSTED, reason)
                .of(overDb, 0, "dBFS");
    }
}
