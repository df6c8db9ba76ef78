package ablecrate.plan;

import ablecrate.dsp.LevelMeasure;
import java.util.Locale;

/// How loud a sound shall be, and by which measure.
/// @param value in the measure's unit
public record LevelTarget(LevelMeasure measure, double value) {
    /// `-10.1 LUFS maximum momentary loudness`
    public String label() { return String.format(Locale.ROOT, "%.1f %s %s", value, measure.unit(), measure.label()); }
}
