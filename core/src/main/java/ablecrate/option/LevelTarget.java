package ablecrate.option;

import ablecrate.dsp.LevelMeasure;
import java.util.Locale;

/// How loud a sound shall be, and by which measure.
/// @param value in the measure's unit
public record LevelTarget(LevelMeasure measure, double value) {
    public LevelTarget {
        Bounds.require(value >= -100 && value <= 24, "a level lies between -100 and 24 dB, not at", value);
    }

    /// `-10.1 LUFS maximum momentary loudness`
    public String label() { return String.format(Locale.ROOT, "%.1f %s %s", value, measure.unit(), measure.label()); }
}
