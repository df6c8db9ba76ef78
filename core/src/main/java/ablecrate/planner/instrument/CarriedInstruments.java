package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.change.LoopChange;
import ablecrate.change.Told;
import ablecrate.codec.SoundFile;
import ablecrate.detect.FoundLoop;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.OwnMaps;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.plan.PlannedOutput;
import ablecrate.planner.instrument.PlannedParts.Part;
import ablecrate.planner.instrument.PlayedSounds.PlayedGroup;
import ablecrate.planner.instrument.PlayedSounds.PlayedInstrument;
import ablecrate.planner.instrument.PlayedSounds.PlayedZone;
import ablecrate.signal.ZoneFrames;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Supplier;
import java.util.stream.Stream;

/// The instruments as the target has them, their zones on the results' frames; what that changes is told, parameter by parameter.
record CarriedInstruments(List<Instrument> instruments, List<Change> changes) {
    static CarriedInstruments of(InstrumentTask task, PlayedSounds played, PlannedParts parts) {
        Carrying carrying = new Carrying(task, parts);
        List<Instrument> carried = played.instruments().stream().flatMap(i -> carrying.carry(i).stream()).toList();
        return new CarriedInstruments(carried,
                Stream.of(carrying.lowered.stream(), carrying.folded().stream(), carrying.dying().stream(), carrying.released().stream(),
                        carrying.oneShots().stream(),
                        carrying.fitting.changes().stream(),
                        about(task.capabilities(), played).stream()).flatMap(s -> s).toList());
    }

    private static final Set<Parameter<?>> IN_CHUNKS = Set.of(Parameter.ROOT_KEY, Parameter.TUNING, Parameter.KEYS, Parameter.VELOCITIES, Parameter.GAIN,
            Parameter.LOOPS);

    /// In which a sound falls by some 100 dB once its key is let go: common practice for drums in banks, where the longest that SoundFont 2 has is 101.6 s.
    private static final double ENDLESS_RELEASE = 100;

    private static final class Carrying {
        private final InstrumentTask task;
        private final PlannedParts parts;
        private final CarriedZones fitting;
        private final List<Change> lowered = new ArrayList<>();
        private final List<String> folded = new ArrayList<>();
        private double mostFoldedDb;
        private final Map<String, Integer> releases = new TreeMap<>();
        private final List<String> released = new ArrayList<>(), oneShots = new ArrayList<>(), dying = new ArrayList<>();
        private double leastFall = Double.POSITIVE_INFINITY, mostFall;

        Carrying(InstrumentTask task, PlannedParts parts) {
            this.task = task;
            this.parts = parts;
            fitting = new CarriedZones(target(), task.capabilities());
        }

        Optional<Instrument> carry(PlayedInstrument played) {
            Instrument instrument = played.instrument();
            // Within one format a gain beyond what players do is as loud as before.
            double softer = task.staysInFormat() && played.zones().noneMatch(z -> foldedDb(z) > 0) ? 0 : excessGain(played);
            if (softer > 0)
                lowered.add(new InstrumentChange.InstrumentLowered(instrument.name(), softer, task.capabilities().how(Parameter.GAIN)));
            List<ZoneGroup> groups = new ArrayList<>();
            for (PlayedGroup group : played.groups()) {
                List<Zone> zones = group.zones().stream().flatMap(z -> parts.of(z).stream().flatMap(part -> carry(instrument, z, part, softer))).toList();
                if (!zones.isEmpty()) groups.add(new ZoneGroup(group.name(), zones));
            }
            return groups.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new Instrument(task.capabilities().fit(instrument.about()), instrument.program(), instrument.playing(), groups));
        }

        /// Where a loop was found for a sound that has none, the zone plays it.
        private Zone withFoundLoop(Zone zone, Part part, Supplier<String> name) {
            List<Loop> found = part.item().outputs().stream().findFirst().map(o -> o.source().metadata().loops()).orElse(List.of());
            Optional<SoundFile> unlooped = task.file().sound(zone.sample()).filter(s -> s.metadata().loops().isEmpty());
            if (!zone.get(Parameter.LOOPS).isEmpty() || found.isEmpty() || unlooped.isEmpty()) return zone;
            Zone looped = zone.without(Parameter.ONE_SHOT).with(Parameter.LOOPS, found);
            return part.added().map(l -> dyingAway(looped, l, unlooped.get().rateHz(), name)).orElse(looped);
        }

        private Zone dyingAway(Zone zone, FoundLoop loop, int rateHz, Supplier<String> name) {
            if (!LoopDecay.isWanted(zone, loop)) return zone;
            dying.add(String.format(Locale.ROOT, "%s: %.1f dB a second", name.get(), loop.fallDbPerSecond()));
            leastFall = Math.min(leastFall, loop.fallDbPerSecond());
            mostFall = Math.max(mostFall, loop.fallDbPerSecond());
            return LoopDecay.of(zone, loop, rateHz, task.capabilities());
        }

        private String target() { return task.isLoose() ? "a sound's own mapping" : task.targetName(); }

        Optional<Change> dying() {
            if (dying.isEmpty()) return Optional.empty();
            LoopChange.Falls falls = new LoopChange.Falls(dying.size(), leastFall, mostFall);
            return Optional.of(LoopDecay.isSaid(task.capabilities())
                    ? new LoopChange.LoopsDieAway(falls, dying)
                    : new LoopChange.LoopsGoOn(falls, target(), dying));
        }

        /// By how much the loudest zone is beyond what the target can say.
        private double excessGain(PlayedInstrument played) {
            double most = task.mostGainDb();
            double excess = played.zones()
                    .mapToDouble(z -> z.zone().get(Parameter.GAIN) + foldedDb(z) - parts.of(z).map(Part::raisedDb).orElse(0.0) - most).max().orElse(0);
            return excess > 0.1 ? Math.ceil(excess * 10) / 10 : 0;
        }

        private double foldedDb(PlayedZone zone) { return parts.of(zone).map(Part::foldedDb).orElse(0.0); }

        /// A zone an output.
        private Stream<Zone> carry(Instrument instrument, PlayedZone played, Part part, double softer) {
            Zone zone = played.zone();
            Supplier<String> name = () -> Told.zone(instrument.name(), zone, task.file().samples().get(zone.sample()).name());
            double lower = softer + part.raisedDb() - part.foldedDb();
            if (part.foldedDb() > 0) {
                folded.add(String.format(Locale.ROOT, "%s: %+.1f dB", name.get(), part.foldedDb()));
                mostFoldedDb = Math.max(mostFoldedDb, part.foldedDb());
            }
            Zone level = lower > 0 || part.foldedDb() > 0
                    ? zone.with(Parameter.GAIN, Math.max(Parameter.LEAST_GAIN, Parameter.GAIN.nearest(zone.get(Parameter.GAIN) - lower)))
                    : zone;
            Zone given = soundingOn(withRelease(instrument, withFoundLoop(level, part, name), name), name);
            List<PlannedOutput> outputs = part.item().outputs();
            List<Zone> zones = new ArrayList<>();
            for (int i = 0; i < outputs.size(); i++) {
                Zone moved = moved(given, outputs.get(i), part.first() + i);
                Zone fitted = fitting.fit(outputs.size() == 2 ? moved.with(Parameter.PAN, i == 0 ? -100.0 : 100.0) : moved, name);
                zones.add(task.isLoose() || !task.isSaidBySounds() ? fitted : asSaid(fitted, outputs.get(i)));
            }
            return zones.stream();
        }

        /// As the sound's own chunks have it, which round in their own way.
        private static Zone asSaid(Zone fitted, PlannedOutput output) {
            Zone own = OwnMaps.zone(fitted.sample(), output.metadata());
            for (Parameter<?> parameter : fitted.said())
                if (!IN_CHUNKS.contains(parameter)) own = copied(own, fitted, parameter);
            return own;
        }

        private static <T> Zone copied(Zone to, Zone from, Parameter<T> parameter) { return to.with(parameter, from.get(parameter)); }

        private Zone withRelease(Instrument instrument, Zone zone, Supplier<String> name) {
            Optional<Double> seconds = PlayingDefaults.release(task, instrument, zone);
            if (seconds.isEmpty()) return zone;
            Zone with = zone.with(Parameter.RELEASE, seconds.get());
            released.add(name.get() + ": " + with.told(Parameter.RELEASE));
            releases.merge(String.format(Locale.ROOT, "%s, %.0f ms", PlayingDefaults.kind(instrument), seconds.get() * 1000), 1, Integer::sum);
            return with;
        }

        /// A one-shot where the target has none: nobody waits for its release to end.
        private Zone soundingOn(Zone zone, Supplier<String> name) {
            if (!zone.get(Parameter.ONE_SHOT) || task.isLoose() || task.capabilities().fit(zone).get(Parameter.ONE_SHOT)
                    || !task.capabilities().carries(Parameter.RELEASE))
                return zone;
            oneShots.add(name.get());
            // On the target's own steps, so that it does not move once more.
            double release = task.capabilities().fit(Zone.of(0).with(Parameter.RELEASE, ENDLESS_RELEASE)).get(Parameter.RELEASE);
            return zone.without(Parameter.ONE_SHOT).with(Parameter.RELEASE, release);
        }

        Optional<Change> folded() { return folded.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.FoldsMadeUp(mostFoldedDb, folded)); }

        Optional<Change> oneShots() {
            return oneShots.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new InstrumentChange.OneShotsReleased(oneShots.size(), ENDLESS_RELEASE, task.targetName(), oneShots));
        }

        Optional<Change> released() { return releases.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.ReleasesAdded(releases, released)); }
    }

    private static Optional<Change> about(InstrumentCapabilities can, PlayedSounds played) {
        List<String> lost = Arrays.stream(About.Field.values()).filter(f -> !can.about().contains(f))
                .filter(f -> played.instruments().stream().anyMatch(i -> !f.of(i.instrument().about()).isEmpty())).map(About.Field::label).toList();
        return lost.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.AboutDropped(lost));
    }

    /// Frames as they are in the result.
    private static Zone moved(Zone zone, PlannedOutput output, int place) {
        Zone out = ZoneFrames.moved(zone.withSample(place), output.sourceChain(), output.source().rateHz(), output.shape().frames());
        // What the sound's own chunks keep of the loops was planned with the sound; a file that stays says what it always did.
        return zone.get(Parameter.LOOPS).isEmpty() || output.isVerbatim() ? out : out.with(Parameter.LOOPS, output.metadata().loops());
    }
}
