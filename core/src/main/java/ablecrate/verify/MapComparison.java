package ablecrate.verify;

import ablecrate.change.Told;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameSource;
import ablecrate.audio.SampleSum;
import ablecrate.disk.Checksums;
import ablecrate.fit.FitClaim;
import ablecrate.fit.Harm;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import java.util.function.BooleanSupplier;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/// Reads a written file of instruments again, as another program would, with all sounds that are in it, and compares it with what was planned and rendered.
public final class MapComparison {
    /// Relative, of numbers of 1 and more; of smaller ones absolute.
    private static final double SAME = 1e-9;
    private static final int BLOCK = 8192;

    private final PlannedMap map;
    private final List<PlannedOutput> outputs;
    private final Map<Integer, Rendered> rendered;
    private final List<Outcome> outcomes = new ArrayList<>();

    /// What a file of instruments was made of.
    /// @param crc32c of the bytes that were handed to the disk
    /// @param rendered the sounds in it, by their places among the outputs; none where they are files beside it, which are checked by themselves
    public record Made(long crc32c, Map<Integer, Rendered> rendered) {}

    private MapComparison(PlannedMap map, List<PlannedOutput> outputs, Map<Integer, Rendered> rendered) {
        this.map = map;
        this.outputs = outputs;
        this.rendered = rendered;
    }

    /// @param lies where sounds beside the map lie as long as they have no names of their own
    /// @param stopped asked now and then
    /// @return empty if it was stopped
    public static Optional<List<Outcome>> of(Path file, PlannedMap map, List<PlannedOutput> outputs, Made made, UnaryOperator<Path> lies,
            BooleanSupplier stopped) throws IOException {
        MapComparison comparison = new MapComparison(map, outputs, made.rendered());
        long crc32c = Checksums.crc32c(file);
        comparison.check(Check.BYTES, crc32c == made.crc32c(), "as written", "the bytes that were written", "others");
        try {
            InstrumentFile read = map.format().read(file, lies);
            comparison.check(Check.OPENS, true, Told.count(read.instruments().size(), "instrument") + ", " + Told.count(read.zoneCount(), "zone"), "", "");
            // A copy is its source's bytes; a file that is written anew is one of ours.
            if (map.verbatim().isPresent()) return Optional.of(comparison.outcomes);
            comparison.instruments(read);
            if (!comparison.sounds(read, stopped) || !comparison.differences(read, stopped)) return Optional.empty();
        } catch (FormatException e) {
            comparison.check(Check.OPENS, false, "", "instruments", e.getMessage());
        }
        return Optional.of(comparison.outcomes);
    }

    private void check(Check check, boolean holds, String held, String wanted, String found) {
        outcomes.add(holds ? new Outcome.Held(check, held) : new Outcome.Failed(check, wanted, found));
    }

    private void instruments(InstrumentFile read) {
        // Banks list their instruments by number, which may be another order.
        List<Instrument> wanted = map.instruments(), found = read.instruments();
        if (found.size() != wanted.size()) {
            check(Check.MAP, false, "", Told.count(wanted.size(), "instrument"), Integer.toString(found.size()));
            return;
        }
        Map<Optional<Instrument.Program>, Instrument> byProgram = found.stream().collect(Collectors.toMap(Instrument::program, i -> i, (a, _) -> a));
        for (int i = 0; i < wanted.size(); i++) {
            Instrument w = wanted.get(i);
            Optional<Outcome.Failed> fault = difference(read, byProgram.getOrDefault(w.program(), found.get(i)), w);
            if (fault.isPresent()) {
                outcomes.add(fault.get());
                return;
            }
        }
        check(Check.MAP, true, wanted.stream().mapToInt(i -> i.zones().size()).sum() + " zones as planned", "", "");
    }

    private static Optional<Outcome.Failed> fault(Instrument wanted, String expected, String found) {
        return Optional.of(new Outcome.Failed(Check.MAP, "'" + wanted.name() + "' with " + expected, found));
    }

    private Optional<Outcome.Failed> difference(InstrumentFile file, Instrument read, Instrument wanted) {
        if (!read.playing().equals(wanted.playing()))
            return fault(wanted, String.join(", ", wanted.playing().told()), String.join(", ", read.playing().told()));
        List<Zone> zones = read.zones(), planned = wanted.zones();
        if (zones.size() != planned.size()) return fault(wanted, planned.size() + " zones", Integer.toString(zones.size()));
        for (int i = 0; i < zones.size(); i++) {
            Zone zone = zones.get(i), other = planned.get(i);
            OutputShape shape = outputs.get(other.sample()).shape();
            Optional<SoundFile> sound = file.sound(zone.sample());
            if (sound.isEmpty() || sound.get().frames() != shape.frames() || sound.get().rateHz() != shape.rateHz()
                    || sound.get().channels() != shape.channels())
                return fault(wanted, "its sound in zone " + (i + 1), "another, or none");
            Optional<Parameter<?>> different = zone.differences(other).stream().filter(p -> !isNear(p, zone, other)).findFirst();
            if (different.isPresent()) return fault(wanted, other.told(different.get()) + " in zone " + (i + 1), zone.told(different.get()));
        }
        return Optional.empty();
    }

    private static <T> boolean isNear(Parameter<T> p, Zone a, Zone b) {
        double apart = p == Parameter.TUNING ? MetadataDifferences.SAME_CENTS : SAME;
        return a.get(p) instanceof Double x && b.get(p) instanceof Double y && Math.abs(x - y) <= apart * Math.max(1, Math.abs(y));
    }

    /// @return false if it was stopped
    private boolean sounds(InstrumentFile read, BooleanSupplier stopped) throws IOException {
        if (rendered.isEmpty() || outcomes.stream().anyMatch(Outcome.Failed.class::isInstance)) return true;
        Map<Integer, Integer> placeOf = new TreeMap<>();
        Map<Optional<Instrument.Program>, Instrument> byProgram = read.instruments().stream()
                .collect(Collectors.toMap(Instrument::program, i -> i, (a, _) -> a));
        for (int i = 0; i < map.instruments().size(); i++) {
            Instrument wanted = map.instruments().get(i), found = byProgram.getOrDefault(wanted.program(), read.instruments().get(i));
            for (int z = 0; z < wanted.zones().size(); z++)
                placeOf.put(wanted.zones().get(z).sample(), found.zones().get(z).sample());
        }
        Map<Integer, SampleSum.Value> known = new HashMap<>();
        for (Map.Entry<Integer, Integer> place : placeOf.entrySet()) {
            Rendered wanted = rendered.get(place.getKey());
            SoundFile sound = read.sound(place.getValue()).orElseThrow();
            if (!known.containsKey(place.getValue())) {
                Optional<SampleSum.Value> sum = sum(sound, outputs.get(place.getKey()).shape().depth(), stopped);
                if (sum.isEmpty()) return false;
                known.put(place.getValue(), sum.get());
            }
            if (!known.get(place.getValue()).equals(wanted.samples())) {
                check(Check.AUDIO, false, "", "'" + outputs.get(place.getKey()).path() + "' as it was rendered", "other samples");
                return true;
            }
        }
        check(Check.AUDIO, true, "all samples of " + placeOf.size() + " sounds as rendered", "", "");
        rendered.forEach((place, r) -> promises(outputs.get(place), r));
        return true;
    }

    /// How different fitted instruments sound, played from what was written.
    /// @return false if it was stopped
    private boolean differences(InstrumentFile read, BooleanSupplier stopped) throws IOException {
        if (map.fitted().isEmpty() || outcomes.stream().anyMatch(Outcome.Failed.class::isInstance)) return true;
        double foretold = 0, found = 0, inAll = 0, worst = -1;
        boolean isAll = true;
        String worstNote = "";
        for (Map.Entry<Integer, FitClaim> fitted : map.fitted().entrySet()) {
            if (stopped.getAsBoolean()) return false;
            Instrument written = found(read, fitted.getKey());
            Harm harm = fitted.getValue().measured(written, read::sound);
            Optional<Harm> withSettings = fitted.getValue().measuredInAll(written, read::sound);
            isAll &= withSettings.isEmpty();
            inAll += withSettings.orElse(harm).meanDb() / map.fitted().size();
            foretold += fitted.getValue().foretold().meanDb() / map.fitted().size();
            found += harm.meanDb() / map.fitted().size();
            if (harm.worstDb() > worst) {
                worst = harm.worstDb();
                worstNote = NoteName.of(harm.worstKey()) + (map.fitted().size() > 1 ? " of '" + fitted.getValue().source().name() + "'" : "");
            }
        }
        outcomes.add(FitComparison.outcome(foretold, found, worst, worstNote, isAll ? OptionalDouble.empty() : OptionalDouble.of(inAll)));
        return true;
    }

    private Instrument found(InstrumentFile read, int place) {
        Optional<Instrument.Program> program = map.instruments().get(place).program();
        return read.instruments().stream().filter(i -> program.isPresent() && i.program().equals(program)).findFirst()
                .orElseGet(() -> read.instruments().get(place));
    }

    /// What is missed of what was asked for, in the sounds of a bank; what is held would be a line each.
    private void promises(PlannedOutput output, Rendered sound) {
        for (Outcome outcome : Comparison.promises(output, sound))
            if (!(outcome instanceof Outcome.Held)) outcomes.add(named(output.path(), outcome));
    }

    private static Outcome named(String name, Outcome outcome) {
        return switch (outcome) {
            case Outcome.Missed m -> new Outcome.Missed(m.check(), m.asked(), m.reached(), m.unit(), "'" + name + "': " + m.text());
            case Outcome.Failed f -> new Outcome.Failed(f.check(), "'" + name + "': " + f.expected(), f.found());
            case Outcome.Held h -> h;
        };
    }

    private static Optional<SampleSum.Value> sum(SoundFile sound, Depth depth, BooleanSupplier stopped) throws IOException {
        SampleSum sum = new SampleSum(sound.channels(), depth);
        try (FrameSource audio = sound.open()) {
            double[][] block = new double[sound.channels()][BLOCK];
            for (int got; (got = audio.read(block, 0, BLOCK)) > 0;) {
                if (stopped.getAsBoolean()) return Optional.empty();
                sum.add(block, got);
            }
        }
        return Optional.of(sum.value());
    }
}
