package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.change.Told;
import ablecrate.destination.DeviceLimits;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.instrument.FadeCurve;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Turn;
import ablecrate.instrument.TurnsLeft;
import ablecrate.instrument.TurnsLeft.Place;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/// Zones for a target that cannot choose between them or blend them: what would otherwise sound all at once.
///
/// Of a round robin the first turns stay, unless a fit picks them; of a random choice the first share; what sounds when a key is let go stays only where the target knows
/// of that; fades into each other become strict ranges that meet at their middle. Keys and turns that a device does not play go. All of it is counted.
final class PlainZones {
    private final String target;
    private final InstrumentCapabilities can;
    private final IntFunction<String> sampleNames;
    private final DeviceLimits.Playing plays;
    private final boolean keepsTurns;
    private final List<String> turns = new ArrayList<>(), laterTurns = new ArrayList<>(), chances = new ArrayList<>(), triggers = new ArrayList<>(),
            fades = new ArrayList<>(), outside = new ArrayList<>(), cut = new ArrayList<>();

    /// @param sampleNames by their numbers
    /// @param plays which notes the device plays
    /// @param keepsTurns whether all turns stay for a fit to choose from
    PlainZones(String target, InstrumentCapabilities can, DeviceLimits.Playing plays, boolean keepsTurns, IntFunction<String> sampleNames) {
        this.target = target;
        this.sampleNames = sampleNames;
        this.can = can;
        this.plays = plays;
        this.keepsTurns = keepsTurns;
    }

    /// @param firstShares of a random choice on each place, where the share begins that stays
    private record Choices(TurnsLeft turns, Map<Place, Double> firstShares) {}

    Instrument of(Instrument instrument) {
        TurnsLeft left = new TurnsLeft(instrument, mostTurns());
        Choices choices = new Choices(left, instrument.zones().stream().filter(z -> left.of(z).isPresent())
                .collect(Collectors.toMap(Place::of, z -> z.get(Parameter.CHANCE).low(), Math::min)));
        return instrument.mapZones(z -> plain(z, choices, () -> Told.zone(instrument.name(), z, sampleNames.apply(z.sample()))).stream().toList());
    }

    private Optional<Zone> plain(Zone zone, Choices choices, Supplier<String> name) {
        Optional<Zone> turned = choices.turns.of(zone);
        if (turned.isEmpty()) {
            (can.carries(Parameter.TURN) ? laterTurns : turns).add(name.get() + ": turn " + zone.get(Parameter.TURN));
            return turned;
        }
        Zone out = turned.get();
        if (!can.carries(Parameter.CHANCE)) {
            if (zone.get(Parameter.CHANCE).low() > choices.firstShares.get(Place.of(zone))) {
                chances.add(name.get() + ": " + zone.get(Parameter.CHANCE));
                return Optional.empty();
            }
            out = out.without(Parameter.CHANCE);
        }
        if (!can.carries(Parameter.TRIGGER)) {
            if (zone.get(Parameter.TRIGGER) == Trigger.RELEASE || zone.get(Parameter.TRIGGER) == Trigger.LEGATO) {
                triggers.add(name.get() + ": " + zone.told(Parameter.TRIGGER));
                return Optional.empty();
            }
            out = out.without(Parameter.TRIGGER);
        }
        out = split(out, name, Parameter.VELOCITIES, Parameter.VELOCITY_FADE_IN, Parameter.VELOCITY_FADE_OUT, Parameter.VELOCITY_FADE_CURVE);
        return within(split(out, name, Parameter.KEYS, Parameter.KEY_FADE_IN, Parameter.KEY_FADE_OUT, Parameter.KEY_FADE_CURVE), name);
    }

    private int mostTurns() {
        if (keepsTurns) return Turn.MOST;
        if (!can.carries(Parameter.TURN)) return 1;
        return plays.turns() == 0 ? Turn.MOST : plays.turns();
    }

    /// On the keys that sound.
    private Optional<Zone> within(Zone zone, Supplier<String> name) {
        Span keys = zone.get(Parameter.KEYS), all = plays.span();
        if (!keys.overlaps(all)) {
            outside.add(name.get());
            return Optional.empty();
        }
        Span left = new Span(Math.max(keys.low(), all.low()), Math.min(keys.high(), all.high()));
        if (left.equals(keys)) return Optional.of(zone);
        cut.add(name.get());
        return Optional.of(zone.with(Parameter.KEYS, left));
    }

    private Zone split(Zone zone, Supplier<String> name, Parameter<Span> range, Parameter<Optional<Span>> in, Parameter<Optional<Span>> out,
            Parameter<FadeCurve> curve) {
        if (can.carries(in) || zone.get(in).isEmpty() && zone.get(out).isEmpty()) return zone;
        Span span = zone.get(range);
        int low = Math.max(span.low(), zone.get(in).map(f -> (f.low() + f.high()) / 2 + 1).orElse(span.low()));
        int high = Math.min(span.high(), zone.get(out).map(f -> (f.low() + f.high()) / 2).orElse(span.high()));
        // A zone that fades in and out over the same notes keeps the one in their middle.
        Span strict = low <= high ? new Span(low, high) : new Span(Math.clamp(high, span.low(), span.high()), Math.clamp(high, span.low(), span.high()));
        fades.add(name.get() + ": " + range.label() + " " + range.text(strict));
        return zone.with(range, strict).without(in).without(out).without(curve);
    }

    List<Change> changes() {
        List<Change> changes = new ArrayList<>();
        if (!turns.isEmpty()) changes.add(new InstrumentChange.ZonesUnchosen("later turns of round robins", target, turns));
        if (!chances.isEmpty()) changes.add(new InstrumentChange.ZonesUnchosen("further choices at random", target, chances));
        if (!triggers.isEmpty())
            changes.add(new InstrumentChange.ZonesUnchosen("sounds for when a key is let go, or for notes that follow each other", target, triggers));
        if (!fades.isEmpty()) changes.add(new InstrumentChange.CrossfadesSplit(target, fades));
        if (!laterTurns.isEmpty())
            changes.add(new InstrumentChange.ZonesBeyond("turns of round robins beyond the " + plays.turns() + " that the destination plays", laterTurns));
        if (!outside.isEmpty() || !cut.isEmpty()) changes.add(new InstrumentChange.KeysBeyond(plays.span(), outside, cut));
        return changes;
    }
}
