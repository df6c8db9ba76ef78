package ablecrate.plan;

import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.ChunkInfo;
import ablecrate.dsp.Dither;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.SoundMetadata;
import ablecrate.fit.FitClaim;
import ablecrate.signal.OutputChain;
import ablecrate.signal.SourceChain;
import ablecrate.signal.Hold;
import java.util.List;
import java.util.Optional;

/// One sound that packing would write: a file, or a part of a bank.
/// @param source what it is made of
/// @param path below the chosen folder, `/` between folders; in a bank, its name
/// @param metadata what the file will say of itself
/// @param sourceChain the way of its audio up to the level stage
/// @param outputChain and from there on
/// @param levels what is known, and said, of its levels
/// @param dither what is really done where samples are rounded; [Dither#NONE] where none are
/// @param isVerbatim whether the source is copied bit for bit
/// @param audioChanges whether samples differ from the source's
/// @param chunks of the source that go along, as far as they are no metadata with their further contents
/// @param fitted how different it sounds where it was made smaller for a device's memory
public record PlannedOutput(SoundFile source, String path, String formatId, OutputShape shape, SoundMetadata metadata, SourceChain sourceChain,
        OutputChain outputChain,
        LevelPlan levels, Dither dither, boolean isVerbatim, boolean audioChanges, List<ChunkInfo> chunks, Optional<FitClaim> fitted) {
    public PlannedOutput {
        chunks = List.copyOf(chunks);
    }

    /// @param claim how different it was foretold to sound, as it was made smaller
    public PlannedOutput claiming(FitClaim claim) {
        return new PlannedOutput(source, path, formatId, shape, metadata, sourceChain, outputChain, levels, dither, isVerbatim, audioChanges, chunks,
                Optional.of(claim));
    }

    /// @param number among the outputs of the list, from 0
    public PlannedOutput numbered(int number) {
        return new PlannedOutput(source, path, formatId, shape.numbered(number), metadata, sourceChain, outputChain, levels, dither, isVerbatim, audioChanges,
                chunks, fitted);
    }

    /// @param broadcast that it says of itself; so it is no copy of the source any more
    public PlannedOutput saying(Broadcast broadcast) {
        return new PlannedOutput(source, path, formatId, shape, metadata.withBroadcast(Optional.of(broadcast)), sourceChain, outputChain, levels, dither, false,
                audioChanges, chunks, fitted);
    }

    public PlannedOutput at(String otherPath) {
        return new PlannedOutput(source, otherPath, formatId, shape, metadata, sourceChain, outputChain, levels, dither, isVerbatim, audioChanges, chunks,
                fitted);
    }

    /// Bytes of a second of sound in a lossy format at its best.
    private static final long MOST_LOSSY_BYTES = 40_000;

    /// Bytes of its audio, headers aside; where it is compressed, not more than these.
    public long audioBytes() {
        return isLossy() ? shape.frames() * MOST_LOSSY_BYTES / shape.rateHz() : shape.frames() * shape.channels() * shape.depth().bytes();
    }

    /// The same with a limiter that takes what lies beyond full scale.
    public PlannedOutput holdingSamples() {
        return new PlannedOutput(source, path, formatId, shape, metadata, sourceChain, outputChain.holding(new Hold.Samples()), levels, dither, isVerbatim,
                audioChanges,
                chunks, fitted);
    }

    /// The same with a limiter that holds a ceiling.
    public PlannedOutput holdingPeaks(double ceilingDbtp) {
        return new PlannedOutput(source, path, formatId, shape, metadata, sourceChain, outputChain.holding(new Hold.TruePeaks(ceilingDbtp)), levels, dither,
                isVerbatim,
                audioChanges, chunks, fitted);
    }

    /// The same for samples that are on the steps of its depth already.
    public PlannedOutput undithered() {
        return new PlannedOutput(source, path, formatId, shape, metadata, sourceChain, outputChain, levels, Dither.NONE, isVerbatim, audioChanges, chunks,
                fitted);
    }

    public PlannedOutput withMetadata(SoundMetadata others) {
        return new PlannedOutput(source, path, formatId, shape, others, sourceChain, outputChain, levels, dither, isVerbatim, audioChanges, chunks, fitted);
    }

    /// Whether it is compressed with loss.
    public boolean isLossy() { return SoundFormats.written(formatId).filter(f -> f.capabilities().compressing().isLossy()).isPresent(); }
}
