package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.LoopChange;

import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.signal.LoopFit;
import ablecrate.signal.LoopRoom;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.SourceChain;
import ablecrate.signal.LoopCarry;
import java.util.Optional;

/// The rate, and the loop through it.
/// @param ruling the loop that rules the ratio, as the source has it
/// @param fit of that loop
/// @param sourceChain the way to the level stage, its channels as in the source
/// @param change where a crossfade was asked for that cannot be
record Conversion(Optional<Loop> ruling, Optional<LoopFit> fit, SourceChain sourceChain, Optional<LoopChange.CrossfadeRefused> change) {
    private static final long LONGEST_CROSSFADE_SECONDS = 10;
    /// Fine enough for a tenth of a frame in five minutes.
    private static final long STEPS_OF_STEMS = 100_000_000;

    static Conversion of(SoundTask task, FrameRange part, Repairs repairs, Speed speed) {
        int toHz = task.rateHz();
        // At another speed the whole file has a whole number of frames; stems, however long, have one ratio.
        long fromStep = !speed.isOther() ? task.file().rateHz() : task.stems().isPresent() ? STEPS_OF_STEMS : task.file().frames(),
                toStep = speed.isOther()
                        ? Math.max(1, Math.round((double) fromStep * toHz / task.file().rateHz() / speed.factor()))
                        : toHz;
        boolean converts = fromStep != toStep;
        Optional<Loop> ruling = task.rulingLoop((double) toStep / fromStep);
        boolean alternates = ruling.filter(l -> task.target().loops().alternates(l.mode(), l.frames().length() * toStep / fromStep)).isPresent();
        Optional<LoopFit> fit = ruling.filter(_ -> converts)
                .map(l -> LoopFit.of(l.frames().movedBy(-part.start()), alternates, fromStep, toStep, task.target().tuning(),
                        task.file().metadata().mapping().fineTuneCents()));
        Optional<LoopCarry> carry = ruling.map(l -> carry(task, l.frames().movedBy(-part.start()), alternates, fit));
        SourceChain sourceChain = new SourceChain(part, repairs.offsets(), ChannelMix.keep(task.file().channels()),
                fit.map(LoopFit::outputStep).orElse(toStep),
                fit.map(LoopFit::inputStep).orElse(fromStep), toHz, carry, repairs.mends());
        return new Conversion(ruling, fit, withRoom(task, ruling, sourceChain, converts), carry.filter(c -> task.crossfadeMs() > 0 && c.crossfadeFrames() == 0)
                .map(c -> new LoopChange.CrossfadeRefused(task.crossfadeMs(), c.alternates())));
    }

    private static SourceChain withRoom(SoundTask task, Optional<Loop> ruling, SourceChain chain, boolean converts) {
        // A loop that goes back and forth at the destination turns on its ends, wherever they are.
        boolean goesForward = ruling.filter(l -> task.target().loops().written(l.mode()) == LoopMode.FORWARD).isPresent();
        SourceChain roomy = goesForward ? chain.withRoom(task.target().loops().frames()) : chain;
        boolean isNeeded = converts || roomy.loop().filter(l -> l.changesSound() || !l.room().isNone()).isPresent();
        return isNeeded ? roomy : roomy.with(Optional.empty());
    }

    private static LoopCarry carry(SoundTask task, FrameRange from, boolean alternates, Optional<LoopFit> fit) {
        int rate = task.file().rateHz();
        long asked = Math.round(task.crossfadeMs() * rate / 1000), most = alternates ? 0 : Math.min(from.start(), from.length() / 2);
        return new LoopCarry(from, fit.map(LoopFit::to).orElse(from), alternates, (int) Math.min(asked, Math.min(most, LONGEST_CROSSFADE_SECONDS * rate)),
                alternates ? 0 : task.loopRiseDb(), LoopRoom.NONE);
    }
}
