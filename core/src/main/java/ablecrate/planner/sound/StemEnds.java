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

    /// In frames of a file at a rate; empty where it is no stem, or nothing sounds.
    Optional<FrameRange> sounding(int rateHz) {
        double start = Double.MAX_VALUE, end = 0;
        for (Answer<Measurement.Survey> answer : answers) {
            Optional<Measurement.Survey> survey = answer.found();
            // Of a silent one nothing is silence at its ends.
            if (survey.isEmpty() || survey.get().levels().samplePeakDbfs().isEmpty()) continue;
            SoundFile file = answer.request().file();
            start = Math.min(start, (double) survey.get().sounding().start() / file.rateHz());
            end = Math.max(end, (double) survey.get().sounding().end() / file.rateHz());
        }
        return start < end ? Optional.of(new FrameRange((long) Math.floor(start * rateHz), (long) Math.ceil(end * rateHz))) : Optional.empty();
    }
}
