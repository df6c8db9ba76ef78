package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.AudioChange;
import ablecrate.instrument.Loop;
import ablecrate.signal.Measurement;
import java.util.Optional;

/// The part of the source that is used: as the user drew it, or without silence; never into a loop.
record UsedPart(FrameRange frames, Optional<AudioChange.Trimmed> change) {
    /// @param stems where those begin and end that it is one of
    static UsedPart of(SoundTask task, Optional<Measurement.Survey> survey, StemEnds stems) {
        long frames = task.file().frames(), delay = task.likelyDelay();
        FrameRange wish = task.edit().part().orElseGet(() -> task.treatment().trimDbfs().isEmpty()
                ? new FrameRange(delay, frames)
                : stems.sounding(task.file().rateHz()).or(() -> survey.map(Measurement.Survey::sounding)).orElse(new FrameRange(0, frames)));
        long start = Math.clamp(wish.start(), 0, frames - 1), end = Math.clamp(wish.end(), start + 1, frames);
        for (Loop loop : task.file().metadata().loops()) {
            start = Math.min(start, loop.frames().start());
            end = Math.min(frames, Math.max(end, loop.frames().end()));
        }
        boolean isTrimmed = end - start < frames && (start != delay || end != frames);
        return new UsedPart(new FrameRange(start, end), isTrimmed
                ? Optional.of(new AudioChange.Trimmed(frames, start, frames - end, task.file().rateHz(), start < wish.start() || end > wish.end(),
                        task.edit().part().isEmpty() && !stems.answers().isEmpty()))
                : Optional.empty());
    }
}
