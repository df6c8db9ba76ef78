package ablecrate.planner.sound;

import ablecrate.change.LevelChange;
import ablecrate.dsp.Levels;
import ablecrate.option.Overs;
import ablecrate.signal.Ends;
import ablecrate.signal.OutputChain;
import ablecrate.signal.SourceChain;
import ablecrate.signal.Hold;
import ablecrate.signal.Measurement;
import java.util.Optional;
import java.util.OptionalDouble;

/// Gain, fades and limiter together, and what is known to lie beyond full scale without them.
record Ceiling(OutputChain outputChain, Optional<LevelChange.BeyondFullScale> change) {
    /// Beyond full scale by less than this is rounding.
    private static final double OVER_DB = 0.001;

    static Ceiling of(SoundTask task, Channels channels, SourceChain sourceChain, Ends ends, Leveling.Setting setting) {
        if (setting.hold().isPresent() || HeardLevels.isLeveled(task, sourceChain) || !HeardLevels.mayGoOver(task, sourceChain))
            return new Ceiling(new OutputChain(setting.gainDb(), ends, setting.hold()), Optional.empty());
        // Nobody listens for this alone, but what was heard for another reason counts.
        Optional<LevelChange.BeyondFullScale> over = channels.mixes().stream().flatMap(m -> heard(task, sourceChain.with(m), ends).stream())
                .map(Ceiling::peakDbfs).max(Double::compare).filter(db -> db > OVER_DB)
                .map(db -> new LevelChange.BeyondFullScale(db, task.treatment().limits().overs() == Overs.CLIP, Optional.empty()));
        return new Ceiling(new OutputChain(setting.gainDb(), ends, over.filter(o -> !o.clips()).map(_ -> new Hold.Samples())), over);
    }

    private static Optional<Measurement> heard(SoundTask task, SourceChain sourceChain, Ends ends) {
        return task.measured().apply(new Measurement.OfSourceChain(task.file(), sourceChain, ends)).or(() -> sourceChain.isAsIn(task.file()) && ends.isNone()
                ? task.measured().apply(new Measurement.OfFile(task.file(), OptionalDouble.empty()))
                : Optional.empty());
    }

    private static double peakDbfs(Measurement heard) {
        return switch (heard) {
            case Measurement.ChainLevels(Levels found, _) -> found.samplePeakDbfs().orElse(Double.NEGATIVE_INFINITY);
            case Measurement.Survey whole -> whole.levels().samplePeakDbfs().orElse(Double.NEGATIVE_INFINITY);
            default -> Double.NEGATIVE_INFINITY;
        };
    }
}
