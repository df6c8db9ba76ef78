package ablecrate.change;

import ablecrate.audio.Figures;
import ablecrate.dsp.Dither;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.List;
import java.util.Locale;

/// Words that changes have in common.
public final class Told {
    static final String AS_CHOSEN = "as chosen";
    private static final int SOME = 3;

    private Told() {}

    /// `1 click`, `1,200 clicks`
    public static String count(long n, String noun) { return Figures.grouped(n) + " " + noun + (n == 1 ? "" : "s"); }

    /// `1,000 → 1 zone`
    static String fewer(long before, long after, String noun) { return Figures.grouped(before) + " → " + count(after, noun); }

    /// `'Glass marimba', C4…E4, velocities 1…64, 'soft c4'`
    /// @param sample what its sound is called
    public static String zone(String instrument, Zone zone, String sample) {
        Span keys = zone.get(Parameter.KEYS), velocities = zone.get(Parameter.VELOCITIES);
        return "'" + instrument + "', " + NoteName.of(keys.low()) + (keys.low() == keys.high() ? "" : "…" + NoteName.of(keys.high()))
                + (velocities.equals(Parameter.VELOCITIES.usual()) ? "" : ", velocities " + velocities.low() + "…" + velocities.high()) + ", '" + sample + "'";
    }

    /// The first few of many, and how many more there are.
    public static String some(List<String> all) {
        return String.join("; ", all.subList(0, Math.min(SOME, all.size()))) + (all.size() > SOME ? "; and " + (all.size() - SOME) + " more" : "");
    }

    /// `4.2 s`, `2:13 min`, `1:02:03 h`
    public static String duration(double seconds) {
        long whole = Math.round(seconds);
        return whole < 60
                ? String.format(Locale.ROOT, "%.1f s", seconds)
                : whole < 3600
                        ? String.format(Locale.ROOT, "%d:%02d min", whole / 60, whole % 60)
                        : String.format(Locale.ROOT, "%d:%02d:%02d h", whole / 3600, whole / 60 % 60, whole % 60);
    }

    /// Beats a minute, with as many digits as tell something: `96`, `119.98`.
    public static String bpm(double bpm) {
        double hundredths = Math.rint(bpm * 100) / 100;
        return hundredths == Math.rint(hundredths) ? Long.toString((long) hundredths) : Double.toString(hundredths);
    }

    /// `mono`, `stereo`, `6 channels`
    public static String channels(int channels) { return channels == 1 ? "mono" : channels == 2 ? "stereo" : channels + " channels"; }

    static String dither(Dither dither) {
        return switch (dither) {
            case NONE -> "no dither";
            case TPDF -> "TPDF dither";
            case SHAPED -> "noise-shaped dither";
        };
    }
}
