package ablecrate.fit;

import ablecrate.codec.SoundFile;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;

/// How different a fitted instrument was foretold to sound, and the means to measure it on what was written.
/// @param source as it was before; its zones play the task's samples
public record FitClaim(FitTask task, Instrument source, Harm foretold) {
    /// @param written as it was read again
    /// @param sounds of the written file, by sample number
    public Harm measured(Instrument written, IntFunction<Optional<SoundFile>> sounds) throws IOException {
        NoteSet notes = new NoteSet(source, new Notes(loaded(source, i -> task.sounds().get(i).map(FitSound::file))), Fitter.notesOfEach(task));
        return notes.harmOfOther(written, new Notes(loaded(written, sounds)));
    }

    private static Map<Integer, LoadedSound> loaded(Instrument instrument, IntFunction<Optional<SoundFile>> sounds) throws IOException {
        Map<Integer, LoadedSound> out = new HashMap<>();
        for (Zone zone : instrument.zones()) {
            Optional<SoundFile> sound = sounds.apply(zone.sample());
            if (sound.isPresent() && !out.containsKey(zone.sample())) out.put(zone.sample(), FitSound.load(sound.get()));
        }
        return out;
    }
}
