package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.signal.Measurement;
import java.util.List;
import java.util.Optional;

/// Where stems begin and end to sound, the first and the last of them.
/// @param answers what is known of each
record StemEnds(List<Answer<Measurement.Survey>> answers) {
    static StemEnds of(SoundTask task) {
        return new StemEnds(task.treatment().trimDbfs().isEmpty()
                ? List.of()
                : task.stems().stream().flatMap(s -> s.sounds().stream())
                        .map(f -> task.ask(new Measurement.OfFile(f, task.treatment().silenceDbfs()), Measurement.Survey.class, true)).toList());
    }

    /// The grid of an end that all rates have a frame on, as 11,025 Hz has every 40 ms.
    private static final double GRID_SECONDS = 0.04;

    /// What all of them have in common, in frames of one of them, which may end before; empty where it goes by itself.
    Optional<FrameRange> common(SoundTask of) {
        Optional<FrameRange> sounding = sounding(of);
        return of.stems().isPresent() && of.treatment().asOne().pads() ? Optional.of(padded(of, sounding)) : sounding;
    }

    /// Up to the end of the longest. Of sounds at several rates it lies on a grid, so that all of them have as many frames at one rate.
    private static FrameRange padded(SoundTask of, Optional<FrameRange> sounding) {
        List<SoundFile> all = of.stems().orElseThrow().sounds();
        int rateHz = of.file().rateHz();
        long delay = of.likelyDelay();
        boolean isOneRate = all.stream().mapToInt(SoundFile::rateHz).distinct().count() == 1;
        double start = sounding.map(s -> (double) (s.start() - delay) / rateHz).orElse(0.0),
                end = sounding.map(s -> (double) (s.end() - delay) / rateHz)
                        .orElseGet(() -> all.stream().mapToDouble(f -> (double) (f.frames() - of.likelyDelay(f)) / f.rateHz()).max().orElseThrow());
        if (!isOneRate) {
            start = Math.floor(start / GRID_SECONDS + 1e-6) * GRID_SECONDS;
            end = Math.ceil(end / GRID_SECONDS - 1e-6) * GRID_SECONDS;
        }
        return new FrameRange(delay + Math.round(start * rateHz), delay + Math.round(end * rateHz));
    }

    /// In frames of one of them; empty where it is none, or nothing sounds. Delays of encoders that are taken off are no part of the time they have in common.
    Optional<FrameRange> sounding(SoundTask of) {
        double start = Double.MAX_VALUE, end = 0;
        for (Answer<Measurement.Survey> answer : answers) {
            Optional<Measurement.Survey> survey = answer.found();
            // Of a silent one nothing is silence at its ends.
            if (survey.isEmpty() || survey.get().levels().samplePeakDbfs().isEmpty()) continue;
            SoundFile file = answer.request().file();
            FrameRange sounding = survey.get().sounding();
            long delay = of.likelyDelay(file);
            start = Math.min(start, (double) (sounding.start() - delay) / file.rateHz());
            end = Math.max(end, (double) (sounding.end() - delay) / file.rateHz());
        }
        if (start >= end) return Optional.empty();
        // What a decoder sounds before time begins is in one of them alone.
        start = Math.max(0, start);
        int rateHz = of.file().rateHz();
        long delay = of.likelyDelay();
        return Optional.of(new FrameRange(delay + (long) Math.floor(start * rateHz), delay + (long) Math.ceil(end * rateHz)));
    }
}
