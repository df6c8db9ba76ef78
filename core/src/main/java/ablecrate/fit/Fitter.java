package ablecrate.fit;

import ablecrate.audio.Figures;
import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.play.KeptSounds;

import ablecrate.play.Voices;
import ablecrate.signal.Recent;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ForkJoinTask;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleConsumer;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/// Makes instruments fit a device: first what is counted, then memory, which those that are in it together share at one price for a byte, so that it goes where it is
/// heard most.
final class Fitter {
    private static final int STAGES = 3, MOST_NOTES = 600, FEWEST_NOTES = 16, NOTES_OF_ONE = 72;

    private final FitTask task;
    private final DeviceLimits limits;
    private final BooleanSupplier stopped;
    private final DoubleConsumer progress;
    /// Instruments that a stage is done with, of all stages together.
    private final AtomicInteger done = new AtomicInteger();
    private final int notesOfEach;
    private final Heard heard;
    private final MemoryPlans plans;
    /// Samples by number, as the source has them.
    private final Voices.Sounds whole;

    /// @param recent what was found out for other amounts of memory
    /// @param progress told the part that is done
    Fitter(FitTask task, SoundPath path, Recent recent, BooleanSupplier stopped, DoubleConsumer progress) {
        this.task = task;
        this.stopped = stopped;
        this.progress = progress;
        limits = task.limits();
        notesOfEach = notesOfEach(task);
        heard = recent.of(task.withoutMemory(), Heard::new);
        KeptSounds kept = new KeptSounds();
        Voices.Sounds read = kept.of(sample -> task.sounds().get(sample).map(s -> s::load));
        whole = sample -> {
            Stopped.check(stopped);
            return read.sound(sample);
        };
        plans = new MemoryPlans(task, whole, kept, path, stopped);
    }

    /// On how many notes each instrument is compared.
    static int notesOfEach(FitTask task) { return Math.clamp(MOST_NOTES / Math.max(1, task.instruments().size()), FEWEST_NOTES, NOTES_OF_ONE); }

    /// What does not depend on how much memory there is, as far as it is known.
    private static final class Heard {
        private final Map<Integer, NoteSet> notes = new ConcurrentHashMap<>();
        private volatile Optional<List<FitState>> counted = Optional.empty();
        private volatile Optional<List<Priced>> priced = Optional.empty();
    }

    /// Empty where it was stopped.
    Optional<Fit> fit() throws IOException {
        try {
            if (heard.counted.isEmpty())
                heard.counted = Optional.of(each(this::counted));
            else
                done.addAndGet(task.instruments().size());
            List<FitState> counted = heard.counted.get();
            boolean isShort = isShort(counted);
            List<FitState> made = isShort ? remembered(counted) : counted;
            List<Fit.Point> curve = isShort
                    ? MemoryCurve.of(task, heard.priced.orElseThrow().stream().map(Priced::fitter).toList(),
                            counted.stream().mapToDouble(s -> s.harm().meanDb()).average().orElse(0), stopped)
                    : List.of();
            Map<Integer, Size> ofAll = sizes(made);
            List<FitState> fitting = made.stream().filter(s -> lacking(s, ofAll).isEmpty()).toList();
            // What is left out, or divided as it is, makes no sample smaller.
            Map<Integer, Size> sizes = sizes(fitting);
            List<Fit.Fitted> fitted = new ArrayList<>();
            for (List<FitState> together : task.together(made)) {
                long bytes = bytes(together.stream().filter(fitting::contains).toList(), sizes);
                String lackingInAll = Need.within(bytes, limits.totalBytes())
                        ? ""
                        : Figures.bytes(bytes) + " of " + Figures.bytes(limits.totalBytes()) + " " + task.totalInWords();
                together.forEach(s -> fitted.add(fitted(s, sizes, fitting.contains(s) ? lackingInAll : lacking(s, ofAll))));
            }
            long ofParts = fitted.stream().flatMap(f -> f.parts().stream()).mapToLong(task::bytes).sum();
            return Optional.of(new Fit(fitted, sizes, task.bytesOfAll(), bytes(fitting, sizes) + ofParts, curve));
        } catch (Stopped e) {
            return Optional.empty();
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private long bytes(List<FitState> states, Map<Integer, Size> sizes) { return task.bytes(states.stream().map(FitState::now).toList(), sizes); }

    private static Map<Integer, Size> sizes(List<FitState> states) {
        Map<Integer, Size> sizes = new HashMap<>();
        states.forEach(s -> s.sizes().forEach((sample, size) -> sizes.merge(sample, size, Size::larger)));
        return sizes;
    }

    /// One after the other to whoever is idle: some take a hundred times as long as others, so that shares of as many would not be done at once.
    private <T> List<T> each(IntFunction<T> work) {
        List<ForkJoinTask<T>> tasks = IntStream.range(0, task.instruments().size()).mapToObj(i -> ForkJoinTask.adapt(() -> {
            Stopped.check(stopped);
            T made = work.apply(i);
            progress.accept((double) done.incrementAndGet() / (STAGES * task.instruments().size()));
            return made;
        })).toList();
        return ForkJoinTask.invokeAll(tasks).stream().map(ForkJoinTask::join).toList();
    }

    private Fit.Fitted fitted(FitState state, Map<Integer, Size> sizes, String lacking) {
        return new Fit.Fitted(state.source(), asLoud(state, sizes), task.need(state.source()), task.need(state.now(), sizes), state.harm(),
                state.steps(), state.simpleDb(), lacking, lacking.isEmpty() ? List.of() : parts(state.source()));
    }

    /// With zones that make up for sides that became one.
    private Instrument asLoud(FitState state, Map<Integer, Size> sizes) {
        return state.now().mapZones(z -> List.of(sizes.containsKey(z.sample()) && sizes.get(z.sample()).isFolded() && state.folds().containsKey(z.sample())
                ? state.folds().get(z.sample()).asLoud(z, task.format().mostGainDb())
                : z));
    }

    private List<Instrument> parts(Instrument source) {
        if (!task.format().hasFileEach() || limits.totalBytes() > 0 || !Kits.isKit(source)) return List.of();
        Instrument played = task.playsTurns(source) ? source : new TurnChoice(source, new Notes(whole, task.format())).of(task.mostTurns());
        return KitParts.of(task, played);
    }

    /// Why an instrument does not fit, whatever the others take.
    private String lacking(FitState state, Map<Integer, Size> sizes) {
        Need need = task.need(state.now(), sizes);
        List<String> out = new ArrayList<>();
        if (state.now().zones().stream().anyMatch(z -> Need.reachesTooFar(z, limits.transposeKeys()))) out.add("sounds that would be moved too far");
        if (!Need.within(need.layers(), limits.layers())) out.add(need.layers() + " velocity layers of " + limits.layers());
        if (!Need.within(need.samples(), limits.samples())) out.add(need.samples() + " samples of " + limits.samples());
        if (!Need.within(need.zones(), limits.zones())) out.add(need.zones() + " zones of " + limits.zones());
        if (!Need.within(need.bytes(), limits.instrumentBytes())) out.add(Figures.bytes(need.bytes()) + " of " + Figures.bytes(limits.instrumentBytes()));
        if (!task.rules().hold(state.source(), state.now())) out.add("sounds that have to stay, and for which there is no room");
        return String.join(", ", out);
    }

    /// The notes that an instrument is compared on.
    private NoteSet measured(int instrument) {
        NoteSet known = heard.notes.get(instrument);
        if (known != null) return known.anew();
        // Not made under a lock of the map: it is made by many threads, which may come here for others meanwhile.
        NoteSet made = new NoteSet(task.sources().get(instrument), new Notes(whole, task.format()), notesOfEach);
        heard.notes.put(instrument, made);
        return made;
    }

    private FitState counted(int place) {
        Instrument source = task.instruments().get(place);
        boolean reaches = source.zones().stream().noneMatch(z -> Need.reachesTooFar(z, limits.transposeKeys()));
        if (task.need(source).fitsCounts(limits) && task.playsTurns(source) && reaches) return FitState.of(source);
        Notes notes = new Notes(whole, task.format());
        NoteSet measured = measured(place);
        CountFitter.Counted counted = new CountFitter(task, notes, measured, stopped).fit(source);
        return new FitState(source, counted.instrument(), Map.of(), Map.of(), counted.steps(), plans.harm(counted.instrument(), measured), counted.simpleDb());
    }

    private boolean isShort(List<FitState> states) {
        return task.together(states).stream().anyMatch(s -> !Need.within(bytes(s, Map.of()), limits.totalBytes()))
                || states.stream().anyMatch(s -> !Need.within(task.bytes(s.now()), limits.instrumentBytes()));
    }

    /// What is kept of an instrument between its rendering and the search for a price.
    private record Priced(MemoryFitter fitter, FitState state) {}

    private List<FitState> remembered(List<FitState> states) {
        Map<Integer, Integer> users = plans.users(states.stream().map(FitState::now));
        if (heard.priced.isEmpty())
            heard.priced = Optional.of(each(i -> new Priced(plans.fitter(states.get(i).now(), users), states.get(i))));
        else
            done.addAndGet(task.instruments().size());
        List<Priced> priced = heard.priced.get();
        List<MemoryFitter.Made> made = task.together(priced).stream().flatMap(together -> sized(together).stream()).toList();
        return each(i -> plans.best(priced.get(i).state, priced.get(i).fitter, made.get(i), measured(i)));
    }

    /// Instruments that are in memory together, at the price at which they have room there.
    private List<MemoryFitter.Made> sized(List<Priced> priced) {
        double[] least = priced.stream()
                .mapToDouble(p -> Price.lowest(price -> Need.within(task.bytesOf(List.of(p.fitter.at(price))), limits.instrumentBytes()), stopped)).toArray();
        double inAll = Price.lowest(price -> Need.within(task.bytesOf(at(priced, least, price)), limits.totalBytes()), stopped);
        double[] prices = Arrays.stream(least).map(p -> Math.max(p, inAll)).toArray();
        List<MemoryFitter.Made> made = new SpareMemory(priced.stream().map(Priced::fitter).toList(), prices).spent(this::hasRoom, stopped);
        List<Joining> all = IntStream.range(0, made.size()).mapToObj(i -> new Joining(priced.get(i).fitter, made.get(i))).toList();
        return task.files(all).stream().flatMap(file -> joined(file).stream()).toList();
    }

    private record Joining(MemoryFitter fitter, MemoryFitter.Made made) {}

    /// Instruments of one file, with as many zones as the format counts.
    private List<MemoryFitter.Made> joined(List<Joining> file) {
        List<MemoryFitter.Made> out = file.stream().map(Joining::made).toList();
        for (double apartDb : Row.APART_DB) {
            if (Need.within(task.zonesOf(out), task.format().mostZones())) break;
            out = file.stream().map(j -> j.fitter.joined(j.made, apartDb)).toList();
        }
        return out;
    }

    private boolean hasRoom(List<MemoryFitter.Made> made) {
        return Need.within(task.bytesOf(made), limits.totalBytes())
                && made.stream().allMatch(m -> Need.within(task.bytesOf(List.of(m)), limits.instrumentBytes()));
    }

    private List<MemoryFitter.Made> at(List<Priced> priced, double[] least, double price) {
        return IntStream.range(0, priced.size()).parallel().mapToObj(i -> priced.get(i).fitter.at(Math.max(least[i], price))).toList();
    }
}
