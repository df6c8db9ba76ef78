package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.LoopChange;
import ablecrate.detect.FoundLoop;
import ablecrate.detect.LoopQuality;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.option.LoopFinds;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// A loop for a sound that has none, or whose loop is heard, where one is asked for.
/// @param task with the loop that was found
/// @param heard what it was listened to for
record LoopSearch(SoundTask task, List<Answer<?>> heard, Optional<LoopChange> change) {
    static LoopSearch of(SoundTask task) {
        LoopFinds wanted = task.treatment().finds().loops();
        List<Loop> loops = task.file().metadata().loops();
        if (!task.target().carriesLoops() || !task.target().loops().modes().contains(LoopMode.FORWARD) || task.edit().loop().loops().isPresent())
            return none(task);
        if (loops.isEmpty()) return wanted.missing() && task.own().loops().isEmpty() ? missing(task) : none(task);
        Optional<Loop> ruling = task.rulingLoop().filter(l -> l.mode() == LoopMode.FORWARD);
        return wanted.bumping() && ruling.isPresent() ? renewed(task, ruling.get()) : none(task);
    }

    /// Whether what the file says of its loop is no more true.
    boolean isRenewed() { return change.filter(LoopChange.LoopRenewed.class::isInstance).isPresent(); }

    private static LoopSearch none(SoundTask task) { return new LoopSearch(task, List.of(), Optional.empty()); }

    private static LoopSearch missing(SoundTask task) {
        Answer<Measurement.Loops> heard = search(task);
        if (heard.found().isEmpty()) return new LoopSearch(task, List.of(heard), Optional.empty());
        Optional<FoundLoop> best = best(heard);
        if (best.isEmpty())
            return new LoopSearch(task, List.of(heard), Optional.of(new LoopChange.NoLoopFound(
                    heard.found().get().loops().stream().mapToDouble(l -> l.quality().cost()).min().stream().boxed().findFirst())));
        double ms = ms(task, best.get());
        return new LoopSearch(task.looped(List.of(Loop.sustain(best.get().frames(), LoopMode.FORWARD)), ms, best.get().riseDb()), List.of(heard),
                Optional.of(
                        new LoopChange.LoopFound(best.get().frames(), ms, best.get().riseDb(), best.get().quality().bump(), best.get().quality().centsOff())));
    }

    private static LoopSearch renewed(SoundTask task, Loop loop) {
        FrameRange frames = loop.frames();
        int crossfade = (int) Math.round(task.crossfadeMs() * task.file().rateHz() / 1000);
        Answer<Measurement.LoopJudged> judged = task.ask(new Measurement.OfLoopQuality(task.file(), frames, crossfade), Measurement.LoopJudged.class, true);
        Optional<LoopQuality> quality = judged.found().flatMap(Measurement.LoopJudged::quality);
        if (quality.isEmpty() || quality.get().passes()) return new LoopSearch(task, List.of(judged), Optional.empty());
        Answer<Measurement.Loops> heard = search(task);
        if (heard.found().isEmpty()) return new LoopSearch(task, List.of(judged, heard), Optional.empty());
        Optional<FoundLoop> best = best(heard);
        if (best.isEmpty())
            return new LoopSearch(task, List.of(judged, heard), Optional.of(new LoopChange.LoopStaysHeard(frames, quality.get().cost())));
        double ms = ms(task, best.get());
        List<Loop> loops = new ArrayList<>(task.file().metadata().loops());
        loops.set(loops.indexOf(loop), loop.withFrames(best.get().frames()));
        return new LoopSearch(task.looped(loops, ms, best.get().riseDb()), List.of(judged, heard),
                Optional.of(
                        new LoopChange.LoopRenewed(frames, best.get().frames(), ms, best.get().riseDb(), quality.get().cost(), best.get().quality().cost())));
    }

    private static Answer<Measurement.Loops> search(SoundTask task) {
        // Shorter ones the destination does not play; a frame more, as the rate may change.
        long shortest = task.target().loops().shortest(), least = shortest <= 2 ? 0 : Math.ceilDiv(shortest * task.file().rateHz(), task.rateHz()) + 1;
        return task.ask(new Measurement.OfLoops(task.file(), task.treatment().finds().loops().levelled(), least), Measurement.Loops.class, true);
    }

    private static Optional<FoundLoop> best(Answer<Measurement.Loops> heard) {
        return heard.found().orElseThrow().loops().stream().filter(l -> l.quality().passes()).findFirst();
    }

    private static double ms(SoundTask task, FoundLoop loop) { return loop.crossfadeFrames() * 1000.0 / task.file().rateHz(); }
}
