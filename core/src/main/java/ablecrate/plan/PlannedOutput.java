package ablecrate.plan;

import ablecrate.codec.OutputShape;
import ablecrate.dsp.Dither;
import ablecrate.dsp.Levels;
import ablecrate.instrument.SoundFacts;
import ablecrate.signal.Finish;
import ablecrate.signal.Front;
import java.util.Optional;

/// One file that packing would write.
/// @param path below the chosen folder, `/` between folders
/// @param facts what the file will say of itself
/// @param front the way of its audio up to the level stage
/// @param finish and from there on
/// @param levels of what comes to the level stage, where levels are set or shown
/// @param dither what is really done where samples are rounded; [Dither#NONE] where none are
/// @param isVerbatim whether the source is copied bit for bit
/// @param audioChanges whether samples differ from the source's
public record PlannedOutput(String path, String formatId, OutputShape shape, SoundFacts facts, Front front, Finish finish, Optional<Levels> levels,
        Dither dither, boolean isVerbatim, boolean audioChanges) {
    PlannedOutput at(String otherPath) {
        return new PlannedOutput(otherPath, formatId, shape, facts, front, finish, levels, dither, isVerbatim, audioChanges);
    }

    /// What the levels will be, as far as they can be told: a limiter takes from peaks alone.
    public Optional<Levels> expectedLevels() {
        return levels.map(l -> {
            Levels after = l.plus(finish.gainDb());
            return finish.ceilingDbtp().isPresent() ? after.heldAt(finish.ceilingDbtp().getAsDouble()) : after;
        });
    }
}
