package ablecrate.planner.sound;

import ablecrate.codec.AudioPlace;
import ablecrate.audio.Depth;
import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.change.PartChange;
import ablecrate.dsp.Dither;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.OutputChain;
import ablecrate.signal.LoopCarry;
import ablecrate.signal.SourceChain;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// What becomes of the samples themselves: computed or carried over, rounded or not, at which rate and depth.
/// @param differ whether any differs from the source's
/// @param dither that is used; none where nothing is rounded
record Samples(boolean differ, Dither dither, List<Change> changes) {
    static Samples of(SoundTask task, Channels channels, SourceChain sourceChain, OutputChain outputChain) {
        Depth depth = task.depth();
        // A mended frame is rounded; the others stay to the bit.
        boolean computes = sourceChain.convertsRate() || !sourceChain.offsets().isEmpty() || !outputChain.isNone()
                || sourceChain.loop().stream().anyMatch(LoopCarry::changesSound);
        boolean rounds = !depth.isFloat() && exactBits(task, computes, channels.mixes().stream().allMatch(ChannelMix::isSelection)) > depth.bits();
        Dither dither = rounds ? task.options().dither() : Dither.NONE;
        List<Change> changes = new ArrayList<>();
        if (task.changesRate())
            changes.add(new AudioChange.RateConverted(task.file().rateHz(), task.rateHz(),
                    rounds && depth == task.sourceDepth() ? Optional.of(depth) : Optional.empty(), dither));
        if (task.changesDepth())
            changes.add(new AudioChange.DepthConverted(task.file().isLossy() ? Optional.empty() : Optional.of(task.sourceDepth()), task.file().depthLabel(),
                    depth, rounds ? Optional.of(dither) : Optional.empty()));
        List<Depth> taken = task.sheet().accepts().depthList();
        if (!taken.isEmpty() && !taken.contains(depth) && !task.target().isLossy())
            changes.add(new AudioChange.DepthRefused(task.sourceDepth(), task.target().name(), taken));
        double seconds = (double) sourceChain.frames() / task.rateHz(), most = task.sheet().accepts().maxSeconds();
        if (most > 0 && seconds > most) changes.add(new PartChange.TooLong(seconds, most));
        // A loop of a few frames may fit the new rate as it is: then only what the rate is called changes.
        boolean differ = computes || !sourceChain.mends().isEmpty() || task.changesRate() || task.changesDepth()
                || sourceChain.part().length() != task.file().frames() || task.file().audio() instanceof AudioPlace.Delayed
                || channels.changesAudio() || sourceChain.loop().filter(l -> !l.room().isNone()).isPresent();
        return new Samples(differ, dither, changes);
    }

    /// Bits that hold every sample exactly when it comes to rounding.
    /// @param selects whether outputs are channels of the source, and not sums of them
    private static int exactBits(SoundTask task, boolean computes, boolean selects) {
        return task.file().encoding().isFloat() || computes ? Integer.MAX_VALUE : task.file().encoding().validBits() + (selects ? 0 : 1);
    }
}
