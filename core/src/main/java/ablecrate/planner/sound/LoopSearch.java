package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.LoopChange;
import ablecrate.detect.FoundLoop;
import ablecrate.detect.LoopQuality;
import ablecrate.detect.LoopWish;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.option.LoopFinds;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// A loop for a sound that has none, or whose loop is heard, where one is asked for.
/// @param task with the loop that was found
/// @param heard what it was listened to for
/// @param passing all that were found where it had none and whose seam is not heard, the best first
public record LoopSearch(SoundTask task, List<Answer<?>> heard, Optional<LoopChange> change, List<FoundLoop> passing) {
    private static final Set<LoopMode> FOUND = EnumSet.of(LoopMode.FORWARD, LoopMode.ALTERNATING);

    private LoopSearch(SoundTask task, List<Answer<?>> heard, Optional<LoopChange> change) { this(task, heard, change, List.of()); }

    public static LoopSearch of(SoundTask task) {
        if (task.playedAs().loop().isPresent()) return with(task, List.of(task.playedAs().loop().get()), List.of());
        LoopFinds wanted = task.treatment().finds().loops();
        List<Loop> loops = task.file().metadata().loops();
        if (!task.target().carriesLoops() || modes(task).isEmpty() || task.edit().loop().loops().isPresent()) return none(task);
        List<Loop> right = task.file().audio().rightLoops();
        if (!right.isEmpty() && !loops.isEmpty()) return united(task, loops, right);
        if (loops.isEmpty()) return wanted.missing() && task.own().loops().isEmpty() ? missing(task) : none(task);
        Optional<Loop> ruling = task.rulingLoop().filter(l -> FOUND.contains(l.mode()) && task.target().loops().modes().contains(l.mode()));
        return wanted.bumping() && ruling.isPresent() ? renewed(task, ruling.get()) : none(task);
    }

    /// Whether what the file says of its loop is no more true.
    boolean isRenewed() { return change.filter(c -> c instanceof LoopChange.LoopRenewed || c instanceof LoopChange.SideLoopsUnited).isPresent(); }

    private static LoopSearch none(SoundTask task) { return new LoopSearch(task, List.of(), Optional.empty()); }

    /// The loop that a sound gets which has none.
    Optional<FoundLoop> added() { return passing.stream().findFirst(); }

    private static LoopSearch missing(SoundTask task) {
        Answer<Measurement.Loops> heard = search(task, modes(task));
        if (heard.found().isEmpty()) return new LoopSearch(task, List.of(heard), Optional.empty());
        Optional<FoundLoop> best = best(heard);
        if (best.isEmpty())
            return new LoopSearch(task, List.of(heard), Optional.of(new LoopChange.NoLoopFound(
                    heard.found().get().loops().stream().mapToDouble(l -> l.quality().cost()).min().stream().boxed().findFirst())));
        boolean dies = task.treatment().finds().loops().decay() == LoopFinds.Decay.SOUND;
        return with(task, passing(heard).map(l -> dies ? l : l.falling(0)).toList(), List.of(heard));
    }

    private static LoopSearch with(SoundTask task, List<FoundLoop> passing, List<Answer<?>> heard) {
        FoundLoop loop = passing.getFirst();
        double ms = ms(task, loop);
        return new LoopSearch(task.looped(List.of(Loop.sustain(loop.frames(), loop.mode())), ms, loop.riseDb()), heard,
                Optional.of(new LoopChange.LoopFound(loop.frames(), loop.mode(), ms, loop.riseDb(), loop.quality().bump(), loop.quality().centsOff())),
                passing);
    }

    /// The same within the beginning of a sound without a loop.
    public static LoopSearch within(SoundTask task, long frames) { return missing(task.first(frames)); }

    /// What has to be listened to before it is known which loop there is.
    public List<Measurement.Request> wanted() { return heard.stream().filter(Answer::isAwaited).<Measurement.Request>map(Answer::request).toList(); }

    private static LoopSearch renewed(SoundTask task, Loop loop) {
        FrameRange frames = loop.frames();
        Answer<Measurement.LoopJudged> judged = judged(task, loop);
        Optional<LoopQuality> quality = judged.found().flatMap(Measurement.LoopJudged::quality);
        if (quality.isEmpty() || quality.get().passes()) return new LoopSearch(task, List.of(judged), Optional.empty());
        Answer<Measurement.Loops> heard = search(task, Set.of(loop.mode()));
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

    /// Of the loops of two sides those that are better on both; where neither pass, one that does.
    private static LoopSearch united(SoundTask task, List<Loop> left, List<Loop> right) {
        List<Answer<Measurement.LoopJudged>> judged = Stream.of(left, right).map(l -> judged(task, l.getFirst())).toList();
        List<Answer<?>> heard = new ArrayList<>(judged);
        List<Double> costs = judged.stream().flatMap(j -> j.found().flatMap(Measurement.LoopJudged::quality).stream()).map(LoopQuality::cost).toList();
        if (costs.size() < 2) return new LoopSearch(task, heard, Optional.empty());
        List<Loop> better = costs.get(1) < costs.get(0) ? right : left;
        double least = Math.min(costs.get(0), costs.get(1));
        Optional<FoundLoop> found = Optional.empty();
        if (least > 1) {
            Answer<Measurement.Loops> search = search(task, Set.of(better.getFirst().mode()));
            heard.add(search);
            if (search.found().isEmpty()) return new LoopSearch(task, heard, Optional.empty());
            found = best(search);
        }
        SoundTask looped = found.map(f -> task.looped(withFirst(better, f), ms(task, f), f.riseDb())).orElseGet(() -> task.withLoops(better));
        return new LoopSearch(looped, heard,
                Optional.of(new LoopChange.SideLoopsUnited(left.getFirst().frames(), right.getFirst().frames(),
                        found.map(FoundLoop::frames).orElse(better.getFirst().frames()), found.map(f -> ms(task, f)).orElse(0.0),
                        found.map(FoundLoop::riseDb).orElse(0.0), costs.get(0), costs.get(1),
                        found.map(f -> f.quality().cost()).orElse(least))));
    }

    private static List<Loop> withFirst(List<Loop> loops, FoundLoop found) {
        List<Loop> all = new ArrayList<>(loops);
        all.set(0, loops.getFirst().withFrames(found.frames()));
        return all;
    }

    private static Answer<Measurement.LoopJudged> judged(SoundTask task, Loop loop) {
        int crossfade = (int) Math.round(task.crossfadeMs() * task.file().rateHz() / 1000);
        return task.ask(new Measurement.OfLoopQuality(task.file(), loop.frames(), loop.mode(), crossfade), Measurement.LoopJudged.class, true);
    }

    /// As they are wanted, where the destination plays such.
    private static Set<LoopMode> modes(SoundTask task) {
        Set<LoopMode> played = intersection(FOUND, task.target().loops().modes()),
                wanted = intersection(played, task.treatment().finds().loops().way().modes());
        return wanted.isEmpty() ? played : wanted;
    }

    private static Set<LoopMode> intersection(Set<LoopMode> a, Set<LoopMode> b) { return a.stream().filter(b::contains).collect(Collectors.toSet()); }

    private static Answer<Measurement.Loops> search(SoundTask task, Set<LoopMode> modes) {
        LoopWish wish = LoopWish.usual(task.file().rateHz()).levelled(task.treatment().finds().loops().levelled()).in(modes);
        // What the destination plays; a frame more or less, as the rate may change.
        long shortest = task.target().loops().frames().shortest(), longest = task.target().loops().frames().longest();
        if (shortest > 2) wish = wish.from(Math.ceilDiv(shortest * task.file().rateHz(), task.rateHz()) + 1);
        if (longest < Long.MAX_VALUE) wish = wish.upTo(longest * task.file().rateHz() / task.rateHz() - 1);
        return task.ask(new Measurement.OfLoops(task.file(), wish), Measurement.Loops.class, true);
    }

    private static Optional<FoundLoop> best(Answer<Measurement.Loops> heard) { return passing(heard).findFirst(); }

    private static Stream<FoundLoop> passing(Answer<Measurement.Loops> heard) {
        return heard.found().orElseThrow().loops().stream().filter(l -> l.quality().passes());
    }

    private static double ms(SoundTask task, FoundLoop loop) { return loop.crossfadeFrames() * 1000.0 / task.file().rateHz(); }
}
