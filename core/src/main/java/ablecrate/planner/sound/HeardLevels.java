package ablecrate.planner.sound;

import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.option.LevelTarget;
import ablecrate.option.Overs;
import ablecrate.option.Treatment;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.Ends;
import ablecrate.signal.SourceChain;
import ablecrate.signal.Hold;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.IntStream;

/// What the outputs sound like before gain and limiter, and behind the limiter, where anything depends on it.
/// @param before of each output, before its fades; empty while not measured or where it does not matter
/// @param faded the same with its fades
/// @param limited what a limiter makes of each; empty where it has nothing to hold
/// @param seamDb the step at the seam of the result's loop
record HeardLevels(List<Levels> before, List<Levels> faded, List<Measurement.Limited> limited, OptionalDouble seamDb, List<Answer<?>> answers) {
    /// Listens for one sound, question after question: each is asked only when those before it are answered.
    private static final class Listening {
        private final SoundTask task;
        private final Channels channels;
        private final SourceChain sourceChain;
        private final List<Answer<?>> answers = new ArrayList<>();

        Listening(SoundTask task, Channels channels, SourceChain sourceChain) {
            this.task = task;
            this.channels = channels;
            this.sourceChain = sourceChain;
        }

        private <T extends Measurement> Optional<T> ask(Measurement.Request request, Class<T> kind, boolean isNeeded) {
            Answer<T> answer = task.ask(request, kind, isNeeded);
            answers.add(answer);
            return answer.found();
        }

        boolean isWaiting() { return answers.stream().anyMatch(Answer::isAwaited); }

        /// @param isTold whether it is told though nothing depends on it; then one output is enough
        List<Measurement.ChainLevels> levels(Ends with, boolean isTold) {
            boolean isNeeded = isLeveled(task, sourceChain);
            if (isWaiting() || !isNeeded && !isTold) return List.of();
            List<ChannelMix> mixes = channels.mixes();
            return (isNeeded ? mixes : mixes.subList(0, Math.min(1, mixes.size()))).stream()
                    .flatMap(mix -> ask(new Measurement.OfSourceChain(task.file(), sourceChain.with(mix), with), Measurement.ChainLevels.class, isNeeded)
                            .stream())
                    .toList();
        }

        List<Levels> whole(List<Measurement.ChainLevels> heard) {
            return heard.size() < channels.mixes().size() ? List.of() : heard.stream().map(Measurement.ChainLevels::levels).toList();
        }

        /// The loudest first; one gain for all of them.
        List<Measurement.Limited> limited(List<Levels> faded, Ends ends) {
            Optional<Hold> hold = hold(task);
            if (!isLeveled(task, sourceChain) || isWaiting() || faded.isEmpty() || hold.isEmpty()) return List.of();
            Optional<LevelTarget> target = task.treatment().level();
            Optional<Double> peak = Leveling.most(faded, hold.get() instanceof Hold.TruePeaks ? LevelMeasure.TRUE_PEAK : LevelMeasure.PEAK),
                    loud = target.flatMap(t -> Leveling.most(faded, t.measure()));
            double gain = loud.map(l -> target.get().value() - l).orElse(0.0);
            if (peak.isEmpty() || peak.get() + gain <= hold.get().ceilingDb()) return List.of();
            int loudest = loud.isEmpty() ? 0 : loudest(faded, target.get().measure());
            Measurement.Aim aim = loud.isEmpty()
                    ? new Measurement.Aim.Gain(0)
                    : new Measurement.Aim.Target(target.get().measure(), target.get().value(), task.treatment().limits().mostLimitingDb());
            Optional<Measurement.Limited> first = limited(loudest, ends, hold.get(), aim);
            if (first.isEmpty()) return List.of();
            List<Measurement.Limited> all = new ArrayList<>();
            for (int i = 0; i < channels.mixes().size(); i++)
                (i == loudest ? first : limited(i, ends, hold.get(), new Measurement.Aim.Gain(first.get().gainDb()))).ifPresent(all::add);
            return all.size() < channels.mixes().size() ? List.of() : all;
        }

        private static int loudest(List<Levels> faded, LevelMeasure measure) {
            return IntStream.range(0, faded.size()).boxed().max(Comparator.comparing(i -> faded.get(i).by(measure).orElse(Double.NEGATIVE_INFINITY)))
                    .orElseThrow();
        }

        private Optional<Measurement.Limited> limited(int output, Ends ends, Hold hold, Measurement.Aim aim) {
            return ask(new Measurement.OfLimited(task.file(), sourceChain.with(channels.mixes().get(output)), ends, hold, aim), Measurement.Limited.class,
                    true);
        }
    }

    /// @param isWaiting whether something has to be known first
    static HeardLevels of(SoundTask task, Channels channels, SourceChain sourceChain, Ends ends, boolean isWaiting) {
        if (isWaiting) return new HeardLevels(List.of(), List.of(), List.of(), OptionalDouble.empty(), List.of());
        Listening listening = new Listening(task, channels, sourceChain);
        List<Measurement.ChainLevels> heard = listening.levels(Ends.NONE, sourceChain.loop().isPresent());
        List<Levels> before = listening.whole(heard), faded = ends.isNone() ? before : listening.whole(listening.levels(ends, false));
        List<Measurement.Limited> limited = listening.limited(faded, ends);
        return new HeardLevels(before, faded, limited, heard.isEmpty() ? OptionalDouble.empty() : heard.getFirst().seamDb(), listening.answers);
    }

    /// Whether samples may come to lie beyond full scale where an integer is written: conversions overshoot, floats and decoders know no full scale.
    static boolean mayGoOver(SoundTask task, SourceChain sourceChain) {
        return task.writesIntegers()
                && (task.file().encoding().isFloat() || task.file().isLossy() || sourceChain.convertsRate() || !sourceChain.offsets().isEmpty()
                        || sourceChain.loop().isPresent());
    }

    /// Whether gain and limiter follow from what is heard.
    static boolean isLeveled(SoundTask task, SourceChain sourceChain) {
        Treatment treatment = task.treatment();
        // Lowered together, a sound goes with the others whether it may lie over or not.
        return treatment.setsLevels() || task.raiseDb() > 0 || treatment.limits().overs() == Overs.LOWER && mayGoOver(task, sourceChain)
                || treatment.limits().overs() == Overs.LOWER_TOGETHER && task.writesIntegers();
    }

    /// What a limiter would hold if it were needed; empty where peaks are kept low otherwise, or may be as high as they like.
    static Optional<Hold> hold(SoundTask task) {
        Treatment treatment = task.treatment();
        if (Leveling.lowersGain(treatment)) return Optional.empty();
        if (treatment.ceilingDbtp().isPresent()) return Optional.of(new Hold.TruePeaks(treatment.ceilingDbtp().get()));
        return task.depth().isFloat() || treatment.limits().overs() != Overs.LIMIT ? Optional.empty() : Optional.of(new Hold.Samples());
    }
}
