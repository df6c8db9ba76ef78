package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.ChannelMixer;
import ablecrate.dsp.ClickMender;
import ablecrate.dsp.ContinuedLoop;
import ablecrate.dsp.FractionalDelay;
import ablecrate.dsp.Fades;
import ablecrate.dsp.Gain;
import ablecrate.dsp.Limiter;
import ablecrate.dsp.LoopCrossfade;
import ablecrate.dsp.OffsetRemover;
import ablecrate.dsp.RateConverters;
import ablecrate.dsp.Sequence;
import ablecrate.dsp.Stretch;
import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;

/// Opens sounds as the streams that their fronts and finishes describe.
/// Made once for a run, as sounds share what their conversions have in common; safe for threads.
public final class SoundPath {
    /// More than the reach of any filter at rates that sounds have.
    private static final long LEAD_FRAMES = 8192;

    private final RateConverters converters = new RateConverters();

    /// The sound as it comes to the level stage.
    public FrameSource front(SoundFile file, Front front) throws IOException { return front(new Opened(file, _ -> {}), front); }

    private FrameSource front(Opened file, Front front) throws IOException {
        boolean keepsLoop = front.loop().isPresent() && front.convertsRate();
        return keepsLoop ? looped(file, front, front.loop().get()) : converted(used(file, front), front);
    }

    /// A file, and who is told of its frames that are no numbers.
    private record Opened(SoundFile file, LongConsumer bad) {
        SeekableSource open() throws IOException { return file.open(bad); }

        long frames() { return file.frames(); }
    }

    /// The result, all but its depth.
    public FrameSource open(SoundFile file, Front front, Finish finish) throws IOException { return open(file, front, finish, _ -> {}); }

    /// @param bad told of the source's frames whose samples are no numbers or could not be decoded, some of them more than once
    public FrameSource open(SoundFile file, Front front, Finish finish, LongConsumer bad) throws IOException {
        return finished(front(new Opened(file, bad), front), finish, 0, front.frames());
    }

    /// The result from one of its frames on, for hearing: where the way allows it, nothing before is computed but what a filter needs.
    public FrameSource openAt(SoundFile file, Front front, Finish finish, long frame) throws IOException {
        boolean isLong = front.loop().isEmpty() && front.part().start() == 0;
        FrameSource from = isLong ? seeking(file, front, frame) : new Stretch(front(file, front), Math.min(frame, front.frames()), front.frames());
        return finished(from, finish, frame, front.frames());
    }

    private FrameSource seeking(SoundFile file, Front front, long frame) throws IOException {
        SeekableSource source = file.open();
        long divisor = BigInteger.valueOf(front.inputStep()).gcd(BigInteger.valueOf(front.outputStep())).longValue();
        long inputStep = front.inputStep() / divisor, outputStep = front.outputStep() / divisor;
        // Started at a whole number of steps, output frames fall on the same instants as from the beginning.
        long steps = Math.max(0, frame / outputStep - LEAD_FRAMES / inputStep - 1);
        long end = front.part().end(), start = Math.min(end, steps * inputStep);
        source.seek(start);
        FrameSource path = converted(prepared(end == file.frames() ? source : new Stretch(source, 0, end - start), front, start), front);
        double[][] skipped = new double[path.channels()][1024];
        for (long left = frame - steps * outputStep; left > 0;) {
            int got = path.read(skipped, 0, (int) Math.min(left, skipped[0].length));
            if (got == 0) break;
            left -= got;
        }
        return path;
    }

    /// The part of the file that is used, without offset, with its channels, its loop blended.
    private static FrameSource used(Opened file, Front front) throws IOException {
        SeekableSource source = file.open();
        source.seek(front.part().start());
        boolean toEnd = front.part().end() == file.frames() && front.part().start() == 0;
        FrameSource path = prepared(toEnd ? source : new Stretch(source, 0, front.part().length()), front, front.part().start());
        if (front.loop().isEmpty() || front.loop().get().crossfadeFrames() == 0) return path;
        return new LoopCrossfade(path, front.loop().get().from(), front.loop().get().crossfadeFrames());
    }

    /// @param first frame of the file that the stream starts with
    private static FrameSource prepared(FrameSource source, Front front, long first) {
        FrameSource path = source;
        List<FrameRange> mends = front.mends().stream().filter(m -> m.start() >= first && m.end() <= front.part().end())
                .map(m -> new FrameRange(m.start() - first, m.end() - first)).toList();
        if (!mends.isEmpty()) path = new ClickMender(path, mends);
        if (!front.offsets().isEmpty()) path = new OffsetRemover(path, front.offsets().stream().mapToDouble(Double::doubleValue).toArray());
        // Channels before rate: fewer of them to convert, and both steps are linear.
        return front.mix().keeps(source.channels()) ? path : new ChannelMixer(path, front.mix().toArray());
    }

    /// A loop that goes back and forth turns on whole frames: the sound is moved by the part of a frame that its turns are beside them, as the loop alone
    /// cannot be.
    private FrameSource converted(FrameSource source, Front front) {
        Optional<LoopCarry> turning = front.loop().filter(LoopCarry::alternates).filter(_ -> front.convertsRate());
        double late = turning.map(l -> (double) l.to().start() * front.inputStep() / front.outputStep() - l.from().start()).orElse(0.0);
        return rated(Math.abs(late) < 1e-9 ? source : new FractionalDelay(source, late), front);
    }

    private FrameSource rated(FrameSource source, Front front) {
        return front.convertsRate() ? converters.convert(source, front.outputStep(), front.inputStep(), front.rateHz()) : source;
    }

    /// Up to the loop's end the converter sees the loop continued; behind it, what the file has there. A loop that starts so early that
    /// the filter would reach before the file sees itself on that side as well: it is played from its end into its start, not from silence.
    private FrameSource looped(Opened file, Front front, LoopCarry loop) throws IOException {
        int reach = RateConverters.reach(front.outputStep(), front.inputStep()) + (loop.alternates() ? FractionalDelay.REACH : 0);
        List<FrameSource> parts = new ArrayList<>();
        try {
            FrameSource body = converted(new ContinuedLoop(used(file, front), loop.from(), loop.alternates(), reach), front);
            if (loop.from().start() >= reach)
                parts.add(new Stretch(body, 0, loop.to().end()));
            else {
                parts.add(new Stretch(body, 0, loop.to().start()));
                parts.add(goingRound(file, front, loop, reach));
            }
            if (front.frames() > loop.to().end()) parts.add(new Stretch(converted(used(file, front), front), loop.to().end(), front.frames()));
            return new Sequence(parts);
        } catch (IOException | RuntimeException e) {
            for (FrameSource part : parts)
                part.close();
            throw e;
        }
    }

    /// The loop as it is once it goes round. The stream starts a whole number of steps before the file does, so that its frames fall
    /// on the instants of the file's.
    private FrameSource goingRound(Opened file, Front front, LoopCarry loop, int reach) throws IOException {
        long divisor = BigInteger.valueOf(front.inputStep()).gcd(BigInteger.valueOf(front.outputStep())).longValue();
        long inputStep = front.inputStep() / divisor, steps = Math.ceilDiv(reach, inputStep), start = loop.from().start();
        double[][] before;
        try (FrameSource source = used(file, front)) {
            before = ContinuedLoop.before(source, loop.from(), loop.alternates(), reach);
        }
        int silence = Math.toIntExact(steps * inputStep + start - reach);
        double[][] lead = new double[before.length][silence + reach];
        for (int channel = 0; channel < before.length; channel++)
            System.arraycopy(before[channel], 0, lead[channel], silence, reach);
        FrameSource on = new Stretch(new ContinuedLoop(used(file, front), loop.from(), loop.alternates(), reach), start, loop.from().end() + reach);
        FrameSource round = new Sequence(List.of(new MemorySource(front.rateHz(), lead), on));
        long skipped = steps * (front.outputStep() / divisor);
        return new Stretch(converted(round, front), skipped + loop.to().start(), skipped + loop.to().end());
    }

    private static FrameSource finished(FrameSource source, Finish finish, long firstFrame, long allFrames) {
        FrameSource path = source;
        Ends ends = finish.ends();
        if (finish.gainDb() != 0) path = new Gain(path, finish.gainDb());
        if (!ends.isNone())
            path = new Fades(path, firstFrame, allFrames, ends.fadeInFrames(), ends.fadeInShape(), ends.fadeOutFrames(), ends.fadeOutShape());
        return finish.hold().isPresent() ? limited(path, finish.hold().get()) : path;
    }

    static FrameSource limited(FrameSource source, Hold hold) {
        return switch (hold) {
            case Hold.TruePeaks(double ceilingDbtp) -> new Limiter(source, ceilingDbtp);
            case Hold.Samples() -> Limiter.atFullScale(source);
        };
    }
}
