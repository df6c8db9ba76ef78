package ablecrate.plan;

import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.dsp.Dither;
import ablecrate.dsp.Levels;
import ablecrate.instrument.SoundFacts;
import ablecrate.signal.Finish;
import ablecrate.signal.Front;
import java.util.Optional;

/// One sound that packing would write: a file, or a part of a bank.
/// @param source what it is made of
/// @param path below the chosen folder, `/` between folders; in a bank, its name
/// @param facts what the file will say of itself
/// @param front the way of its audio up to the level stage
/// @param finish and from there on
/// @param levels of what comes to the level stage, where levels are set or shown
/// @param dither what is really done where samples are rounded; [Dither#NONE] where none are
/// @param isVerbatim whether the source is copied bit for bit
/// @param audioChanges whether samples differ from the source's
public record PlannedOutput(SoundFile source, String path, String formatId, OutputShape shape, SoundFacts facts, Front front, Finish finish,
        Optional<Levels> levels,
        Dither dither, boolean isVerbatim, boolean audioChanges) {
    PlannedOutput at(String otherPath) {
        return new PlannedOutput(source, otherPath, formatId, shape, facts, front, finish, levels, dither, isVerbatim, audioChanges);
    }

    /// Bytes of a second of sound in a lossy format at its best.
    private static final long MOST_LOSSY_BYTES = 40_000;

    /// Bytes of its audio, headers aside; where it is compressed, not more than these.
    public long audioBytes() {
        boolean isLossy = SoundFormats.written(formatId).filter(f -> f.capabilities().compressing().isLossy()).isPresent();
        return isLossy ? shape.frames() * MOST_LOSSY_BYTES / shape.rateHz() : shape.frames() * shape.channels() * (shape.depth().bits() / 8);
    }

    /// What the levels will be, as far as they can be told: a limiter takes from peaks alone.
    public Optional<Levels> expectedLevels() {
        return levels.map(l -> {
            Levels after = l.plus(finish.gainDb());
            return finish.ceilingDbtp().isPresent() ? after.heldAt(finish.ceilingDbtp().getAsDouble()) : after;
        });
    }
}
