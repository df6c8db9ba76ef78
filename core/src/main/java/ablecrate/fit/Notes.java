package ablecrate.fit;

import ablecrate.dsp.Decibels;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;

import ablecrate.play.Voices;
import java.util.List;
import java.util.Map;

import java.util.concurrent.ConcurrentHashMap;

/// What notes of one set of sounds are heard as. Safe for threads.
final class Notes {
    private final Voices.Sounds sounds;
    private final FitTask.Format format;
    private final Map<Integer, Double> headroomDb = new ConcurrentHashMap<>();

    /// @param sounds by sample number
    /// @param format whose settings are heard
    Notes(Voices.Sounds sounds, FitTask.Format format) {
        this.sounds = sounds;
        this.format = format;
    }

    HeardNote heard(List<Zone> zones, int key, int velocity) {
        if (zones.isEmpty()) return HeardNote.NOTHING;
        List<Zone> carried = carried(zones);
        return NoteAnalyser.ofThread().heard(NoteRenderer.note(carried, sounds, key, velocity), HeardNote.BLOCKS).goingOn(LongNote.of(carried, sounds, key));
    }

    /// While the key is held.
    HeardNote held(List<Zone> zones, int key, int velocity) {
        List<Zone> carried = carried(zones);
        return NoteAnalyser.ofThread().heard(NoteRenderer.held(carried, sounds, key, velocity, HeardNote.HELD_SECONDS), HeardNote.HELD_BLOCKS)
                .goingOn(LongNote.of(carried, sounds, key));
    }

    /// What the format says of zones.
    List<Zone> carried(List<Zone> zones) { return zones.stream().map(format::heard).toList(); }

    /// How much louder a stack can be played: what the format can say, and the headroom of its sounds, which can be made louder. Below 0 where it is beyond that already.
    /// @param mostGainDb of a zone
    double roomDb(Stack stack, double mostGainDb) {
        return stack.zones().stream().mapToDouble(z -> mostGainDb + headroomDb.computeIfAbsent(z.sample(), this::headroom) - z.get(Parameter.GAIN)).min()
                .orElse(0);
    }

    private double headroom(int sample) {
        return sounds.sound(sample).map(s -> Math.max(0, -Decibels.ofFactor(s.peak()))).orElse(0.0);
    }

    /// @param note whose zones are carried already
    NoteAnalyser.Reference reference(Alike.Note note) {
        return NoteAnalyser.ofThread().reference(NoteRenderer.held(note.zones(), sounds, note.key(), note.velocity(), NoteAnalyser.REFERENCE_SECONDS));
    }

    HeardNote moved(NoteAnalyser.Reference reference, int keys, double gainDb) { return NoteAnalyser.ofThread().moved(reference, keys, gainDb); }
}
