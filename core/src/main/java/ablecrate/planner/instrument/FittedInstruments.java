package ablecrate.planner.instrument;

import ablecrate.audio.Depth;
import ablecrate.change.Change;
import ablecrate.change.FitChange;
import ablecrate.codec.SoundFile;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DeviceLimits;
import ablecrate.detect.FoundLoop;
import ablecrate.fit.Fit;
import ablecrate.fit.FitClaim;
import ablecrate.fit.FitRules;
import ablecrate.fit.FitSound;
import ablecrate.fit.FitStep;
import ablecrate.fit.FitTask;
import ablecrate.fit.Size;
import ablecrate.format.BankFormat;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.option.Choice;
import ablecrate.option.Fitting;
import ablecrate.planner.sound.SoundTarget;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// Instruments as far as the device has room for them. What is too large is made to fit, told as blocked, or both asked about, as the user chose.
///
/// What fits best is known only by hearing all of it; until then the instruments stay whole.
/// @param sizes of samples that are not kept whole, by number
/// @param wanted what has to be listened to
/// @param claims how different each of them sounds
/// @param found loops by which they are played then
record FittedInstruments(List<Instrument> instruments, Map<Integer, Size> sizes, List<Change> changes, List<Measurement.Request> wanted,
        List<FitClaim> claims, FoundLoops found) {
    static FittedInstruments of(InstrumentTask task, List<Instrument> plain) {
        FittedInstruments whole = new FittedInstruments(plain, Map.of(), List.of(), List.of(), List.of(), FoundLoops.NONE);
        Fitting fitting = task.options().instruments().fitting();
        DeviceLimits limits = task.options().instruments().limits(task.accepted().sheet());
        if (task.isLoose() || plain.isEmpty() || limits.withoutSkills().isNone() && !task.fitsTurns()) return whole;
        FitTask unfitted = fitTask(task, plain, limits, fitting, FoundLoops.NONE);
        if (unfitted.sounds().stream().allMatch(Optional::isEmpty) || !unfitted.isOver()) return whole;
        if (fitting.mode() == Fitting.Mode.OFF) return whole.told(unfitted);
        FoundLoops loops = FoundLoops.of(task, plain);
        if (!loops.wanted().isEmpty()) return whole.waiting(unfitted, fitting.mode(), loops.wanted());
        FitTask inBanks = fitTask(task, plain, limits, fitting, loops);
        FitTask fit = inBanks.together(plain).size() > 1 && movesUp(task, inBanks) ? inBanks.allTogether() : inBanks;
        Optional<Measurement> heard = task.measured().apply(fit);
        return switch (heard.orElse(null)) {
            case null -> whole.waiting(fit, fitting.mode(), List.of(fit));
            case Fit found -> found(task, whole, found, fitting.mode() == Fitting.Mode.DO, fit, loops);
            default -> whole.told(fit);
        };
    }

    /// Where instruments are left out, or have no sound, others move up to the bank before theirs: then no bank takes more than it may if all of them together do not.
    private static boolean movesUp(InstrumentTask task, FitTask fit) {
        return fit.instruments().stream().anyMatch(i -> i.zones().stream().allMatch(z -> fit.sounds().get(z.sample()).isEmpty()))
                || task.measured().apply(fit).filter(m -> m instanceof Fit found && !found.leftOut().isEmpty()).isPresent();
    }

    /// Too large as it is.
    private FittedInstruments told(FitTask fit) { return with(FitChange.TooLarge.of(fit), List.of()); }

    /// Until what is asked is known.
    private FittedInstruments waiting(FitTask fit, Fitting.Mode mode, List<Measurement.Request> asked) {
        return with(mode == Fitting.Mode.DO ? FitChange.NotFittedYet.of(fit) : FitChange.TooLarge.of(fit), asked);
    }

    private FittedInstruments with(Change told, List<Measurement.Request> asked) {
        return new FittedInstruments(instruments, Map.of(), List.of(told), asked, List.of(), FoundLoops.NONE);
    }

    private static FittedInstruments found(InstrumentTask instruments, FittedInstruments whole, Fit fit, boolean isDone, FitTask task, FoundLoops loops) {
        List<Change> told = FitChange.of(fit);
        if (!isDone || fit.leftOut().size() == fit.instruments().size())
            return whole.with(FitChange.TooLarge.advised(task, fit), List.of());
        List<Instrument> after = new ArrayList<>();
        List<FitClaim> claims = new ArrayList<>();
        for (int i = 0; i < fit.instruments().size(); i++) {
            Fit.Fitted fitted = fit.instruments().get(i);
            Instrument source = whole.instruments.get(i);
            fitted.parts().forEach(part -> after.add(loops.unlooped(part, source)));
            if (!fitted.fits()) continue;
            after.add(loops.unlooped(fitted.after(), source));
            if (!fitted.isChanged()) continue;
            // Releases that are added whatever is done to make it fit are no difference.
            claims.add(new FitClaim(task, PlayingDefaults.released(instruments, source), fitted.harm()));
        }
        return new FittedInstruments(after, fit.sizes(), told, List.of(), claims, loops);
    }

    private static FitTask fitTask(InstrumentTask task, List<Instrument> plain, DeviceLimits limits, Fitting fitting, FoundLoops loops) {
        Set<FitStep.Kind> forbidden = EnumSet.noneOf(FitStep.Kind.class);
        forbidden.addAll(fitting.forbidden());
        // What the user asked for stays.
        if (task.options().rateHz() instanceof Choice.Of) forbidden.add(FitStep.Kind.RATE);
        if (task.options().depth() instanceof Choice.Of) forbidden.add(FitStep.Kind.DEPTH);
        if (task.options().channels().isPresent()) forbidden.add(FitStep.Kind.MONO);
        List<Optional<FitSound>> sounds = IntStream.range(0, task.file().samples().size())
                .mapToObj(i -> task.file().sound(i).filter(s -> s.frames() > 0).map(s -> sound(task, s, loops.of(i)))).toList();
        return new FitTask(plain.stream().map(i -> loops.looped(task, i)).toList(), sounds, limits, task.accepted().sheet().accepts().rateChoices(),
                task.accepted().acceptsChannels(1),
                new FitTask.Format(Parameter.ALL.stream().filter(task.capabilities()::carries).collect(Collectors.toSet()), task.mostGainDb(),
                        task.bank().map(BankFormat::mostZones).orElse(0), task.isSaidBySounds(),
                        task.bank().filter(BankFormat::hasSidesApart).isPresent(), task.instrumentsPerFile()),
                new FitRules(forbidden, fitting.keptRoots(), fitting.keptVelocities()), plain);
    }

    private static FitSound sound(InstrumentTask task, SoundFile file, Optional<FoundLoop> found) {
        SoundTarget target = InstrumentSounds.target(task, file, true);
        boolean isMono = task.accepted().channels(file.channels()) == ChannelChoice.MONO;
        List<Depth> accepted = task.accepted().sheet().accepts().depthList();
        return new FitSound(file, target.rateHz(task.accepted().rateHz(file.rateHz())), isMono ? 1 : file.channels(),
                FitSound.depths(target.depth(task.accepted().depth(file.encoding().depth()), accepted),
                        accepted.stream().filter(d -> target.depth(d, accepted) == d).toList()),
                target.loops(), found);
    }

    /// What was said of instruments, by their places among those that are written.
    Map<Integer, FitClaim> claims(List<Instrument> written) {
        Map<Integer, FitClaim> out = new HashMap<>();
        for (int i = 0; i < written.size(); i++)
            for (FitClaim claim : claims)
                if (claim.source().name().equals(written.get(i).name()) && claim.source().program().equals(written.get(i).program())) out.put(i, claim);
        return out;
    }

    /// Empty where the whole sample is kept.
    Optional<Size> size(int sample) { return Optional.ofNullable(sizes.get(sample)); }
}
