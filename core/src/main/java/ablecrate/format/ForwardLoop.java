package ablecrate.format;

import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import java.util.List;

/// What is left of loops where a format has one that goes forward for as long as the key is held.
public final class ForwardLoop {
    public static final Precision<List<Loop>> CARRIED = Precision.as("one, forward; an alternating one is written out", ForwardLoop::first);

    private ForwardLoop() {}

    /// The first loop of the held key.
    private static List<Loop> first(List<Loop> loops) {
        return loops.stream().filter(l -> l.use() == Loop.Use.SUSTAIN).limit(1).map(l -> Loop.sustain(l.frames(), LoopMode.FORWARD)).toList();
    }
}
