package ablecrate.verify;

import ablecrate.audio.FrameSource;
import ablecrate.audio.PcmFileSource;

import ablecrate.audio.SampleSum;

import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.disk.Checksums;
import ablecrate.dsp.FaultFinder;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.function.BooleanSupplier;

/// What a written file is, read and decoded as another program would: by its content, not its name.
/// @param content what was found in it
/// @param crc32c of its bytes as the disk gives them back
public record Finding(long crc32c, Content content) {
    private static final int BLOCK = 8192;

    /// What a file holds.
    public sealed interface Content {
        /// No sound that can be opened.
        record Unreadable(String reason) implements Content {}

        /// The bytes of another file.
        record Bytes(boolean areTheSame) implements Content {}

        /// @param decodedFrames how many really came out
        /// @param levels where they are asked for and the samples are not those that were measured while they were written
        /// @param clicks where they are asked for, in seconds
        /// @param startStep,endStep how far the first and the last frame are from silence, the farthest of their channels; 1 is full scale
        record Decoded(SoundFile file, long decodedFrames, SampleSum.Value samples, Optional<Levels> levels, Optional<Likeness.Trace> likeness,
                List<Double> clicks, double startStep, double endStep) implements Content {}
    }

    /// @param expected says what is worth measuring: what is not claimed is not
    /// @param stopped asked now and then
    /// @return empty if it was stopped
    public static Optional<Finding> of(Path file, Expectation expected, BooleanSupplier stopped) throws IOException {
        // Side by side: of a long file a user waits for both.
        FutureTask<Long> crc32c = new FutureTask<>(() -> Checksums.crc32c(file, stopped));
        Thread.ofVirtual().start(crc32c);
        Optional<Content> content = expected.audio() instanceof Expectation.Audio.Copied(Path source)
                ? Optional.of(new Content.Bytes(Files.mismatch(file, source) < 0))
                : content(file, expected, stopped);
        try {
            long sum = crc32c.get();
            return content.map(c -> new Finding(sum, c));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        } catch (ExecutionException e) {
            // As the disk told it: what is said of it follows from its kind.
            throw e.getCause() instanceof IOException fault ? fault : new IOException(e.getCause());
        }
    }

    private static Optional<Content> content(Path file, Expectation expected, BooleanSupplier stopped) throws IOException {
        try {
            return switch (FileKind.of(file)) {
                case FileKind.Sound(SoundFormat format) -> decoded(format.read(file), expected, stopped);
                case FileKind.Other(_, String name, String reason) -> Optional.of(new Content.Unreadable(name + ": " + reason));
            };
        } catch (FormatException e) {
            return Optional.of(new Content.Unreadable(e.getMessage()));
        }
    }

    private static Optional<Content> decoded(SoundFile file, Expectation expected, BooleanSupplier stopped) throws IOException {
        SampleSum sum = new SampleSum(file.channels(), file.encoding().depth());
        boolean isLossy = expected.audio() instanceof Expectation.Audio.Compressed, listens = !expected.promises().mended().isEmpty();
        Optional<LevelMeter> meter = isLossy && expected.promises().areOfLevels()
                ? Optional.of(new LevelMeter(file.rateHz(), file.channels()))
                : Optional.empty();
        Optional<Likeness> likeness = expected.audio() instanceof Expectation.Audio.Compressed(Rendered rendered)
                ? rendered.likeness().map(t -> Likeness.ofDecoded(file.rateHz(), file.channels(), t))
                : Optional.empty();
        Optional<FaultFinder> faults = listens ? Optional.of(new FaultFinder(file.rateHz(), file.channels())) : Optional.empty();
        long frames = 0;
        double startStep = 0, endStep = 0;
        try (FrameSource audio = file.openThrough()) {
            boolean isSummedAlone = meter.isEmpty() && likeness.isEmpty() && faults.isEmpty();
            if (isSummedAlone && audio instanceof PcmFileSource plain && plain.hasSteps()) {
                int[][] steps = new int[file.channels()][BLOCK];
                double fullScale = Math.scalb(1.0, file.encoding().depth().bits() - 1);
                for (int got; (got = plain.readSteps(steps, BLOCK)) > 0; frames += got) {
                    if (stopped.getAsBoolean()) return Optional.empty();
                    sum.addSteps(steps, got);
                    if (frames == 0) startStep = farthest(steps, 0, fullScale);
                    endStep = farthest(steps, got - 1, fullScale);
                }
                return Optional.of(new Content.Decoded(file, frames, sum.value(), Optional.empty(), Optional.empty(), List.of(), startStep, endStep));
            }
            double[][] block = new double[file.channels()][BLOCK];
            for (int got; (got = audio.read(block, 0, BLOCK)) > 0; frames += got) {
                if (stopped.getAsBoolean()) return Optional.empty();
                if (frames == 0) startStep = farthest(block, 0);
                endStep = farthest(block, got - 1);
                if (!isLossy) sum.add(block, got);
                if (meter.isPresent()) meter.get().add(block, 0, got);
                if (likeness.isPresent()) likeness.get().add(block, got);
                if (faults.isPresent()) faults.get().add(block, got);
            }
        }
        List<Double> clicks = faults.map(f -> f.finish().stream().filter(fault -> fault.kind() == FaultFinder.Kind.CLICK)
                .map(fault -> (double) fault.frames().start() / file.rateHz()).toList()).orElse(List.of());
        return Optional
                .of(new Content.Decoded(file, frames, sum.value(), meter.map(LevelMeter::finish), likeness.map(Likeness::finish), clicks, startStep, endStep));
    }

    private static double farthest(int[][] steps, int frame, double fullScale) {
        double farthest = 0;
        for (int[] channel : steps)
            farthest = Math.max(farthest, Math.abs(channel[frame]) / fullScale);
        return farthest;
    }

    private static double farthest(double[][] planes, int frame) {
        double farthest = 0;
        for (double[] channel : planes)
            farthest = Math.max(farthest, Math.abs(channel[frame]));
        return farthest;
    }
}
