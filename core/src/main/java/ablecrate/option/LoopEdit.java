package ablecrate.option;

import ablecrate.instrument.Loop;
import java.util.List;
import java.util.Optional;

/// What the user wants of the loops of one sound.
/// @param loops instead of those that the file says, in frames of the source; an empty list for none at all
/// @param crossfadeMs at their seams, instead of what holds for all
public record LoopEdit(Optional<List<Loop>> loops, Optional<Double> crossfadeMs) {
    public static final LoopEdit NONE = new LoopEdit(Optional.empty(), Optional.empty());

    public LoopEdit {
        loops = loops.map(List::copyOf);
        crossfadeMs.ifPresent(Treatment::requireCrossfade);
    }

    public LoopEdit withLoops(Optional<List<Loop>> l) { return new LoopEdit(l, crossfadeMs); }

    public LoopEdit withCrossfade(Optional<Double> ms) { return new LoopEdit(loops, ms); }
}
