package ablecrate.plan;

import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.signal.Hold;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/// Finds the gain of each sound. Sees all sounds at once, as those that are levelled together get one gain. What a gain alone does follows from what was
/// measured; what a limiter makes of it was measured behind it.
final class Leveling {
    /// Gains smaller than this are none.
    private static final double NOTHING_DB = 0.005;
    /// A level that is met.
    private static final double MET_DB = 0.05;

    /// What a sound brings.
    /// @param group sounds of one group get one gain
    /// @param before what comes to the level stage, an entry an output; empty while not measured
    /// @param faded the same with its fades
    /// @param limited what a limiter makes of each output, where it has something to hold; empty where it has not
    /// @param isInteger whether what is written cannot hold what is over full scale
    record Sound(String group, Treatment treatment, List<Levels> before, List<Levels> faded, List<Measurement.Limited> limited, Optional<Hold> hold,
            boolean isInteger) {}

    /// What is done to it.
    record Setting(double gainDb, Optional<Hold> hold, List<Levels> after, Optional<Change> change) {
        static final Setting NONE = new Setting(0, Optional.empty(), List.of(), Optional.empty());
    }

    private record Group(String name, Treatment treatment) {}

    private final Map<Group, Double> gains = new HashMap<>();

    Leveling(List<Sound> sounds) {
        Map<Group, Double> loudest = new HashMap<>(), highest = new HashMap<>(), samples = new HashMap<>();
        for (Sound sound : sounds) {
            Group group = new Group(sound.group(), sound.treatment());
            gains.put(group, 0.0);
            measured(sound).ifPresent(v -> loudest.merge(group, v, Math::max));
            most(sound.faded(), LevelMeasure.TRUE_PEAK).ifPresent(v -> highest.merge(group, v, Math::max));
            if (sound.isInteger()) most(sound.faded(), LevelMeasure.PEAK).ifPresent(v -> samples.merge(group, v, Math::max));
        }
        gains.replaceAll((group, _) -> {
            Treatment t = group.treatment();
            double gain = t.level().isPresent() && loudest.containsKey(group) ? t.level().get().value() - loudest.get(group) : 0;
            if (lowersGain(t) && t.ceilingDbtp().isPresent() && highest.containsKey(group))
                gain = Math.min(gain, t.ceilingDbtp().get() - highest.get(group));
            if (t.limits().overs().lowers() && t.ceilingDbtp().isEmpty() && samples.containsKey(group)) gain = Math.min(gain, -samples.get(group));
            return Math.abs(gain) < NOTHING_DB ? 0 : gain;
        });
    }

    /// Whether peaks are kept low by the gain. Together, a limiter would take the steps away that levelling together is for; and a peak is not raised by
    /// limiting.
    static boolean lowersGain(Treatment t) {
        return t.together() || t.ceilingBy() == CeilingBy.GAIN
                || t.level().map(LevelTarget::measure).filter(m -> m == LevelMeasure.PEAK || m == LevelMeasure.TRUE_PEAK).isPresent();
    }

    /// The loudest of a sound's outputs, by the measure that is to be met.
    private static Optional<Double> measured(Sound sound) { return sound.treatment().level().flatMap(t -> most(sound.faded(), t.measure())); }

    static Optional<Double> most(List<Levels> levels, LevelMeasure measure) {
        return levels.stream().map(l -> l.by(measure)).filter(OptionalDouble::isPresent).map(OptionalDouble::getAsDouble).max(Double::compare);
    }

    Setting of(Sound sound) {
        Treatment t = sound.treatment();
        if (most(sound.faded(), LevelMeasure.TRUE_PEAK).isEmpty()) return new Setting(0, Optional.empty(), List.of(), silent(t));
        boolean limits = !sound.limited().isEmpty();
        double gain = limits ? sound.limited().getFirst().gainDb() : gains.get(new Group(sound.group(), t));
        if (Math.abs(gain) < NOTHING_DB) gain = 0;
        double raised = gain;
        List<Levels> after = limits
                ? sound.limited().stream().map(Measurement.Limited::levels).toList()
                : sound.faded().stream().map(l -> l.plus(raised)).toList();
        return new Setting(gain, limits ? sound.hold() : Optional.empty(), after, change(sound, gain, after));
    }

    private Optional<Change> change(Sound sound, double gain, List<Levels> after) {
        Treatment t = sound.treatment();
        boolean limits = !sound.limited().isEmpty();
        double over = most(after, LevelMeasure.PEAK).orElse(0.0);
        boolean clips = sound.isInteger() && over > NOTHING_DB;
        boolean unmeasured = t.level().isPresent() && measured(sound).isEmpty();
        if (gain == 0 && !limits && !unmeasured && !clips && !isMissed(t, after)) return Optional.empty();
        LevelMeasure shown = unmeasured || t.level().isEmpty()
                ? t.setsLevels() || !limits && gain == 0 ? LevelMeasure.TRUE_PEAK : LevelMeasure.PEAK
                : t.level().get().measure();
        double before = most(sound.before(), shown).or(() -> most(sound.faded(), shown)).orElse(0.0), result = most(after, shown).orElse(0.0);
        Verdict verdict = clips ? Verdict.REDUCED : unmeasured || limits || isMissed(t, after) ? Verdict.ADJUSTED : Verdict.CONVERTED;
        return Optional.of(new Change(Property.LEVEL, text(before, shown), text(result, shown), verdict, reason(sound, gain, after, clips, over))
                .of(before, result, shown.unit()));
    }

    private static boolean isMissed(Treatment t, List<Levels> after) {
        return !t.together() && t.level().stream().anyMatch(l -> most(after, l.measure()).filter(v -> Math.abs(v - l.value()) > MET_DB).isPresent());
    }

    private static Optional<Change> silent(Treatment t) {
        return t.level().map(_ -> new Change(Property.LEVEL, "silent", "silent", Verdict.KEPT, "nothing to set a level by"));
    }

    private static String reason(Sound sound, double gain, List<Levels> after, boolean clips, double over) {
        Treatment t = sound.treatment();
        List<String> told = new ArrayList<>();
        StringBuilder first = new StringBuilder(String.format(Locale.ROOT, "gain %+.2f dB", gain));
        t.level().ifPresent(target -> {
            first.append(" by ").append(target.measure().label());
            if (t.together()) first.append(", one gain for ").append(sound.group().isEmpty() ? "the folder" : "'" + sound.group() + "'");
            if (measured(sound).isEmpty())
                first.append("; too short for ").append(target.measure().label()).append(", level by another measure");
            else
                if (target.measure() == LevelMeasure.LUFS_M && sound.faded().getFirst().isMomentaryPadded()) first.append(", padded to 400 ms");
        });
        // What is missing comes first: a line in a list shows no more than its beginning.
        t.level().filter(_ -> !t.together()).ifPresent(target -> most(after, target.measure()).map(v -> target.value() - v).filter(d -> Math.abs(d) > MET_DB)
                .ifPresent(missing -> told.add(String.format(Locale.ROOT, "%.1f dB %s %.1f %s: %s", Math.abs(missing), missing > 0 ? "short of" : "over",
                        target.value(), target.measure().unit(), why(sound)))));
        if (!sound.limited().isEmpty()) told.add(limited(sound));
        told.add(first.toString());
        if (t.together() && t.level().isEmpty() && gain < 0) told.add("as one with its folder");
        if (clips) told.add(String.format(Locale.ROOT, "%.2f dB beyond full scale are cut off", over));
        return String.join("; ", told);
    }

    private static String limited(Sound sound) {
        double deepest = sound.limited().stream().mapToDouble(Measurement.Limited::deepestDb).max().orElse(0);
        String what = switch (sound.hold().orElseThrow()) {
            case Hold.TruePeaks(double ceiling) -> String.format(Locale.ROOT, "limiter holds %.1f dBTP: ", ceiling);
            case Hold.Samples() -> "limiter holds full scale: ";
        };
        return what + "peaks lowered by " + (deepest < 0.1 ? "less than 0.1 dB" : String.format(Locale.ROOT, "up to %.1f dB", deepest));
    }

    private static String why(Sound sound) {
        Limits limits = sound.treatment().limits();
        if (!sound.limited().isEmpty()) return String.format(Locale.ROOT, "more than %.1f dB of limiting would be needed", limits.mostLimitingDb());
        return limits.ceilingDbtp().map(c -> String.format(Locale.ROOT, "held by the ceiling of %.1f dBTP", c)).orElse("held by full scale");
    }

    private static String text(double value, LevelMeasure measure) { return String.format(Locale.ROOT, "%.1f %s", value, measure.unit()); }
}
