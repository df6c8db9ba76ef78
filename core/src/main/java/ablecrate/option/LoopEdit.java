package ablecrate.option;

import ablecrate.dsp.LoopLevel;
import ablecrate.instrument.Loop;
import java.util.List;
import java.util.Optional;

/// What the user wants of the loops of one sound.
/// @param loops instead of those that the file says, in frames of the source; an empty list for none at all
/// @param crossfadeMs at their seams, instead of what holds for all
/// @param riseDb by which the sound is raised within the first, to make up for its decay
public record LoopEdit(Optional<List<Loop>> loops, Optional<Double> crossfadeMs, Optional<Double> riseDb) {
    public static final LoopEdit NONE = new LoopEdit(Optional.empty(), Optional.empty(), Optional.empty());

    public LoopEdit {
        loops = loops.map(List::copyOf);
        crossfadeMs.ifPresent(Treatment::requireCrossfade);
        riseDb.ifPresent(db -> Bounds.require(db >= 0 && db <= LoopLevel.MOST_DB, "the level within a loop is raised by 0 to 12 dB, not", db));
    }

    public LoopEdit withLoops(Optional<List<Loop>> l) { return new LoopEdit(l, crossfadeMs, riseDb); }

    public LoopEdit withCrossfade(Optional<Double> ms) { return new LoopEdit(loops, ms, riseDb); }

    public LoopEdit withRise(Optional<Double> db) { return new LoopEdit(loops, crossfadeMs, db); }
}
