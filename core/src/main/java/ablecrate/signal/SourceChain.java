package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.RateConverters;
import java.util.List;
import java.util.Optional;

/// The way of a sound up to where levels are set.
/// @param part of the source that is used; what it has behind the end of the source is silence
/// @param offsets constants taken off the source's channels; empty for none
/// @param outputStep with `inputStep` the ratio of rates: that many frames come of `inputStep`
/// @param rateHz what the result is played at
/// @param mends stretches of the source that are filled in, in order
/// @param loop the loop that the conversion has to keep whole
public record SourceChain(FrameRange part, List<Double> offsets, ChannelMix mix, long outputStep, long inputStep, int rateHz, Optional<LoopCarry> loop,
        List<FrameRange> mends) {
    public SourceChain {
        offsets = List.copyOf(offsets);
        mends = List.copyOf(mends);
    }

    /// A sound as it is.
    public static SourceChain whole(SoundFile file) {
        return new SourceChain(new FrameRange(0, file.frames()), List.of(), ChannelMix.keep(file.channels()), file.rateHz(), file.rateHz(), file.rateHz(),
                Optional.empty(), List.of());
    }

    /// The same for a player whose loops go forward, with what it wants around them.
    public SourceChain withRoom(Capabilities.Loops.Frames wanted) {
        return with(loop.map(l -> l.with(
                l.alternates() ? LoopRoom.writtenOut(l.to(), convertedFrames(), wanted) : LoopRoom.of(l.to(), convertedFrames(), wanted))));
    }

    public SourceChain with(Optional<LoopCarry> other) { return new SourceChain(part, offsets, mix, outputStep, inputStep, rateHz, other, mends); }

    public SourceChain with(ChannelMix other) { return new SourceChain(part, offsets, other, outputStep, inputStep, rateHz, loop, mends); }

    public boolean convertsRate() { return outputStep != inputStep; }

    /// Whether what comes out is, sample by sample, what the file holds.
    public boolean isAsIn(SoundFile file) {
        return part.start() == 0 && part.end() == file.frames() && offsets.isEmpty() && mends.isEmpty() && !convertsRate()
                && mix.keeps(file.channels())
                && loop.stream().noneMatch(l -> l.changesSound() || !l.room().isNone());
    }

    /// Frames that come out.
    public long frames() {
        long converted = convertedFrames();
        return loop.map(l -> converted + l.room().added()).orElse(converted);
    }

    /// Where a frame lies once room is added to the loop: what lies behind the loop moves with it.
    public long place(long frame) { return loop.filter(l -> frame >= l.to().end()).map(l -> frame + l.room().onward()).orElse(frame); }

    /// Where some frames lie then; those that reach beyond the loop have what is added to it among them.
    public FrameRange place(FrameRange frames) {
        return frames.length() == 0
                ? new FrameRange(place(frames.start()), place(frames.start()))
                : new FrameRange(place(frames.start()), place(frames.end() - 1) + 1);
    }

    /// Without what is added to the loop.
    public long convertedFrames() {
        long all = RateConverters.lengthAfter(part.length(), outputStep, inputStep);
        if (loop.isEmpty() || !convertsRate()) return all;
        // A file that is cut right at the end of its loop stays so.
        return loop.get().from().end() == part.length() ? loop.get().to().end() : Math.max(all, loop.get().to().end());
    }
}
