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
