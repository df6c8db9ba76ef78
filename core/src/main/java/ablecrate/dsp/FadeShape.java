package ablecrate.dsp;

import java.util.Arrays;
import java.util.Optional;

/// How a fade goes from silence to full level or back.
public enum FadeShape {
    LINEAR("linear", "linear"), EQUAL_POWER("equal-power", "equal power"), FAST_START("fast-start", "fast start, slow finish"), SLOW_START("slow-start",
            "slow start, fast finish"),
    S("s", "S, slow at both ends");

    private final String id, label;

    FadeShape(String id, String label) {
        this.id = id;
        this.label = label;
    }

    public String id() { return id; }

    public String label() { return label; }

    public static Optional<FadeShape> byId(String id) { return Arrays.stream(values()).filter(s -> s.id.equals(id)).findFirst(); }

    /// @param done part of the fade that has passed, 0…1
    public double fadeIn(double done) {
        return switch (this) {
            case LINEAR -> done;
            case EQUAL_POWER -> Math.sin(Math.PI / 2 * done);
            case FAST_START -> 1 - (1 - done) * (1 - done) * (1 - done);
            case SLOW_START -> done * done * done;
            case S -> 0.5 - 0.5 * Math.cos(Math.PI * done);
        };
    }

    /// @param done part of the fade that has passed, 0…1
    public double fadeOut(double done) { return this == EQUAL_POWER ? Math.cos(Math.PI / 2 * done) : 1 - fadeIn(done); }
}
