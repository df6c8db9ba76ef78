package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.FileChange;
import ablecrate.change.PartChange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Compression;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// What the file is, and becomes: its container, its structure, what compression did to it and will do.
final class Container {
    /// What headers may take of the largest file.
    private static final long HEADERS = 1 << 20;

    private Container() {}

    static Optional<Change> converted(SoundTask task) {
        boolean isOfItsFormat = task.file().audio() instanceof AudioPlace.Slice(SoundFile whole, _, _, _) && whole.formatId().equals(task.target().id());
        return task.staysInFormat() || isOfItsFormat || task.target().isLossy()
                ? Optional.empty()
                : Optional.of(new FileChange.ContainerConverted(task.file().container(), task.target().name()));
    }

    static List<Change> mended(SoundTask task) {
        List<Change> changes = new ArrayList<>();
        for (Problem.Effect effect : List.of(Problem.Effect.LOST, Problem.Effect.MEND)) {
            List<String> problems = task.file().problems().stream().filter(p -> p.effect() == effect).map(Problem::told).toList();
            if (!problems.isEmpty()) changes.add(new FileChange.StructureMended(effect == Problem.Effect.LOST, problems));
        }
        return changes;
    }

    /// What an encoder put before the sound.
    static Optional<Change> start(SoundTask task, FrameRange part) {
        return task.file().compression().map(Compression::start).flatMap(start -> switch (start) {
            case Compression.Start.Told(long frames, String by) ->
                frames > 0 ? Optional.of(new PartChange.EncoderDelayRemoved(frames, by)) : Optional.empty();
            case Compression.Start.Unknown(long likely) -> Optional.of(new PartChange.EncoderDelayUnknown(likely, task.file().rateHz(), part.start()));
        });
    }

    /// @param shape of the first output
    static Optional<Change> compressed(SoundTask task, OutputShape shape) {
        if (!task.target().isLossy()) return Optional.empty();
        String quality = SoundFormats.written(task.target().id()).orElseThrow().describe(task.options().quality(), shape);
        boolean isSecond = task.file().isLossy();
        return Optional.of(new FileChange.Compressed(isSecond ? task.file().codec() + ", " + task.file().depthLabel() : task.file().container(),
                task.target().name(), isSecond ? Optional.of(task.file().codec()) : Optional.empty(), quality));
    }

    static Optional<Change> tooLarge(SoundTask task, OutputShape shape) {
        long bytes = shape.frames() * shape.channels() * shape.depth().bytes();
        long limit = task.target().capabilities().maxFileBytes() - HEADERS;
        return bytes > limit
                ? Optional.of(new FileChange.FileTooLarge(bytes, task.target().name(), limit))
                : Optional.empty();
    }
}
