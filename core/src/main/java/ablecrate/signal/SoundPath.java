package ablecrate.signal;

import ablecrate.audio.AheadSource;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.MemorySource;
import ablecrate.audio.PiecedSource;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.ChannelMixer;
import ablecrate.dsp.ClickMender;
import ablecrate.dsp.ContinuedLoop;
import ablecrate.dsp.Extended;
import ablecrate.dsp.ExtendedLoop;
import ablecrate.dsp.FractionalDelay;
import ablecrate.dsp.Fades;
import ablecrate.dsp.Gain;
import ablecrate.dsp.Limiter;
import ablecrate.dsp.LoopCrossfade;
import ablecrate.dsp.LoopLevel;
import ablecrate.dsp.OffsetRemover;
import ablecrate.dsp.RateConverters;
import ablecrate.dsp.Sequence;
import ablecrate.dsp.FrameSlice;
import ablecrate.work.Workers;
import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;
import java.util.function.Predicate;

/// Opens sounds as the streams that their fronts and finishes describe.
/// Made once for a run, as sounds share what their conversions have in common; safe for threads.
public final class SoundPath {
    /// More than the reach of any filter at rates that sounds have.
    private static final long LEAD_FRAMES = 8192;

    /// From there on it pays to share the work.
    private static final long LONG_SECONDS = 20;

    private final RateConverters converters;
    private final Opening opening;
    private final Predicate<SoundFile> isShared;

    /// How files are opened.
    @FunctionalInterface private interface Opening {
        SeekableSource open(SoundFile file, LongConsumer bad) throws IOException;
    }

    public SoundPath() { this(new RateConverters(), SoundFile::open, _ -> false); }

    private SoundPath(RateConverters converters, Opening opening, Predicate<SoundFile> isShared) {
        this.converters = converters;
        this.opening = opening;
        this.isShared = isShared;
    }

    /// The same, with compressed files decoded once for all results.
    public SoundPath decoding(SharedDecoding shared) { return new SoundPath(converters, shared::open, shared::isShared); }

    /// The sound as it comes to the level stage.
    public FrameSource sourceChain(SoundFile file, SourceChain sourceChain) throws IOException { return sourceChain(opened(file, _ -> {}), sourceChain); }

    private FrameSource sourceChain(Opened file, SourceChain sourceChain) throws IOException {
        if (sourceChain.loop().isEmpty()) return converted(used(file, sourceChain), sourceChain);
        LoopCarry loop = sourceChain.loop().get();
        FrameSource path = sourceChain.convertsRate() ? looped(file, sourceChain, loop) : used(file, sourceChain);
        LoopRoom room = loop.room();
        return room.isNone() ? path : new ExtendedLoop(path, loop.to(), loop.alternates(), room.onward(), room.skipped(), room.behind());
    }

    /// A file, and who is told of its frames that are no numbers.
    private record Opened(SoundFile file, LongConsumer bad, Opening opening) {
        SeekableSource open() throws IOException { return opening.open(file, bad); }

        long frames() { return file.frames(); }
    }

    private Opened opened(SoundFile file, LongConsumer bad) { return new Opened(file, bad, opening); }

    /// The result, all but its depth.
    public FrameSource open(SoundFile file, SourceChain sourceChain, OutputChain outputChain) throws IOException {
        return open(file, sourceChain, outputChain, _ -> {});
    }

    /// @param bad told of the source's frames whose samples are no numbers or could not be decoded, some of them more than once
    public FrameSource open(SoundFile file, SourceChain sourceChain, OutputChain outputChain, LongConsumer bad) throws IOException {
        return finished(sourceChain(opened(file, bad), sourceChain), outputChain, 0, sourceChain.frames());
    }

    /// As [#open], to read through it once: of a long sound, workers who have nothing else to do make parts, in pieces, or else ahead of what is read.
    public FrameSource openThrough(SoundFile file, SourceChain sourceChain, OutputChain outputChain, LongConsumer bad) throws IOException {
        if (sourceChain.frames() < LONG_SECONDS * sourceChain.rateHz()) return open(file, sourceChain, outputChain, bad);

        boolean goesInPieces = file.isSameFromAnywhere() && !isShared.test(file) && sourceChain.part().end() <= file.frames() && sourceChain.loop().isEmpty()
                && sourceChain.mends().isEmpty() && outputChain.hold().isEmpty();
        Optional<RateConverters.Stretches> stretches = !goesInPieces
                ? Optional.empty()
                : sourceChain.convertsRate()
                        ? converters.stretches(sourceChain.mix().channels(), sourceChain.outputStep(), sourceChain.inputStep())
                        : Optional.of(new RateConverters.Stretches(1, 1, 0));
        if (stretches.isPresent()) {
            FrameSource pieces = new PiecedSource(sourceChain.mix().channels(), sourceChain.rateHz(), sourceChain.frames(), stretches.get().outputFrames(),
                    frame -> piece(opened(file, bad), sourceChain, stretches.get(), frame));
            return finished(pieces, outputChain, 0, sourceChain.frames());
        }
        FrameSource whole = open(file, sourceChain, outputChain, bad);
        return Workers.haveIdle() ? new AheadSource(whole, "long sound") : whole;
    }

    /// From a frame on at which a stretch starts.
    private FrameSource piece(Opened file, SourceChain sourceChain, RateConverters.Stretches stretches, long frame) throws IOException {
        if (frame == 0) return sourceChain(file, sourceChain);
        SeekableSource source = file.open();
        long start = sourceChain.part().start() + frame / stretches.outputFrames() * stretches.inputFrames() - stretches.lead();
        source.seek(start);
        FrameSource path = prepared(taken(source, start, sourceChain.part().end()), sourceChain, start);
        return sourceChain.convertsRate()
                ? converters.convertOn(path, sourceChain.outputStep(), sourceChain.inputStep(), sourceChain.rateHz())
                : path;
    }

    /// The result from one of its frames on, for hearing: where the way allows it, nothing before is computed but what a filter needs.
    public FrameSource openAt(SoundFile file, SourceChain sourceChain, OutputChain outputChain, long frame) throws IOException {
        boolean isLong = sourceChain.loop().isEmpty() && sourceChain.part().start() == 0;
        FrameSource from = isLong
                ? seeking(file, sourceChain, frame)
                : new FrameSlice(sourceChain(file, sourceChain), Math.min(frame, sourceChain.frames()), sourceChain.frames());
        return finished(from, outputChain, frame, sourceChain.frames());
    }

    private FrameSource seeking(SoundFile file, SourceChain sourceChain, long frame) throws IOException {
        SeekableSource source = file.open();
        long divisor = BigInteger.valueOf(sourceChain.inputStep()).gcd(BigInteger.valueOf(sourceChain.outputStep())).longValue();
        long inputStep = sourceChain.inputStep() / divisor, outputStep = sourceChain.outputStep() / divisor;
        // Started at a whole number of steps, output frames fall on the same instants as from the beginning.
        long steps = Math.max(0, frame / outputStep - LEAD_FRAMES / inputStep - 1);
        long end = sourceChain.part().end(), start = Math.min(end, steps * inputStep);
        source.seek(start);
        FrameSource path = converted(prepared(taken(source, start, end), sourceChain, start), sourceChain);
        path.skip(frame - steps * outputStep);
        return path;
    }

    /// The part of the file that is used, without offset, with its channels, its loop blended.
    private static FrameSource used(Opened file, SourceChain sourceChain) throws IOException {
        SeekableSource source = file.open();
        source.seek(sourceChain.part().start());
        FrameRange part = sourceChain.part();
        FrameSource path = prepared(taken(source, part.start(), part.end()), sourceChain, part.start());
        if (sourceChain.loop().isEmpty()) return path;
        LoopCarry loop = sourceChain.loop().get();
        FrameSource level = loop.riseDb() == 0 ? path : new LoopLevel(path, loop.from(), loop.riseDb());
        return loop.crossfadeFrames() == 0 ? level : new LoopCrossfade(level, loop.from(), loop.crossfadeFrames(), loop.riseDb());
    }

    /// What a source has from where it stands up to a frame, which may lie behind its end.
    static FrameSource taken(SeekableSource source, long start, long end) {
        if (end > source.frames()) return new Extended(source, end - start);
        return start == 0 && end == source.frames() ? source : new FrameSlice(source, 0, end - start);
    }

    /// @param first frame of the file that the stream starts with
    private static FrameSource prepared(FrameSource source, SourceChain sourceChain, long first) {
        FrameSource path = source;
        List<FrameRange> mends = sourceChain.mends().stream().filter(m -> m.start() >= first && m.end() <= sourceChain.part().end())
                .map(m -> new FrameRange(m.start() - first, m.end() - first)).toList();
        if (!mends.isEmpty()) path = new ClickMender(path, mends);
        if (!sourceChain.offsets().isEmpty()) path = new OffsetRemover(path, sourceChain.offsets().stream().mapToDouble(Double::doubleValue).toArray());
        // Channels before rate: fewer of them to convert, and both steps are linear.
        return sourceChain.mix().keeps(source.channels()) ? path : new ChannelMixer(path, sourceChain.mix().toArray());
    }

    /// A loop that goes back and forth turns on whole frames: the sound is moved by the part of a frame that its turns are beside them, as the loop alone
    /// cannot be.
    private FrameSource converted(FrameSource source, SourceChain sourceChain) {
        Optional<LoopCarry> turning = sourceChain.loop().filter(LoopCarry::alternates).filter(_ -> sourceChain.convertsRate());
        double late = turning.map(l -> (double) l.to().start() * sourceChain.inputStep() / sourceChain.outputStep() - l.from().start()).orElse(0.0);
        return rated(Math.abs(late) < 1e-9 ? source : new FractionalDelay(source, late), sourceChain);
    }

    private FrameSource rated(FrameSource source, SourceChain sourceChain) {
        return sourceChain.convertsRate() ? converters.convert(source, sourceChain.outputStep(), sourceChain.inputStep(), sourceChain.rateHz()) : source;
    }

    /// Up to the loop's end the converter sees the loop continued; behind it, what the file has there. A loop that starts so early that
    /// the filter would reach before the file sees itself on that side as well: it is played from its end into its start, not from silence.
    private FrameSource looped(Opened file, SourceChain sourceChain, LoopCarry loop) throws IOException {
        int reach = RateConverters.reach(sourceChain.outputStep(), sourceChain.inputStep()) + (loop.alternates() ? FractionalDelay.REACH : 0);
        List<FrameSource> parts = new ArrayList<>();
        try {
            FrameSource body = converted(new ContinuedLoop(used(file, sourceChain), loop.from(), loop.alternates(), reach), sourceChain);
            if (loop.from().start() >= reach)
                parts.add(new FrameSlice(body, 0, loop.to().end()));
            else {
                parts.add(new FrameSlice(body, 0, loop.to().start()));
                parts.add(goingRound(file, sourceChain, loop, reach));
            }
            if (sourceChain.convertedFrames() > loop.to().end())
                parts.add(new FrameSlice(converted(used(file, sourceChain), sourceChain), loop.to().end(), sourceChain.convertedFrames()));
            return new Sequence(parts);
        } catch (IOException | RuntimeException e) {
            for (FrameSource part : parts)
                part.close();
            throw e;
        }
    }

    /// The loop as it is once it goes round. The stream starts a whole number of steps before the file does, so that its frames fall
    /// on the instants of the file's.
    private FrameSource goingRound(Opened file, SourceChain sourceChain, LoopCarry loop, int reach) throws IOException {
        long divisor = BigInteger.valueOf(sourceChain.inputStep()).gcd(BigInteger.valueOf(sourceChain.outputStep())).longValue();
        long inputStep = sourceChain.inputStep() / divisor, steps = Math.ceilDiv(reach, inputStep), start = loop.from().start();
        double[][] before;
        try (FrameSource source = used(file, sourceChain)) {
            before = ContinuedLoop.before(source, loop.from(), loop.alternates(), reach);
        }
        int silence = Math.toIntExact(steps * inputStep + start - reach);
        double[][] lead = new double[before.length][silence + reach];
        for (int channel = 0; channel < before.length; channel++)
            System.arraycopy(before[channel], 0, lead[channel], silence, reach);
        FrameSource on = new FrameSlice(new ContinuedLoop(used(file, sourceChain), loop.from(), loop.alternates(), reach), start, loop.from().end() + reach);
        FrameSource round = new Sequence(List.of(new MemorySource(sourceChain.rateHz(), lead), on));
        long skipped = steps * (sourceChain.outputStep() / divisor);
        return new FrameSlice(converted(round, sourceChain), skipped + loop.to().start(), skipped + loop.to().end());
    }

    private static FrameSource finished(FrameSource source, OutputChain outputChain, long firstFrame, long allFrames) {
        FrameSource path = source;
        Ends ends = outputChain.ends();
        if (outputChain.gainDb() != 0) path = new Gain(path, outputChain.gainDb());
        if (!ends.isNone())
            path = new Fades(path, firstFrame, allFrames, ends.fadeInFrames(), ends.fadeInShape(), ends.fadeOutFrames(), ends.fadeOutShape());
        return outputChain.hold().isPresent() ? limited(path, outputChain.hold().get()) : path;
    }

    static FrameSource limited(FrameSource source, Hold hold) {
        return switch (hold) {
            case Hold.TruePeaks(double ceilingDbtp) -> new Limiter(source, ceilingDbtp);
            case Hold.Samples() -> Limiter.atFullScale(source);
        };
    }
}
