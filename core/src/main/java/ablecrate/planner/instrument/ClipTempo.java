package ablecrate.planner.instrument;

import ablecrate.codec.SoundFile;
import ablecrate.detect.TempoDetector;
import ablecrate.library.Gathered;
import ablecrate.library.Stated;
import ablecrate.signal.Measurement;
import java.util.Optional;
import java.util.function.Function;

/// How fast a clip goes: as the user says, as its texts or names have it, or as is heard.
/// @param bpm empty where nothing tells
/// @param wanted what has to be listened to first
record ClipTempo(Optional<Double> bpm, Optional<Measurement.Request> wanted) {
    static ClipTempo of(Optional<Double> said, Gathered clip, SoundFile sound, Function<Measurement.Request, Optional<Measurement>> measured) {
        Optional<Double> known = said.or(() -> Stated.tempo(new Gathered(clip.path(), clip.relative(), new Gathered.Content.Sound(sound))));
        if (known.isPresent()) return new ClipTempo(known, Optional.empty());
        Measurement.Request request = new Measurement.OfOnsets(sound);
        Optional<Measurement> heard = measured.apply(request);
        return new ClipTempo(heard.filter(Measurement.Onsets.class::isInstance).flatMap(m -> ((Measurement.Onsets) m).tempo()).map(TempoDetector.Tempo::bpm),
                heard.isEmpty() ? Optional.of(request) : Optional.empty());
    }
}
