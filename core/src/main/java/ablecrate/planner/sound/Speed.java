package ablecrate.planner.sound;

import ablecrate.change.PartChange;
import ablecrate.detect.TempoDetector;
import ablecrate.instrument.TextField;
import ablecrate.library.Gathered;
import ablecrate.library.Stated;
import ablecrate.option.TempoTarget;
import ablecrate.signal.Measurement;
import java.util.Optional;

/// How much faster a clip is played so that it goes at another tempo; its pitch goes along.
/// @param factor above 1 it gets shorter and higher; 1 as it is
/// @param bpm what it goes at then, where that is another tempo than before
/// @param change what is told of it
record Speed(double factor, Optional<Double> bpm, Optional<Answer<Measurement.Onsets>> heard, Optional<PartChange> change) {
    /// A tempo that is heard has to stand out of its best rival so far, and to be heard for as many beats: in a short sound anything is a tempo.
    private static final double LEAST_CONFIDENCE = 0.1, LEAST_BEATS = 8;
    private static final String NOT_HEARD = "no tempo is heard that stands out; say it if it has one";
    /// Half a semitone: up to there its key is still the one it was.
    private static final double SAME_KEY_CENTS = 50;

    private static final Speed AS_IT_IS = new Speed(1, Optional.empty(), Optional.empty(), Optional.empty());

    static Speed of(SoundTask task) {
        Optional<TempoTarget> target = task.treatment().finds().toTempo();
        // What is cut into pieces keeps to a tempo by its MIDI file; what an instrument plays goes by its key.
        if (target.isEmpty() || task.treatment().finds().cuts() || task.target().hasMap() || !task.target().isFile()) return AS_IT_IS;
        Optional<Double> wanted = switch (target.get()) {
            case TempoTarget.Bpm(double bpm) -> Optional.of(bpm);
            case TempoTarget.OfSession() -> task.accepted().sessionBpm();
        };
        if (wanted.isEmpty()) return kept("the destination is no session; say a tempo");
        Optional<Double> stated = task.treatment().finds().chop().bpm().or(() -> stated(task));
        if (stated.isPresent()) return at(task, stated.get(), wanted.get(), Optional.empty());
        // Heard one by one, stems could come out at different speeds.
        if (task.stems().isPresent()) return kept("neither the names of the stems nor their texts say their tempo; say it");
        if (task.file().durationSeconds() * TempoDetector.HIGHEST_BPM / 60 < LEAST_BEATS) return kept(NOT_HEARD);
        Answer<Measurement.Onsets> heard = task.ask(new Measurement.OfOnsets(task.file()), Measurement.Onsets.class, true);
        Optional<Double> bpm = heard.found().flatMap(Measurement.Onsets::tempo).filter(t -> t.confidence() >= LEAST_CONFIDENCE)
                .map(TempoDetector.Tempo::bpm).filter(t -> task.file().durationSeconds() * t / 60 >= LEAST_BEATS);
        return bpm.isPresent()
                ? at(task, bpm.get(), wanted.get(), Optional.of(heard))
                : new Speed(1, Optional.empty(), Optional.of(heard),
                        heard.isAwaited()
                                ? Optional.empty()
                                : Optional.of(new PartChange.TempoKept(NOT_HEARD)));
    }

    /// Of stems the first that says one says it for all, so that they stay together.
    private static Optional<Double> stated(SoundTask task) {
        return task.stems().isEmpty()
                ? Stated.tempo(task.gathered())
                : task.stems().get().sounds().stream().flatMap(f -> Stated.tempo(new Gathered(f.path(), f.path(), new Gathered.Content.Sound(f))).stream())
                        .findFirst();
    }

    private static Speed kept(String why) { return new Speed(1, Optional.empty(), Optional.empty(), Optional.of(new PartChange.TempoKept(why))); }

    private static Speed at(SoundTask task, double bpm, double wanted, Optional<Answer<Measurement.Onsets>> heard) {
        double near = Stated.nearest(bpm, wanted);
        double factor = near / bpm;
        if (Math.round(task.file().frames() / factor) == task.file().frames()) return new Speed(1, Optional.empty(), heard, Optional.empty());
        double cents = cents(factor);
        boolean losesKey = Math.abs(cents) >= SAME_KEY_CENTS && task.file().metadata().texts().containsKey(TextField.MUSICAL_KEY);
        return new Speed(factor, Optional.of(near), heard, Optional.of(new PartChange.TempoMatched(bpm, near, cents, heard.isPresent(), losesKey)));
    }

    private static double cents(double factor) { return 1200 * Math.log(factor) / Math.log(2); }

    boolean isOther() { return bpm.isPresent(); }

    /// By which everything sounds higher.
    double cents() { return cents(factor); }

    boolean losesKey() { return Math.abs(cents()) >= SAME_KEY_CENTS; }
}
