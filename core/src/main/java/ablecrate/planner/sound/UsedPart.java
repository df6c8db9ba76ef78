package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.PartChange.Trimmed.By;
import ablecrate.change.PartChange;
import ablecrate.instrument.Loop;
import ablecrate.option.Edges;
import ablecrate.signal.Measurement;
import java.util.Optional;

/// The part of the source that is used: as the user drew it, without silence, or from its attack on; never into a loop.
/// @param preRollFrames of it that lie in front of the attack that it starts on; 0 where it does not
record UsedPart(FrameRange frames, long preRollFrames, Optional<Change> change) {
    /// What listening told of a sound's ends.
    /// @param stems where those begin and end that it is one of
    /// @param attack empty where the sound does not have to start on it
    record Ends(Optional<Measurement.Survey> survey, StemEnds stems, Optional<Answer<Measurement.Onsets>> attack) {}

    private record Wish(FrameRange frames, By by) {}

    static UsedPart of(SoundTask task, Ends ends) {
        long frames = task.file().frames(), delay = task.likelyDelay();
        Optional<Long> attack = ends.attack().flatMap(Answer::found).flatMap(o -> o.frames().stream().findFirst());
        Wish wish = wish(task, ends, attack, delay);
        long start = Math.clamp(wish.frames().start(), 0, frames - 1),
                end = Math.clamp(wish.frames().end(), start + 1, wish.by() == By.STEMS && task.treatment().asOne().pads() ? Long.MAX_VALUE : frames);
        for (Loop loop : task.file().metadata().loops()) {
            start = Math.min(start, loop.frames().start());
            end = Math.max(end, Math.min(frames, loop.frames().end()));
        }
        boolean isTrimmed = end > frames || end - start < frames && (start != delay || end != frames),
                isMissed = ends.attack().filter(a -> !a.isMissing()).isPresent() && attack.isEmpty();
        // Where a loop begins before the attack, nothing in front of it can fade.
        long before = wish.by() == By.ATTACK && start > 0 && start == wish.frames().start() ? attack.orElse(start) - start : 0;
        return new UsedPart(new FrameRange(start, end), before, isTrimmed
                ? Optional.of(new PartChange.Trimmed(frames, start, frames - end, task.file().rateHz(),
                        start < wish.frames().start() || end > wish.frames().end(), wish.by()))
                : isMissed ? Optional.of(new PartChange.AttackNotFound()) : Optional.empty());
    }

    private static Wish wish(SoundTask task, Ends ends, Optional<Long> attack, long delay) {
        if (task.edit().part().isPresent()) return new Wish(task.edit().part().get(), By.MARKS);
        FrameRange whole = new FrameRange(0, task.file().frames());
        Edges edges = task.treatment().edges();
        Optional<FrameRange> stems = ends.stems().common(task);
        if (stems.isPresent()) return new Wish(stems.get(), By.STEMS);
        FrameRange sounding = edges.trimDbfs().isEmpty()
                ? new FrameRange(delay, whole.end())
                : ends.survey().map(Measurement.Survey::sounding).orElse(whole);
        if (attack.isEmpty()) return new Wish(sounding, By.SILENCE);
        long start = Math.max(delay, attack.get() - Math.round(edges.preRollMs() * task.file().rateHz() / 1000));
        return new Wish(new FrameRange(start, Math.max(start, sounding.end())), By.ATTACK);
    }
}
