package ablecrate.option;

import java.util.Optional;

/// How the beats of a clip lie.
/// @param bpm beats a minute; absent for what its name, its texts or the ear tell
/// @param downbeatSeconds where a bar begins, from the clip's start; absent for its start, or that of what is used of it
public record Beats(Optional<Double> bpm, Optional<Double> downbeatSeconds) {
    /// Beats of a bar, where only a tempo is known.
    public static final int OF_BAR = 4;
    static final Beats UNKNOWN = new Beats(Optional.empty(), Optional.empty());
    private static final double LOWEST_BPM = 20, HIGHEST_BPM = 999, LATEST_SECONDS = 36_000;

    public Beats {
        bpm.ifPresent(b -> Bounds.require(isTempo(b), "a tempo is 20 to 999 beats a minute, not", b));
        downbeatSeconds.ifPresent(s -> Bounds.require(s >= 0 && s <= LATEST_SECONDS, "a downbeat lies 0 to 36000 s from the start, not", s));
    }

    public static boolean isTempo(double bpm) { return bpm >= LOWEST_BPM && bpm <= HIGHEST_BPM; }

    /// From a bar line, at the clip's start or before it, to the clip's start.
    /// @param bpm that it goes at
    public double pickUpSeconds(double bpm) {
        double bar = OF_BAR * 60 / bpm, downbeat = downbeatSeconds.orElse(0.0), into = downbeat % bar;
        return into < bar * 1e-9 ? 0 : bar - into;
    }
}
