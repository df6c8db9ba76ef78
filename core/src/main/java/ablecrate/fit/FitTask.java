package ablecrate.fit;

import ablecrate.codec.SoundFile;
import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.signal.Measurement;
import ablecrate.signal.Recent;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleConsumer;
import java.util.stream.Gatherers;
import java.util.stream.IntStream;

/// Instruments that share their samples and a device's memory, and what may be done to make them fit.
/// @param sounds by sample number; empty where one is missing
/// @param ratesHz that the device takes; empty for any
/// @param takesMono whether a stereo sound may become mono
/// @param format of the instruments
/// @param rules what must not be done
/// @param sources the instruments before loops were found for their sounds: with these is compared what becomes of them
public record FitTask(List<Instrument> instruments, List<Optional<FitSound>> sounds, DeviceLimits limits, List<Integer> ratesHz, boolean takesMono,
        Format format, FitRules rules, List<Instrument> sources) implements Measurement.OfInstruments {
    /// Of more instruments, each is not held against simple plans, and fewer rates are tried.
    private static final int MOST_TRIED = 16;

    /// What a format can say of zones.
    /// @param carried settings that it holds: a fit listens to these alone, as the others are lost whatever is done
    /// @param mostGainDb the highest gain
    /// @param mostZones in a file, of stereo sounds two; 0 is no limit
    /// @param hasSampleEach whether each zone has a sample of its own, as sounds say how they are played
    /// @param hasSidesApart whether the sides of a stereo sound are two samples
    /// @param instrumentsPerFile how many a file holds; 0 for all. Where it is 1, one may become several; of files with more, a device loads one at a time
    public record Format(Set<Parameter<?>> carried, double mostGainDb, int mostZones, boolean hasSampleEach, boolean hasSidesApart, int instrumentsPerFile) {
        public static final Format ANY = new Format(Set.copyOf(Parameter.ALL), Parameter.MOST_GAIN, 0, false, false, 0);

        public Format {
            carried = Set.copyOf(carried);
        }

        /// Whether it says how level follows velocity.
        boolean hasCurve() { return carried.contains(Parameter.VELOCITY_TRACKING); }

        boolean hasFileEach() { return instrumentsPerFile == 1; }

        /// What is left of a zone.
        Zone heard(Zone zone) {
            Zone out = zone;
            for (Parameter<?> parameter : zone.said())
                if (!carried.contains(parameter)) out = out.without(parameter);
            return out;
        }
    }

    public FitTask(List<Instrument> instruments, List<Optional<FitSound>> sounds, DeviceLimits limits, List<Integer> ratesHz, boolean takesMono, Format format,
            FitRules rules) {
        this(instruments, sounds, limits, ratesHz, takesMono, format, rules, instruments);
    }

    public FitTask {
        instruments = List.copyOf(instruments);
        sources = List.copyOf(sources);
        Map<Integer, Set<List<Loop>>> loops = new HashMap<>();
        for (Instrument instrument : instruments)
            for (Zone zone : instrument.zones())
                if (!zone.get(Parameter.LOOPS).isEmpty() && !format.hasSampleEach())
                    loops.computeIfAbsent(zone.sample(), _ -> new LinkedHashSet<>()).add(zone.get(Parameter.LOOPS));
        List<Optional<FitSound>> all = sounds;
        sounds = IntStream.range(0, all.size()).mapToObj(i -> all.get(i).map(s -> s.playedWith(loops.getOrDefault(i, Set.of())))).toList();
        ratesHz = List.copyOf(ratesHz);
    }

    /// The first of the sounds.
    @Override public SoundFile file() { return sounds.stream().flatMap(Optional::stream).findFirst().orElseThrow().file(); }

    @Override public Optional<? extends Measurement> measure(SoundPath path, Recent recent, BooleanSupplier stopped, DoubleConsumer progress)
            throws IOException {
        return new Fitter(this, path, recent, stopped, progress).fit();
    }

    @Override public Optional<String> hash() { return KeptFit.hash(this); }

    @Override public String written(Measurement answer, String hash) { return KeptFit.write((Fit) answer, hash); }

    @Override public Optional<Fit> read(String text, String hash) { return KeptFit.read(text, hash, this); }

    /// Whether there are so many instruments that each cannot be tried out in every way.
    boolean isBank() { return instruments.size() > MOST_TRIED; }

    /// Those of one file.
    /// @param ofEach one for each instrument
    <T> List<List<T>> files(List<T> ofEach) {
        return format.instrumentsPerFile == 0 ? List.of(ofEach) : ofEach.stream().gather(Gatherers.windowFixed(format.instrumentsPerFile)).toList();
    }

    /// Those that are in a device's memory at one time.
    /// @param ofEach one for each instrument
    public <T> List<List<T>> together(List<T> ofEach) { return format.hasFileEach() ? List.of(ofEach) : files(ofEach); }

    /// What the memory of all is for, in words.
    public String totalInWords() { return together(instruments).size() > 1 ? "in one bank" : "in all"; }

    /// Those that share a memory: as they are there together, or each by itself.
    /// @param ofEach one for each instrument
    public <T> List<List<T>> sharing(List<T> ofEach) { return limits.isMemoryShared() ? together(ofEach) : ofEach.stream().map(List::of).toList(); }

    /// The same with all instruments in a device's memory at one time.
    public FitTask allTogether() {
        return new FitTask(instruments, sounds, limits, ratesHz, takesMono,
                new Format(format.carried, format.mostGainDb, format.mostZones, format.hasSampleEach, format.hasSidesApart, 0), rules, sources);
    }

    /// Sounds of instruments that had no loop, and those of them that one was found for.
    public record Unlooped(long sounds, long found) {}

    /// Without those of kits, which nobody holds.
    public Unlooped unlooped() {
        Map<Integer, Boolean> found = new HashMap<>();
        for (Instrument instrument : instruments)
            if (!Kits.isKit(instrument))
                for (Zone zone : instrument.zones())
                    sounds.get(zone.sample()).filter(s -> s.found().isPresent() || zone.get(Parameter.LOOPS).isEmpty())
                            .ifPresent(s -> found.put(zone.sample(), s.found().isPresent()));
        return new Unlooped(found.size(), found.values().stream().filter(f -> f).count());
    }

    boolean may(FitStep.Kind kind) { return !rules.forbidden().contains(kind); }

    /// The same with as much memory as it wants.
    FitTask withoutMemory() {
        return new FitTask(instruments, sounds, limits.withInstrumentBytes(0).withTotalBytes(0), ratesHz, takesMono, format, rules, sources);
    }

    /// Memory that samples take, each as often as it is written.
    /// @param sizes of those that are not whole
    long bytes(Collection<Instrument> instruments, Map<Integer, Size> sizes) {
        IntStream played = instruments.stream().flatMap(i -> i.zones().stream()).mapToInt(Zone::sample);
        return (format.hasSampleEach() ? played : played.distinct()).mapToLong(s -> bytes(s, sizes.get(s))).sum();
    }

    /// @param size null for the whole
    long bytes(int sample, Size size) {
        return sounds.get(sample).map(s -> s.bytes(size == null ? s.whole() : size)
                + (long) s.copies() * (format.hasSidesApart() ? channels(sample, size) : 1) * limits.sampleOverheadBytes()).orElse(0L);
    }

    long bytesOf(List<MemoryFitter.Made> made) {
        Map<Integer, Size> sizes = new HashMap<>();
        made.forEach(m -> m.sizes().forEach((sample, size) -> sizes.merge(sample, size, Size::larger)));
        return bytes(made.stream().map(MemoryFitter.Made::instrument).toList(), sizes);
    }

    /// Of stereo sounds two.
    long zonesOf(List<MemoryFitter.Made> made) {
        return made.stream().flatMap(m -> m.instrument().zones().stream().map(z -> channels(z.sample(), m.sizes().get(z.sample())))).mapToLong(c -> c).sum();
    }

    private int channels(int sample, Size size) {
        return sounds.get(sample).map(s -> size != null && size.isFolded() ? 1 : Math.min(s.channels(), s.file().channels())).orElse(1);
    }

    public Need need(Instrument instrument) { return need(instrument, Map.of()); }

    Need need(Instrument instrument, Map<Integer, Size> sizes) {
        Need need = Need.of(instrument, bytes(List.of(instrument), sizes));
        return format.hasSampleEach() ? new Need(need.zones(), need.zones(), need.layers(), need.bytes()) : need;
    }

    public long bytes(Instrument instrument) { return bytes(List.of(instrument), Map.of()); }

    static List<Integer> samples(Instrument instrument) { return instrument.zones().stream().map(z -> z.sample()).distinct().toList(); }

    /// Of the longest round robin; 1 where there is none.
    public static int turns(Instrument instrument) { return instrument.zones().stream().mapToInt(z -> z.get(Parameter.TURN).length()).max().orElse(1); }

    /// How many turns of a round robin the device plays; 0 is no limit.
    public int mostTurns() { return format.carried.contains(Parameter.TURN) ? limits.playing().turns() : 1; }

    boolean playsTurns(Instrument instrument) { return Need.within(turns(instrument), mostTurns()); }

    /// Whether something has to be done.
    public boolean isOver() {
        if (instruments.stream()
                .anyMatch(i -> !need(i).fits(limits) || !playsTurns(i) || i.zones().stream().anyMatch(z -> Need.reachesTooFar(z, limits.transposeKeys()))))
            return true;
        return !Need.within(mostTogether(), limits.totalBytes());
    }

    /// The most that instruments which share a memory take of it.
    public long fullest() { return most(sharing(instruments), Map.of()); }

    /// The most memory that instruments take at one time.
    public long mostTogether() { return most(together(instruments), Map.of()); }

    /// @param memories instruments that share one
    long most(List<List<Instrument>> memories, Map<Integer, Size> sizes) { return memories.stream().mapToLong(m -> bytes(m, sizes)).max().orElse(0); }

    /// Memory of all instruments.
    public long bytesOfAll() { return bytes(instruments, Map.of()); }
}
