package ablecrate.fit;

import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// What notes of one set of sounds are heard as. Safe for threads.
final class Notes {
    private final Voices.Sounds sounds;

    /// @param loaded by sample number
    Notes(Map<Integer, LoadedSound> loaded) {
        sounds = i -> Optional.ofNullable(loaded.get(i));
    }

    HeardNote heard(List<Zone> zones, int key, int velocity) { return NoteAnalyser.ofThread().heard(NoteRenderer.note(zones, sounds, key, velocity)); }

    NoteAnalyser.Reference reference(List<Zone> zones, int key, int velocity) {
        return NoteAnalyser.ofThread().reference(NoteRenderer.held(zones, sounds, key, velocity));
    }

    HeardNote moved(NoteAnalyser.Reference reference, int keys) { return NoteAnalyser.ofThread().moved(reference, keys); }
}
