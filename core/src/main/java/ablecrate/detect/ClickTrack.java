package ablecrate.detect;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// A track of clicks for players: nothing but short sounds of about one loudness on a steady beat, as a count-in or a guide has them.
///
/// Found from the envelope: how long what sounds lasts, how much of the time is silent, how even the distances are. The bounds were chosen by trial.
/// A steady part of very short and even sounds, as closed cymbals may play, is taken for one too; so whoever takes such tracks out has to be asked.
/// @param bpm clicks a minute
public record ClickTrack(double bpm, int clicks) {
    private static final double LONGEST_SECONDS = 600, STEP_SECONDS = 0.001, SILENT = 1e-4, FALL_DB = -30, SPREAD_DB = 18;
    private static final int GAP_STEPS = 15, FEWEST = 4, LONGEST_CLICK_STEPS = 60, SHORTEST_BEAT_STEPS = 150, LONGEST_BEAT_STEPS = 2_500, MOST_RESTS = 8;
    private static final double MOST_SOUNDING = 0.15, NEAR_STEPS = 4, NEAR_SHARE = 0.01, MOST_UNEVEN = 0.05, FEWEST_WITHOUT_REST = 0.7;

    /// A stretch that sounds, in steps.
    private record Run(int start, int end, double peak) {
        int length() { return end - start; }
    }

    /// @param source read to its end, or for ten minutes
    /// @return empty where it is none
    public static Optional<ClickTrack> of(FrameSource source) throws IOException {
        int step = Math.max(1, (int) Math.round(STEP_SECONDS * source.rateHz()));
        List<Run> runs = runs(envelope(source, step));
        if (runs.size() < FEWEST) return Optional.empty();
        double[] lengths = runs.stream().mapToDouble(Run::length).sorted().toArray(), peaks = runs.stream().mapToDouble(Run::peak).sorted().toArray();
        double span = runs.getLast().end() - runs.getFirst().start(), sounding = Arrays.stream(lengths).sum();
        boolean areShort = lengths[lengths.length * 9 / 10] <= LONGEST_CLICK_STEPS && sounding <= MOST_SOUNDING * span;
        boolean areAlike = 20 * Math.log10(peaks[peaks.length - 1] / peaks[peaks.length / 10]) <= SPREAD_DB;
        return areShort && areAlike ? steady(runs, (double) step / source.rateHz()) : Optional.empty();
    }

    private static Optional<ClickTrack> steady(List<Run> runs, double stepSeconds) {
        double[] distances = new double[runs.size() - 1];
        for (int i = 0; i < distances.length; i++)
            distances[i] = runs.get(i + 1).start() - runs.get(i).start();
        double[] sorted = distances.clone();
        Arrays.sort(sorted);
        double beat = sorted[sorted.length / 2], sum = 0;
        if (beat < SHORTEST_BEAT_STEPS || beat > LONGEST_BEAT_STEPS) return Optional.empty();
        int uneven = 0, single = 0, beats = 0;
        for (double distance : distances) {
            long times = Math.clamp(Math.round(distance / beat), 1, MOST_RESTS);
            if (Math.abs(distance - times * beat) > NEAR_STEPS + NEAR_SHARE * beat) uneven++;
            if (times == 1) single++;
            sum += distance;
            beats += (int) times;
        }
        boolean isSteady = uneven <= MOST_UNEVEN * distances.length && single >= FEWEST_WITHOUT_REST * distances.length;
        return isSteady ? Optional.of(new ClickTrack(60 / (stepSeconds * sum / beats), runs.size())) : Optional.empty();
    }

    /// The highest sample of each step.
    private static double[] envelope(FrameSource source, int step) throws IOException {
        int steps = (int) Math.min(source.frames() / step, Math.round(LONGEST_SECONDS / STEP_SECONDS));
        double[] envelope = new double[steps];
        double[][] block = new double[source.channels()][step];
        for (int i = 0; i < steps && source.readFully(block, 0, step) == step; i++)
            for (double[] plane : block)
                for (double sample : plane)
                    envelope[i] = Math.max(envelope[i], Math.abs(sample));
        return envelope;
    }

    private static List<Run> runs(double[] envelope) {
        double loudest = Arrays.stream(envelope).max().orElse(0), threshold = loudest * Math.pow(10, FALL_DB / 20);
        List<Run> runs = new ArrayList<>();
        if (loudest < SILENT) return runs;
        int start = -1, last = 0;
        double peak = 0;
        for (int i = 0; i < envelope.length; i++)
            if (envelope[i] >= threshold) {
                if (start < 0) start = i;
                last = i;
                peak = Math.max(peak, envelope[i]);
            } else if (start >= 0 && i - last > GAP_STEPS) {
                runs.add(new Run(start, last + 1, peak));
                start = -1;
                peak = 0;
            }
        if (start >= 0) runs.add(new Run(start, last + 1, peak));
        return runs;
    }
}
