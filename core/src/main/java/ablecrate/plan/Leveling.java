package ablecrate.plan;

import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/// Finds the gain of each sound, or of each group of sounds that are levelled together.
final class Leveling {
    /// Gains smaller than this are none.
    private static final double NOTHING_DB = 0.005;

    /// What a sound brings.
    /// @param group sounds of one group get one gain
    /// @param levels the loudest of its outputs first; absent while not measured
    record Sound(String group, Optional<List<Levels>> levels) {}

    /// What is done to it.
    /// @param limits whether a limiter has peaks to hold
    record Setting(double gainDb, boolean limits, Optional<Change> change) {
        static final Setting NONE = new Setting(0, false, Optional.empty());
    }

    private final Treatment treatment;
    private final Map<String, Double> gains = new HashMap<>();

    Leveling(Treatment treatment, List<Sound> sounds) {
        this.treatment = treatment;
        Map<String, Double> loudest = new HashMap<>(), highest = new HashMap<>();
        for (Sound sound : sounds)
            sound.levels().ifPresent(levels -> {
                measured(levels).ifPresent(v -> loudest.merge(sound.group(), v, Math::max));
                peak(levels).ifPresent(v -> highest.merge(sound.group(), v, Math::max));
            });
        sounds.stream().map(Sound::group).distinct().forEach(group -> {
            double gain = treatment.level().isPresent() && loudest.containsKey(group) ? treatment.level().get().value() - loudest.get(group) : 0;
            if (lowersGain() && treatment.ceilingDbtp().isPresent() && highest.containsKey(group))
                gain = Math.min(gain, treatment.ceilingDbtp().get() - highest.get(group));
            gains.put(group, Math.abs(gain) < NOTHING_DB ? 0 : gain);
        });
    }

    /// Together, a limiter would take the steps away that levelling together is for.
    private boolean lowersGain() { return treatment.together() || treatment.ceilingBy() == CeilingBy.GAIN; }

    private Optional<Double> measured(List<Levels> levels) {
        if (treatment.level().isEmpty()) return Optional.empty();
        return levels.stream().map(l -> l.by(treatment.level().get().measure())).filter(OptionalDouble::isPresent).map(OptionalDouble::getAsDouble)
                .max(Double::compare);
    }

    private static Optional<Double> peak(List<Levels> levels) {
        return levels.stream().map(Levels::truePeakDbtp).filter(OptionalDouble::isPresent).map(OptionalDouble::getAsDouble).max(Double::compare);
    }

    /// @param isInteger whether the output cannot hold what is over full scale
    Setting of(Sound sound, boolean isInteger) {
        List<Levels> levels = sound.levels().orElseThrow();
        Optional<Double> peak = peak(levels), measured = measured(levels);
        if (peak.isEmpty()) return new Setting(0, false, silent());
        double gain = gains.get(sound.group()), after = peak.get() + gain;
        boolean limits = !lowersGain() && treatment.ceilingDbtp().stream().anyMatch(c -> after > c);
        boolean clips = isInteger && !limits && after > 0;
        if (gain == 0 && !limits && (treatment.level().isEmpty() || measured.isPresent()) && !clips) return Setting.NONE;
        String reason = reason(sound, levels, gain, after, limits, clips);
        boolean missed = treatment.level().isPresent() && measured.isEmpty();
        LevelMeasure shown = missed ? LevelMeasure.TRUE_PEAK : treatment.level().map(LevelTarget::measure).orElse(LevelMeasure.TRUE_PEAK);
        double before = missed ? peak.get() : measured.orElse(peak.get()), result = before + gain;
        if (shown == LevelMeasure.TRUE_PEAK && limits) result = Math.min(result, treatment.ceilingDbtp().get());
        Verdict verdict = clips ? Verdict.REDUCED : missed || limits || isOff(result) ? Verdict.ADJUSTED : Verdict.CONVERTED;
        return new Setting(gain, limits, Optional.of(new Change(Property.LEVEL, text(before, shown), text(result, shown), verdict, reason)));
    }

    private boolean isOff(double result) {
        return !treatment.together() && treatment.level().stream().anyMatch(t -> Math.abs(t.value() - result) > 0.05);
    }

    private Optional<Change> silent() {
        return treatment.level().map(_ -> new Change(Property.LEVEL, "silent", "silent", Verdict.KEPT, "nothing to set a level by"));
    }

    private String reason(Sound sound, List<Levels> levels, double gain, double peakAfter, boolean limits, boolean clips) {
        StringBuilder told = new StringBuilder(String.format(Locale.ROOT, "gain %+.2f dB", gain));
        treatment.level().ifPresent(target -> {
            told.append(" by ").append(target.measure().label());
            if (treatment.together()) told.append(", one gain for ").append(sound.group().isEmpty() ? "the folder" : "'" + sound.group() + "'");
            if (measured(levels).isEmpty())
                told.append("; too short for ").append(target.measure().label()).append(", level by another measure");
            else
                if (target.measure() == LevelMeasure.LUFS_M && levels.getFirst().isMomentaryPadded()) told.append(", padded to 400 ms");
        });
        treatment.ceilingDbtp().ifPresent(ceiling -> {
            if (limits)
                told.append(String.format(Locale.ROOT, "; limiter holds %.1f dBTP: peaks lowered by ", ceiling))
                        .append(peakAfter - ceiling < 0.1 ? "less than 0.1 dB" : String.format(Locale.ROOT, "up to %.1f dB", peakAfter - ceiling));
            if (lowersGain() && treatment.level().isPresent() && peakAfter > ceiling - NOTHING_DB && measured(levels).isPresent()
                    && !treatment.together() && treatment.level().get().value() - measured(levels).get() > gain + NOTHING_DB)
                told.append(String.format(Locale.ROOT, "; held by the ceiling of %.1f dBTP, %.1f dB short of the target", ceiling,
                        treatment.level().get().value() - measured(levels).get() - gain));
        });
        if (clips) told.append(String.format(Locale.ROOT, "; true peak %+.1f dBTP would clip, set a ceiling", peakAfter));
        return told.toString();
    }

    private static String text(double value, LevelMeasure measure) { return String.format(Locale.ROOT, "%.1f %s", value, measure.unit()); }
}
