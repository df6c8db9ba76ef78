package ablecrate.fit;

import ablecrate.codec.SoundFile;
import ablecrate.instrument.Instrument;
import ablecrate.play.KeptSounds;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Optional;
import java.util.function.IntFunction;

/// How different a fitted instrument was foretold to sound, and the means to measure it on what was written.
/// @param source as it was before; its zones play the task's samples
public record FitClaim(FitTask task, Instrument source, Harm foretold) {
    /// Of the fit, beside what the format leaves out.
    /// @param written as it was read again
    /// @param sounds of the written file, by sample number
    public Harm measured(Instrument written, IntFunction<Optional<SoundFile>> sounds) throws IOException { return measured(written, sounds, task.format()); }

    /// With what the format leaves out; empty where that is nothing.
    public Optional<Harm> measuredInAll(Instrument written, IntFunction<Optional<SoundFile>> sounds) throws IOException {
        boolean isAll = source.zones().stream().allMatch(z -> task.format().heard(z).equals(z));
        return isAll ? Optional.empty() : Optional.of(measured(written, sounds, FitTask.Format.ANY));
    }

    private Harm measured(Instrument written, IntFunction<Optional<SoundFile>> sounds, FitTask.Format heard) throws IOException {
        KeptSounds kept = new KeptSounds();
        try {
            NoteSet notes = new NoteSet(source, new Notes(kept.of(sample -> task.sounds().get(sample).map(s -> s::load)), heard), Fitter.notesOfEach(task));
            return notes.harmOfOther(written, new Notes(kept.of(sample -> sounds.apply(sample).map(s -> () -> FitSound.load(s))), heard));
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }
}
