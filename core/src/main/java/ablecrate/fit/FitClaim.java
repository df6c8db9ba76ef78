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
/// @param carried the same without settings that the format of the result leaves out: what was made to fit is held against this
public record FitClaim(FitTask task, Instrument source, Instrument carried, Harm foretold) {
    /// Of the fit, beside what the format leaves out.
    /// @param written as it was read again
    /// @param sounds of the written file, by sample number
    public Harm measured(Instrument written, IntFunction<Optional<SoundFile>> sounds) throws IOException { return measured(carried, written, sounds); }

    /// With what the format leaves out; empty where that is nothing.
    public Optional<Harm> measuredInAll(Instrument written, IntFunction<Optional<SoundFile>> sounds) throws IOException {
        return carried.equals(source) ? Optional.empty() : Optional.of(measured(source, written, sounds));
    }

    private Harm measured(Instrument before, Instrument written, IntFunction<Optional<SoundFile>> sounds) throws IOException {

        KeptSounds kept = new KeptSounds();
        try {
            NoteSet notes = new NoteSet(before, new Notes(kept.of(sample -> task.sounds().get(sample).map(s -> s::load))), Fitter.notesOfEach(task));
            return notes.harmOfOther(written, new Notes(kept.of(sample -> sounds.apply(sample).map(s -> () -> FitSound.load(s)))));
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }
}
