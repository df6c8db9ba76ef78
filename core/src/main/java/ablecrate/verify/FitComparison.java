package ablecrate.verify;

import ablecrate.codec.SoundFile;
import ablecrate.fit.FitClaim;
import ablecrate.fit.FitSound;
import ablecrate.fit.Harm;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.OutputChain;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/// Holds how what was made to fit sounds, played from what was written, against what was foretold of it.
public final class FitComparison {
    /// Dither, and the depth of the destination, are no part of what was foretold.
    private static final double TOLERANCE_DB = 0.5;

    private FitComparison() {}

    /// @param what the note that differs most, in words
    /// @param inAllDb with settings that the format leaves out; empty where it leaves out none
    static Outcome outcome(double foretoldDb, double foundDb, double worstDb, String what, OptionalDouble inAllDb) {
        String told = String.format(Locale.ROOT, "%.1f dB in the mean, %.1f dB at %s, played from what was written", foundDb, worstDb, what)
                + (inAllDb.isPresent() ? String.format(Locale.ROOT, "; %.1f dB with the settings that the format leaves out", inAllDb.getAsDouble()) : "");
        return foundDb <= foretoldDb + TOLERANCE_DB
                ? new Outcome.Held(Check.DIFFERENCE, told)
                : new Outcome.Missed(Check.DIFFERENCE, foretoldDb, foundDb, "dB", told);
    }

    /// A loose sound, as loud as before its level was set. Where fades or a limiter were asked for it is another sound anyway, and nothing is said.
    public static Optional<Outcome> of(PlannedOutput output, SoundFile written) throws IOException {
        FitClaim claim = output.fitted().orElseThrow();
        OutputChain chain = output.outputChain();
        boolean isFaded = chain.ends().fadeInFrames() > 0 || chain.ends().fadeOutFrames() > Math.ceil(FitSound.FADE_MS / 1000 * written.rateHz());
        if (chain.hold().isPresent() || isFaded || !Parameter.GAIN.allows(-chain.gainDb())) return Optional.empty();
        Instrument played = claim.source().mapZones(z -> List.of(z.with(Parameter.GAIN, -chain.gainDb()).with(Parameter.LOOPS, written.metadata().loops())));
        Harm harm = claim.measured(played, _ -> Optional.of(written));
        return Optional.of(outcome(claim.foretold().meanDb(), harm.meanDb(), harm.worstDb(), NoteName.of(harm.worstKey()), OptionalDouble.empty()));
    }
}
