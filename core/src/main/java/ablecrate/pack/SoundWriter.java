package ablecrate.pack;

import ablecrate.audio.BadFrames;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.audio.Rounding;
import ablecrate.audio.SampleEncoding;
import ablecrate.audio.SampleSum;
import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.change.DamageChange;
import ablecrate.change.LevelChange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Bytes;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.PcmLayout;
import ablecrate.codec.PcmSink;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.SoundSink;
import ablecrate.codec.WrittenFormat;
import ablecrate.codec.chunk.ChunkScanner;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.Dither;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import ablecrate.dsp.Quantiser;
import ablecrate.instrument.Broadcast;
import ablecrate.option.Overs;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.SoundPath;
import ablecrate.verify.Likeness;
import ablecrate.verify.Rendered;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;

/// Writes one output: header, rendered audio, trailer; or the source's bytes as they are. What turns out only while rendering is settled here: samples that
/// would lie beyond full scale are rendered once more, with a limiter.
final class SoundWriter {
    private static final int BLOCK = 8192;

    private final SoundPath path;
    private final StopSignal stop;
    private final LongConsumer framesDone;

    /// @param framesDone told of frames as they are written
    SoundWriter(SoundPath path, StopSignal stop, LongConsumer framesDone) {
        this.path = path;
        this.stop = stop;
        this.framesDone = framesDone;
    }

    /// @param output as it was carried out in the end
    /// @param settled what turned out on the way
    record Written(PlannedOutput output, Rendered rendered, List<Change> settled) {}

    /// Where a file goes. Opened again, it starts anew.
    interface Opening {
        OutputStream open() throws IOException;
    }

    /// @param spool a file that may be made meanwhile
    Written write(PlannedOutput output, Path spool, Opening file) throws IOException, StopSignal.StoppedException {
        SourceWatch watch = SourceWatch.on(output.source());
        Written written = writeOnce(output, spool, file);
        watch.check();
        return written;
    }

    private Written writeOnce(PlannedOutput output, Path spool, Opening file) throws IOException, StopSignal.StoppedException {
        if (output.isVerbatim()) {
            try (OutputStream out = file.open()) {
                return new Written(output, copy(output.source(), output, out), List.of());
            }
        }
        PlannedOutput measured = withItsLoudness(output);
        return settled(measured, (o, isExact) -> {
            try (OutputStream out = file.open()) {
                return render(o, spool, out, isExact);
            }
        });
    }

    /// The samples alone, interleaved.
    Written samples(PlannedOutput output, SampleEncoding encoding, Opening place) throws IOException, StopSignal.StoppedException {
        SourceWatch watch = SourceWatch.on(output.source());
        Written written = settled(output, (o, isExact) -> {
            try (OutputStream out = place.open()) {
                return samples(o, isExact, new PcmSink(new PcmLayout(Bytes.NONE, encoding, Bytes.NONE), o.shape().channels(), out));
            }
        });
        watch.check();
        return written;
    }

    private interface Rendering {
        /// @param isExact whether it is given up as soon as a sample is not on the steps of its depth
        /// @return empty if it was given up
        Optional<Rendered> of(PlannedOutput output, boolean isExact) throws IOException, StopSignal.StoppedException;
    }

    private static Written settled(PlannedOutput output, Rendering rendering) throws IOException, StopSignal.StoppedException {
        List<Change> told = new ArrayList<>();
        // Samples that are finer on paper alone need no dither; most others are found out with their first block.
        boolean mayBeExact = output.dither() != Dither.NONE && !output.isLossy() && output.shape().rateHz() == output.source().rateHz();
        Optional<Rendered> exact = mayBeExact ? rendering.of(output.undithered(), true) : Optional.empty();
        if (exact.isPresent()) {
            told.add(exact(output));
            bad(output.source(), exact.get()).ifPresent(told::add);
            return new Written(output.undithered(), exact.get(), told);
        }
        Rendered first = rendering.of(output, false).orElseThrow();
        bad(output.source(), first).ifPresent(told::add);
        if (first.clippedSamples() == 0) return new Written(output, first, told);
        boolean clips = output.levels().overs() == Overs.CLIP;
        // A plan that lowered what it had listened to has nothing left to lower; the limiter takes what rounding and dither add.
        told.add(new LevelChange.BeyondFullScale(first.overDb(), clips, Optional.of(output.path())));
        if (clips || output.outputChain().hold().isPresent()) return new Written(output, first, told);
        PlannedOutput held = output.holdingSamples();
        return new Written(held, rendering.of(held, false).orElseThrow(), told);
    }

    private static Change exact(PlannedOutput output) {
        return new AudioChange.DepthExact(output.source().encoding().depth(), output.source().depthLabel(), output.shape().depth());
    }

    private static Optional<Change> bad(SoundFile source, Rendered rendered) {
        List<FrameRange> bad = rendered.bad();
        if (bad.isEmpty()) return Optional.empty();
        double rate = source.rateHz();
        return Optional.of(source.compression().isPresent()
                ? new DamageChange.FramesSilenced(frames(bad) / rate, bad.size(), bad.getFirst().start() / rate)
                : new DamageChange.FramesHeld(frames(bad)));
    }

    private static long frames(List<FrameRange> ranges) { return ranges.stream().mapToLong(FrameRange::length).sum(); }

    /// Broadcast data of version 2 say how loud the sound is: they shall be the result's, so it is rendered once for that alone.
    private PlannedOutput withItsLoudness(PlannedOutput output) throws IOException, StopSignal.StoppedException {
        Optional<Broadcast> broadcast = output.metadata().broadcast();
        if (!output.audioChanges() || broadcast.flatMap(Broadcast::loudness).isEmpty()) return output;
        LevelMeter meter = new LevelMeter(output.shape().rateHz(), output.shape().channels());
        double[][] block = new double[output.shape().channels()][BLOCK];
        try (FrameSource audio = path.open(output.source(), output.sourceChain(), output.outputChain())) {
            for (int got; (got = audio.read(block, 0, BLOCK)) > 0;) {
                stop.check();
                meter.add(block, 0, got);
            }
        }
        Levels levels = meter.finish();
        return output.withMetadata(output.metadata().withBroadcast(Optional.of(broadcast.get().withLoudness(stated(levels)))));
    }

    /// Stated in hundredths; absent where one of the five is not defined, as the chunk of our reader has it.
    private static Optional<Broadcast.StatedLoudness> stated(Levels l) {
        if (l.loudnessIntegratedLufs().isEmpty() || l.loudnessRangeLu().isEmpty() || l.truePeakDbtp().isEmpty() || l.loudnessMomentaryMaxLufs().isEmpty()
                || l.loudnessShortTermMaxLufs().isEmpty())
            return Optional.empty();
        return Optional.of(new Broadcast.StatedLoudness(hundredths(l.loudnessIntegratedLufs().getAsDouble()), hundredths(l.loudnessRangeLu().getAsDouble()),
                hundredths(l.truePeakDbtp().getAsDouble()), hundredths(l.loudnessMomentaryMaxLufs().getAsDouble()),
                hundredths(l.loudnessShortTermMaxLufs().getAsDouble())));
    }

    private static double hundredths(double value) { return Math.rint(value * 100) / 100.0; }

    private Rendered copy(SoundFile source, PlannedOutput output, OutputStream out) throws IOException, StopSignal.StoppedException {
        long done = 0, reported = 0, frames = output.shape().frames();
        try (var in = Files.newInputStream(source.path())) {
            byte[] buffer = new byte[1 << 17];
            for (int got; (got = in.read(buffer)) > 0;) {
                stop.check();
                out.write(buffer, 0, got);
                done += got;
                long now = Math.min(frames, (long) ((double) done / source.fileBytes() * frames));
                framesDone.accept(now - reported);
                reported = now;
            }
        }
        return new Rendered(new SampleSum(0, output.shape().depth()).value(), Optional.empty(), 0, 0, List.of(), Optional.empty());
    }

    private Optional<Rendered> render(PlannedOutput output, Path spool, OutputStream out, boolean isExact) throws IOException, StopSignal.StoppedException {
        WrittenFormat format = SoundFormats.written(output.formatId()).orElseThrow();
        try (SoundSink sink = format.sink(output.shape(), output.metadata(), carried(output, format), out, spool)) {
            return samples(output, isExact, sink);
        }
    }

    private Optional<Rendered> samples(PlannedOutput output, boolean isExact, SoundSink sink) throws IOException, StopSignal.StoppedException {
        int channels = output.shape().channels(), rateHz = output.shape().rateHz();
        boolean isLossy = output.isLossy();
        Quantiser quantiser = new Quantiser(output.dither(), output.shape().depth().bits(), rateHz, channels);
        Rounding rounding = new Rounding(output.shape().depth(), quantiser.reachSteps());
        SampleSum sum = new SampleSum(channels, output.shape().depth());
        Optional<Likeness> likeness = isLossy ? Optional.of(Likeness.ofRendered(rateHz, channels)) : Optional.empty();
        // What is compressed is measured when it is decoded again.
        Optional<LevelMeter> meter = output.levels().isClaimed() && !isLossy ? Optional.of(new LevelMeter(rateHz, channels)) : Optional.empty();
        BadFrames bad = new BadFrames();
        double[][] block = new double[channels][BLOCK];
        long written = 0;
        try (FrameSource audio = path.openThrough(output.source(), output.sourceChain(), output.outputChain(), bad)) {
            for (int got; (got = audio.read(block, 0, BLOCK)) > 0; written += got) {
                stop.check();
                if (isExact && !areOnSteps(block, got, output.shape().depth().bits())) {
                    framesDone.accept(-written);
                    return Optional.empty();
                }
                if (likeness.isPresent()) {
                    likeness.get().add(block, got);
                    sink.write(block, got);
                } else {
                    quantiser.process(block, got);
                    // What nobody measures is rounded once, by the sum, where the sink takes it so.
                    boolean isRounded = meter.isEmpty() && sum.addIfWithin(block, got);
                    if (!isRounded) {
                        rounding.round(block, got);
                        sum.add(block, got);
                    }
                    if (isRounded && sink.takesSteps())
                        sink.writeSteps(sum.steps(), got);
                    else
                        sink.write(block, got);
                }
                if (meter.isPresent()) meter.get().add(block, 0, got);
                framesDone.accept(got);
            }
        }
        if (written != output.shape().frames())
            throw new IOException(written + " frames came out where " + output.shape().frames() + " were planned");
        sink.finish();
        return Optional.of(new Rendered(sum.value(), meter.map(LevelMeter::finish), rounding.clippedSamples(),
                rounding.highest() == 0 ? 0 : Decibels.ofFactor(rounding.highest()), bad.ranges(), likeness.map(Likeness::finish)));
    }

    private static boolean areOnSteps(double[][] planes, int count, int bits) {
        double scale = Math.scalb(1.0, bits - 1);
        for (double[] plane : planes)
            for (int i = 0; i < count; i++) {
                double steps = plane[i] * scale;
                if (steps != Math.rint(steps) || steps > scale - 1 || steps < -scale) return false;
            }
        return true;
    }

    private static List<RawChunk> carried(PlannedOutput output, WrittenFormat target) throws IOException {
        SoundFile source = output.source();
        if (output.chunks().isEmpty()) return List.of();
        AudioPlace place = source.audio() instanceof AudioPlace.Delayed(SoundFile whole, _) ? whole.audio() : source.audio();
        String audioId = place instanceof AudioPlace.Interleaved(long audioAt)
                ? source.chunks().stream().filter(c -> c.at() <= audioAt && audioAt <= c.end()).reduce((_, last) -> last).map(ChunkInfo::id).orElse("")
                : "";
        return ChunkScanner.contents(source.path(), output.chunks(), audioId).stream().map(c -> target.later(c, output.sourceChain().part().start())).toList();
    }
}
