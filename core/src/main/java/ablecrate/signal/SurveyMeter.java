package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Seam;
import ablecrate.instrument.LoopMode;
import java.util.Arrays;
import java.util.Optional;
import java.util.OptionalDouble;

/// Collects a survey from a file's frames, in one pass.
final class SurveyMeter {
    /// Kept before the first sound, so that an attack keeps its foot; and after the last.
    private static final double PRE_ROLL_MS = 1, POST_ROLL_MS = 5;
    /// How far a zero crossing may be looked for.
    private static final double CROSSING_MS = 10;
    private static final int ONSET_MS = 1000;

    private final SoundFile file;
    private final LevelMeter levels;
    private final Optional<Measurements.SeamWatch> seam;
    private final double threshold;
    private final int preRoll, postRoll, search;
    private final boolean isSearching;
    /// Sums over channels of the latest frames, in a ring.
    private final double[] recent;
    private final double[] onset;
    private final Optional<SidesMeter> sides;
    private double firstStep, lastStep;
    private long position, start = -1, lastSound = -1, end = -1;

    SurveyMeter(SoundFile file, OptionalDouble silenceDbfs) {
        this.file = file;
        levels = new LevelMeter(file.rateHz(), file.channels());
        seam = Measurements.ruling(file).filter(l -> l.frames().length() >= Seam.SHORTEST && l.frames().end() <= file.frames())
                .map(l -> new Measurements.SeamWatch(l.frames(), l.mode() == LoopMode.ALTERNATING, file.channels()));
        isSearching = silenceDbfs.isPresent();
        threshold = Decibels.toFactor(silenceDbfs.orElse(0));
        preRoll = frames(PRE_ROLL_MS);
        postRoll = frames(POST_ROLL_MS);
        search = frames(CROSSING_MS);
        recent = new double[preRoll + search + 2];
        sides = file.channels() == 2 ? Optional.of(new SidesMeter(file.rateHz())) : Optional.empty();
        onset = new double[(int) Math.min(ONSET_MS, file.frames() * 1000 / file.rateHz() + 1)];
    }

    private int frames(double ms) { return (int) Math.round(ms * file.rateHz() / 1000); }

    void add(double[][] block, int count) {
        levels.add(block, 0, count);
        seam.ifPresent(s -> s.add(block, count, position));
        if (sides.isPresent()) sides.get().add(block, count);
        for (int i = 0; i < count && (position + i) * 1000 / file.rateHz() < onset.length; i++)
            for (double[] plane : block)
                onset[(int) ((position + i) * 1000 / file.rateHz())] += plane[i] * plane[i];
        if (isSearching) search(block, count);
        if (position == 0 && count > 0) firstStep = farthest(block, 0);
        if (count > 0) lastStep = farthest(block, count - 1);
        position += count;
    }

    private static double farthest(double[][] block, int frame) {
        double most = 0;
        for (double[] plane : block)
            most = Math.max(most, Math.abs(plane[frame]));
        return most;
    }

    private void search(double[][] block, int count) {
        for (int i = 0; i < count; i++) {
            double sum = 0, highest = 0;
            for (double[] plane : block) {
                sum += plane[i];
                highest = Math.max(highest, Math.abs(plane[i]));
            }
            long frame = position + i;
            double before = frame == 0 ? 0 : recent(frame - 1);
            recent[(int) (frame % recent.length)] = sum;
            if (highest > threshold) {
                if (start < 0) start = crossingBefore(frame);
                lastSound = frame;
                end = -1;
            } else
                if (lastSound >= 0 && end < 0 && frame > lastSound + postRoll && (before <= 0 && sum > 0 || before >= 0 && sum < 0 || sum == before))
                    end = frame;
        }
    }

    private double recent(long frame) { return recent[(int) (frame % recent.length)]; }

    /// The last frame at or before the pre-roll that starts a half-wave; the pre-roll itself where none is near.
    private long crossingBefore(long frame) {
        long latest = Math.max(0, frame - preRoll), earliest = Math.max(1, latest - search);
        for (long at = latest; at >= earliest; at--)
            if (recent(at - 1) <= 0 != recent(at) <= 0) return at;
        return latest <= search ? 0 : latest;
    }

    Measurement.Survey finish() {
        long from = Math.max(0, start), to = lastSound < 0 ? position : end >= 0 ? end : position;
        return new Measurement.Survey(levels.finish(), Arrays.stream(levels.dcOffsets()).boxed().toList(), new FrameRange(from, to),
                sides.flatMap(SidesMeter::finish),
                Arrays.stream(onset).mapToObj(energy -> (int) Math.max(Measurement.Survey.SILENT, Math.rint(1000 * Math.log10(energy)))).toList(),
                seam.map(s -> OptionalDouble.of(s.stepDb())).orElse(OptionalDouble.empty()), firstStep, lastStep);
    }
}
