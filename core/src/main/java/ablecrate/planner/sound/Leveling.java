package ablecrate.planner.sound;

import ablecrate.change.LevelChange;
import ablecrate.option.CeilingBy;
import ablecrate.option.LevelTarget;
import ablecrate.option.Treatment;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.signal.Hold;
import ablecrate.signal.Measurement;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/// Finds the gain of each sound. Sees all sounds at once, as those that are levelled together get one gain. What a gain alone does follows from what was
/// measured; what a limiter makes of it was measured behind it.
public final class Leveling {
    /// Gains smaller than this are none.
    private static final double NOTHING_DB = 0.005;
    /// A level that is met.
    private static final double MET_DB = 0.05;

    /// What a sound brings.
    /// @param group sounds of one group get one gain
    /// @param before what comes to the level stage, an entry an output; empty while not measured
    /// @param faded the same with its fades
    /// @param limited what a limiter makes of each output, where it has something to hold; empty where it has not
    /// @param raiseDb by which it may be made louder for the sake of its zones, as far as it has headroom
    /// @param isInteger whether what is written cannot hold what is over full scale
    public record Sound(String group, Treatment treatment, List<Levels> before, List<Levels> faded, List<Measurement.Limited> limited, Optional<Hold> hold,
            double raiseDb, boolean isInteger) {}

    /// What is done to it.
    public record Setting(double gainDb, Optional<Hold> hold, List<Levels> after, Optional<LevelChange> change) {
        static final Setting NONE = new Setting(0, Optional.empty(), List.of(), Optional.empty());
    }

    private record Group(String name, Treatment treatment) {}

    private final Map<Group, Double> gains = new HashMap<>();

    public Leveling(List<Sound> sounds) {
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
        double gain = limits ? sound.limited().getFirst().gainDb() : gains.get(new Group(sound.group(), t)) + raisedDb(sound);
        if (Math.abs(gain) < NOTHING_DB) gain = 0;
        double raised = gain;
        List<Levels> after = limits
                ? sound.limited().stream().map(Measurement.Limited::levels).toList()
                : sound.faded().stream().map(l -> l.plus(raised)).toList();
        return new Setting(gain, limits ? sound.hold() : Optional.empty(), after, change(sound, gain, after));
    }

    /// By how much it is made louder for the sake of its zones, in the steps in which formats say gains.
    double raisedDb(Sound sound) {
        if (sound.raiseDb() <= 0 || !sound.limited().isEmpty()) return 0;
        double over = most(sound.faded(), LevelMeasure.PEAK).orElse(0.0) + gains.get(new Group(sound.group(), sound.treatment()));
        return Math.max(0, Math.floor(10 * (sound.isInteger() ? Math.min(sound.raiseDb(), -over) : sound.raiseDb()) + 1e-9) / 10);
    }

    private Optional<LevelChange> change(Sound sound, double gain, List<Levels> after) {
        Treatment t = sound.treatment();
        double raised = raisedDb(sound);
        if (raised > 0)
            return Optional.of(new LevelChange.Raised(most(sound.faded(), LevelMeasure.PEAK).orElse(0.0), most(after, LevelMeasure.PEAK).orElse(0.0), raised,
                    sound.raiseDb()));
        boolean limits = !sound.limited().isEmpty();
        double over = most(after, LevelMeasure.PEAK).orElse(0.0);
        boolean clips = sound.isInteger() && over > NOTHING_DB;
        boolean isUnmeasured = t.level().isPresent() && measured(sound).isEmpty();
        OptionalDouble missing = missing(t, after);
        if (gain == 0 && !limits && !isUnmeasured && !clips && missing.isEmpty()) return Optional.empty();
        LevelMeasure shown = isUnmeasured || t.level().isEmpty()
                ? t.setsLevels() || !limits && gain == 0 ? LevelMeasure.TRUE_PEAK : LevelMeasure.PEAK
                : t.level().get().measure();
        double before = most(sound.before(), shown).or(() -> most(sound.faded(), shown)).orElse(0.0), result = most(after, shown).orElse(0.0);
        boolean isPadded = t.level().filter(target -> target.measure() == LevelMeasure.LUFS_M).isPresent() && sound.faded().getFirst().isMomentaryPadded();
        LevelChange.Asked asked = new LevelChange.Asked(t.level(), t.together() ? Optional.of(sound.group()) : Optional.empty(), t.limits());
        Optional<LevelChange.Limited> limited = limits
                ? Optional.of(new LevelChange.Limited(sound.hold().orElseThrow(),
                        sound.limited().stream().mapToDouble(Measurement.Limited::deepestDb).max().orElse(0)))
                : Optional.empty();
        return Optional.of(new LevelChange.Leveled(asked, shown, before, result, gain,
                isUnmeasured ? LevelChange.Measured.NOT : isPadded ? LevelChange.Measured.PADDED : LevelChange.Measured.WHOLE, limited, missing,
                clips ? OptionalDouble.of(over) : OptionalDouble.empty()));
    }

    /// What the loudest output is short of its target; together, one sound meets it and the others follow.
    private static OptionalDouble missing(Treatment t, List<Levels> after) {
        if (t.together() || t.level().isEmpty()) return OptionalDouble.empty();
        return most(after, t.level().get().measure()).map(v -> t.level().get().value() - v).filter(d -> Math.abs(d) > MET_DB).map(OptionalDouble::of)
                .orElse(OptionalDouble.empty());
    }

    private static Optional<LevelChange> silent(Treatment t) { return t.level().map(_ -> new LevelChange.Silent()); }
}
