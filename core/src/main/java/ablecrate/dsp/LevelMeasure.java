package ablecrate.dsp;

import java.util.Arrays;
import java.util.Optional;

/// What a level is measured by. Never "level" alone: they differ by many decibels for one and the same sound.
public enum LevelMeasure {
    PEAK("peak", "sample peak", "dBFS"), TRUE_PEAK("truepeak", "true peak", "dBTP"), LUFS_I("lufs-i", "integrated loudness", "LUFS"), LUFS_M("lufs-m",
            "maximum momentary loudness", "LUFS"),
    LUFS_S("lufs-s", "maximum short-term loudness", "LUFS");

    private final String id, label, unit;

    LevelMeasure(String id, String label, String unit) {
        this.id = id;
        this.label = label;
        this.unit = unit;
    }

    public String id() { return id; }

    public String label() { return label; }

    public String unit() { return unit; }

    public static Optional<LevelMeasure> byId(String id) { return Arrays.stream(values()).filter(m -> m.id.equals(id)).findFirst(); }
}
