package ablecrate.planner.sound;

import ablecrate.change.LevelChange;
import ablecrate.dsp.Levels;
import ablecrate.option.Overs;
import ablecrate.signal.Ends;
import ablecrate.signal.Finish;
import ablecrate.signal.Front;
import ablecrate.signal.Hold;
import ablecrate.signal.Measurement;
import java.util.Optional;
import java.util.OptionalDouble;

/// Gain, fades and limiter together, and what is known to lie beyond full scale without them.
record Ceiling(Finish finish, Optional<LevelChange.BeyondFullScale> change) {
    /// Beyond full scale by less than this is rounding.
    private static final double OVER_DB = 0.001;

    static Ceiling of(SoundTask task, Channels channels, Front front, Ends ends, Leveling.Setting setting) {
        if (setting.hold().isPresent() || HeardLevels.isLeveled(task, front) || !HeardLevels.mayGoOver(task, front))
            return new Ceiling(new Finish(setting.gainDb(), ends, setting.hold()), Optional.empty());
        // Nobody listens for this alone, but what was heard for another reason counts.
        Optional<LevelChange.BeyondFullScale> over = channels.mixes().stream().flatMap(m -> heard(task, front.with(m), ends).stream())
                .map(Ceiling::peakDbfs).max(Double::compare).filter(db -> db > OVER_DB)
                .map(db -> new LevelChange.BeyondFullScale(db, task.treatment().limits().overs() == Overs.CLIP, Optional.empty()));
        return new Ceiling(new Finish(setting.gainDb(), ends, over.filter(o -> !o.clips()).map(_ -> new Hold.Samples())), over);
    }

    private static Optional<Measurement> heard(SoundTask task, Front front, Ends ends) {
        return task.measured().apply(new Measurement.OfFront(task.file(), front, ends)).or(() -> front.isAsIn(task.file()) && ends.isNone()
                ? task.measured().apply(new Measurement.OfFile(task.file(), OptionalDouble.empty()))
                : Optional.empty());
    }

    private static double peakDbfs(Measurement heard) {
        return switch (heard) {
            case Measurement.FrontLevels(Levels found, _) -> found.samplePeakDbfs().orElse(Double.NEGATIVE_INFINITY);
            case Measurement.Survey whole -> whole.levels().samplePeakDbfs().orElse(Double.NEGATIVE_INFINITY);
            default -> Double.NEGATIVE_INFINITY;
        };
    }
}
