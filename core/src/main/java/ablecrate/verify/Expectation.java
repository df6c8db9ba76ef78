package ablecrate.verify;

import ablecrate.codec.OutputShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.instrument.SoundMetadata;
import ablecrate.plan.LevelPlan;
import ablecrate.option.Overs;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Ends;
import ablecrate.signal.SourceChain;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/// What a written sound has to be: as planned, and as it was rendered.
/// @param crc32c of the bytes that were handed to the disk
/// @param formatId which format its content has to show
/// @param metadata what it has to say of itself
public record Expectation(long crc32c, String formatId, OutputShape shape, SoundMetadata metadata, Audio audio, Promises promises) {

    /// What its samples have to be.
    public sealed interface Audio {
        /// The source's bytes, all of them.
        record Copied(Path source) implements Audio {}

        /// To the bit what was rendered.
        record Exact(Rendered rendered) implements Audio {}

        /// Compressed with loss: as long and as loud as what was rendered, and starting where it did.
        record Compressed(Rendered rendered) implements Audio {}
    }

    /// What was asked for and cannot be forced: it is measured, and told where it was not reached.
    /// @param level asked for, and by which measure
    /// @param ceilingDbtp no true peak goes beyond it
    /// @param mended clicks that were filled in, by how many seconds of the result they lie from its start
    /// @param faded ends that have to be silent
    /// @param mayClip whether what lies beyond full scale is cut off by the user's choice
    public record Promises(Optional<Level> level, OptionalDouble ceilingDbtp, List<Double> mended, Faded faded, boolean mayClip) {
        public static final Promises NONE = new Promises(Optional.empty(), OptionalDouble.empty(), List.of(), Faded.NONE, false);

        public Promises {
            mended = List.copyOf(mended);
        }

        boolean areOfLevels() { return level.isPresent() || ceilingDbtp.isPresent(); }
    }

    /// Which ends fade, from or to silence.
    public record Faded(boolean start, boolean end) {
        public static final Faded NONE = new Faded(false, false);
    }

    /// @param asked in the measure's unit
    public record Level(LevelMeasure measure, double asked) {}

    /// @param crc32c of the bytes that were handed to the disk
    public static Expectation of(PlannedOutput output, Rendered rendered, long crc32c) {
        Audio audio = output.isVerbatim()
                ? new Audio.Copied(output.source().path())
                : output.isLossy() ? new Audio.Compressed(rendered) : new Audio.Exact(rendered);
        return new Expectation(crc32c, output.formatId(), output.shape(), output.metadata(), audio, promises(output));
    }

    static Promises promises(PlannedOutput output) {
        LevelPlan levels = output.levels();
        SourceChain sourceChain = output.sourceChain();
        Ends ends = output.outputChain().ends();
        List<Double> mended = sourceChain.mends().stream()
                .map(m -> (m.start() - sourceChain.part().start()) * ((double) sourceChain.outputStep() / sourceChain.inputStep()) / sourceChain.rateHz())
                .toList();
        return new Promises(levels.asked().map(t -> new Level(t.measure(), t.value())), levels.ceilingDbtp(), mended,
                new Faded(ends.fadeInFrames() > 0, ends.fadeOutFrames() > 0), levels.overs() == Overs.CLIP);
    }
}
