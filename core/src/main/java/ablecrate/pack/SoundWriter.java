package ablecrate.pack;

import ablecrate.audio.FrameSource;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Bytes;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.PcmLayout;
import ablecrate.codec.PcmSink;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.SoundSink;
import ablecrate.codec.WrittenFormat;
import ablecrate.codec.chunk.ChunkScanner;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import ablecrate.dsp.Quantiser;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.Planner;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;

/// Writes one output into a stream: header, rendered audio, trailer; or the source's bytes as they are.
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

    /// @param clippedSamples that lay beyond full scale
    /// @param levels of what was written, where levels were set
    record Written(long clippedSamples, Optional<Levels> levels) {}

    /// @param spool a file that may be made meanwhile
    Written write(PlannedOutput output, Path spool, OutputStream out) throws IOException, StopSignal.StoppedException {
        return output.isVerbatim() ? copy(output.source(), output, out) : render(output.source(), output, spool, out);
    }

    private Written copy(SoundFile source, PlannedOutput output, OutputStream out) throws IOException, StopSignal.StoppedException {
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
        return new Written(0, Optional.empty());
    }

    private Written render(SoundFile source, PlannedOutput output, Path spool, OutputStream out) throws IOException, StopSignal.StoppedException {
        WrittenFormat format = SoundFormats.written(output.formatId()).orElseThrow();
        try (SoundSink sink = format.sink(output.shape(), output.facts(), carried(source, format, output.audioChanges()), out, spool)) {
            return samples(output, sink);
        }
    }

    /// The samples alone, interleaved.
    Written samples(PlannedOutput output, SampleEncoding encoding, OutputStream out) throws IOException, StopSignal.StoppedException {
        return samples(output, new PcmSink(new PcmLayout(Bytes.NONE, encoding, Bytes.NONE), output.shape().channels(), out));
    }

    private Written samples(PlannedOutput output, SoundSink sink) throws IOException, StopSignal.StoppedException {
        int channels = output.shape().channels();
        Quantiser quantiser = new Quantiser(output.dither(), output.shape().depth().bits(), output.shape().rateHz(), channels);
        double[][] block = new double[channels][BLOCK];
        Optional<LevelMeter> meter = output.levels().map(_ -> new LevelMeter(output.shape().rateHz(), channels));
        long written = 0;
        try (FrameSource audio = path.open(output.source(), output.front(), output.finish())) {
            for (int got; (got = audio.read(block, 0, BLOCK)) > 0; written += got) {
                stop.check();
                if (meter.isPresent()) meter.get().add(block, 0, got);
                quantiser.process(block, got);
                sink.write(block, got);
                framesDone.accept(got);
            }
        }
        if (written != output.shape().frames())
            throw new IOException(
                    written + " frames came out where " + output.shape().frames() + " were planned; the source changed meanwhile, gather it again");
        sink.finish();
        return new Written(sink.clippedSamples(), meter.map(LevelMeter::finish));
    }

    private static List<RawChunk> carried(SoundFile source, SoundFormat target, boolean audioChanges) throws IOException {
        if (!source.formatId().equals(target.id())) return List.of();
        String audioId = source.audio() instanceof AudioPlace.Interleaved(long audioAt)
                ? source.chunks().stream().filter(c -> c.at() <= audioAt && audioAt <= c.end()).reduce((_, last) -> last).map(ChunkInfo::id).orElse("")
                : "";
        return ChunkScanner.contents(source.path(), source.chunks(), audioId).stream().filter(c -> Planner.carries(target, c.id(), audioChanges)).toList();
    }
}
