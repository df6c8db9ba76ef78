package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Ends;

/// Where the fades of a result lie in its source.
/// @param part of the source that goes
/// @param ends of the result
/// @param inEnd,outStart frames of the source
record WaveFades(FrameRange part, Ends ends, double inEnd, double outStart) {
    static WaveFades of(PlannedOutput output) {
        FrameRange part = output.sourceChain().part();
        Ends ends = output.outputChain().ends();
        double step = (double) output.sourceChain().inputStep() / output.sourceChain().outputStep();
        return new WaveFades(part, ends, part.start() + ends.fadeInFrames() * step, part.end() - ends.fadeOutFrames() * step);
    }
}
