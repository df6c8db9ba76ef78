package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.play.KeptSounds;
import ablecrate.play.Voices;
import ablecrate.signal.SoundPath;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;

/// Plans for one instrument within an amount of memory: all are rendered, the simple ones too, and the one that sounds most like the source is taken.
final class MemoryPlans {
    /// How much lower rates, shorter tails and one side count beside neighbours that stand in, in plans that are tried besides the one in which all count alike.
    private static final double[] LEANINGS = {0.4, 0.65, 1.5, 2.5};

    private final FitTask task;
    /// Samples by number, as the source has them.
    private final Voices.Sounds sounds;
    private final KeptSounds kept;
    private final SoundPath path;
    private final BooleanSupplier stopped;
    private final SizeHarms harms;

    MemoryPlans(FitTask task, Voices.Sounds sounds, KeptSounds kept, SoundPath path, BooleanSupplier stopped) {
        this.task = task;
        this.sounds = sounds;
        this.kept = kept;
        this.path = path;
        this.stopped = stopped;
        harms = new SizeHarms(task.isBank());
    }

    /// @param users how many rows of all instruments play each sample
    MemoryFitter fitter(Instrument instrument, Map<Integer, Integer> users) {
        return new MemoryFitter(task, instrument, sounds, new SizedSounds(task, sounds, kept, path), users, harms);
    }

    /// Of an instrument that plays its samples whole, at the destination's rates.
    Harm harm(Instrument instrument, NoteSet measured) {
        Map<Integer, Size> whole = new HashMap<>();
        FitTask.samples(instrument).forEach(sample -> task.sounds().get(sample).ifPresent(s -> whole.put(sample, s.whole())));
        return new SizedSounds(task, sounds, kept, path).harm(measured, instrument, whole);
    }

    /// How many rows of instruments play each sample; none of them with others where each zone has its own.
    Map<Integer, Integer> users(Stream<Instrument> instruments) {
        return task.format().hasSampleEach() ? Map.of() : SampleUsers.count(instruments.flatMap(i -> MemoryFitter.rows(task, i).stream()).toList());
    }

    /// A plan that is rendered.
    /// @param start what it was made of, with all turns of round robins or with fewer
    /// @param simple its name if it is what one would do by hand; empty for others
    private record Plan(MemoryFitter.Made made, Instrument start, String simple) {}

    private List<Plan> plans(FitState state, MemoryFitter fitter, MemoryFitter.Made chosen) {
        long bytes = task.bytesOf(List.of(chosen));
        List<Plan> out = new ArrayList<>(List.of(new Plan(chosen, state.now(), "")));
        // In a bank that would take longer than the fit.
        if (task.isBank()) return out;
        // What is foretold of neighbours and of lower rates is not wrong to the same degree.
        for (double factor : LEANINGS)
            within(state, fitter.leaning(factor), bytes).ifPresent(made -> out.add(new Plan(made, state.now(), "")));
        for (Instrument fewer : turned(state.now()))
            within(state, fitter(fewer, users(Stream.of(fewer))), bytes).ifPresent(made -> out.add(new Plan(made, fewer, "")));
        fitter.evenly(bytes).forEach((name, made) -> out.add(new Plan(made, state.now(), name)));
        fitter.alike(bytes).forEach((name, made) -> out.add(new Plan(made, state.now(), name)));
        long most = Math.max(task.zonesOf(List.of(chosen)), task.format().mostZones() / task.files(task.instruments()).getFirst().size());
        out.removeIf(plan -> task.format().mostZones() > 0 && task.zonesOf(List.of(plan.made)) > most);
        return out;
    }

    /// With half of the turns of its round robins, and with one.
    private List<Instrument> turned(Instrument instrument) {
        int turns = FitTask.turns(instrument);
        if (turns == 1 || !task.may(FitStep.Kind.TURNS)) return List.of();
        TurnChoice choice = new TurnChoice(instrument, new Notes(sounds, task.format()));
        return Stream.of(1, turns / 2).distinct().map(choice::of).toList();
    }

    /// The least harm in so much memory; empty where there is no way.
    private Optional<MemoryFitter.Made> within(FitState state, MemoryFitter fitter, long bytes) {
        double price = Price.lowest(p -> task.bytesOf(List.of(fitter.at(p))) <= bytes, stopped);
        MemoryFitter.Made made = new SpareMemory(List.of(fitter), new double[]{price}).spent(m -> task.bytesOf(m) <= bytes, stopped).getFirst();
        return Optional.of(made).filter(m -> task.bytesOf(List.of(m)) <= bytes && task.rules().hold(state.source(), m.instrument()));
    }

    /// The plan that was chosen, or another one in the same memory where that sounds more like the source.
    FitState best(FitState state, MemoryFitter fitter, MemoryFitter.Made chosen, NoteSet measured) {
        SizedSounds sized = new SizedSounds(task, sounds, kept, path);
        Plan winner = null;
        Harm least = null;
        Map<String, Double> simple = new LinkedHashMap<>(state.simpleDb());
        for (Plan plan : plans(state, fitter, chosen)) {
            Stopped.check(stopped);
            Harm harm = sized.harm(measured, plan.made.instrument(), plan.made.sizes());
            if (!plan.simple.isEmpty()) simple.put(plan.simple, harm.meanDb());
            if (least != null && harm.meanDb() >= least.meanDb()) continue;
            least = harm;
            winner = plan;
        }
        MemoryFitter.Made best = winner.made;
        List<FitStep> steps = new ArrayList<>(state.steps());
        double harm = state.harm().meanDb();
        if (winner.start != state.now()) {
            double fewer = measured.harm(winner.start, new Notes(sounds, task.format())).meanDb();
            steps.add(new FitStep(FitStep.Kind.TURNS, FitTask.turns(state.now()), FitTask.turns(winner.start),
                    task.bytes(state.now()) - task.bytes(winner.start), fewer - harm));
            harm = fewer;
        }
        steps.addAll(new MemorySteps(task, winner.start, best, sized, measured).steps(harm));
        Map<Integer, Fold> folds = new HashMap<>();
        best.sizes().forEach((sample, size) -> {
            if (task.sounds().get(sample).filter(s -> s.isFoldedIn(size)).isPresent()) folds.put(sample, sized.fold(sample));
        });
        return new FitState(state.source(), best.instrument(), best.sizes(), folds, steps, least, simple);
    }
}
