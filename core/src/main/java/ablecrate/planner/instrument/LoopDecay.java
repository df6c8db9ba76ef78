package ablecrate.planner.instrument;

import ablecrate.detect.FoundLoop;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.List;

/// The envelope of a zone that plays a loop which was found: where the sound died away by itself, the note goes on to do so (common practice).
final class LoopDecay {
    private static final double SILENT_DB = -100;
    private static final List<Parameter<Double>> SET = List.of(Parameter.HOLD, Parameter.DECAY, Parameter.SUSTAIN);

    private LoopDecay() {}

    /// Whether a note would go on louder than its sound did.
    static boolean isWanted(Zone zone, FoundLoop loop) { return loop.fallDbPerSecond() != 0 && zone.get(Parameter.SUSTAIN) == 0; }

    /// Whether a format can say it.
    static boolean isSaid(InstrumentCapabilities can) { return SET.stream().allMatch(can::carries); }

    /// From where the sound is even, or repeats itself, the level falls as the sound did on the zone's middle key: sounds that play faster die away sooner.
    /// A zone whose level falls already, and one whose format cannot say it, stay as they are.
    /// @param rateHz of the sound
    static Zone of(Zone zone, FoundLoop loop, int rateHz, InstrumentCapabilities can) {
        if (!isWanted(zone, loop) || !isSaid(can)) return zone;
        Span keys = zone.get(Parameter.KEYS);
        double middle = (keys.low() + keys.high()) / 2.0,
                cents = zone.get(Parameter.TUNING) + (middle - zone.get(Parameter.ROOT_KEY)) * zone.get(Parameter.KEY_TRACKING),
                speed = Math.pow(2, cents / 1200);
        // A sound that is raised within its loop is even from its start on; others fall until they come to its end.
        long from = loop.riseDb() > 0 ? loop.frames().start() : loop.frames().end();
        double seconds = Math.max(0, from - zone.get(Parameter.START)) / (rateHz * speed);
        // On the format's own steps, so that they do not move once more.
        Zone silent = can.fit(Zone.of(zone.sample()).with(Parameter.SUSTAIN, SILENT_DB)),
                set = can.fit(silent.with(Parameter.HOLD, Math.max(0, seconds - zone.get(Parameter.ATTACK)))
                        .with(Parameter.DECAY, -silent.get(Parameter.SUSTAIN) / (loop.fallDbPerSecond() * speed)));
        return like(zone, set);
    }

    /// As it was before.
    /// @param source in which the same sample is played
    static Zone without(Zone zone, Instrument source) {
        List<Zone> played = source.zones().stream().filter(z -> z.sample() == zone.sample()).toList();
        boolean isItsOwn = played.stream().anyMatch(z -> SET.stream().allMatch(p -> z.get(p).equals(zone.get(p))));
        return isItsOwn ? zone : played.stream().filter(z -> z.get(Parameter.SUSTAIN) == 0).findFirst().map(z -> like(zone, z)).orElse(zone);
    }

    /// With what another zone says of it.
    private static Zone like(Zone zone, Zone other) {
        Zone out = zone;
        for (Parameter<Double> p : SET)
            out = other.said(p).isPresent() ? out.with(p, other.get(p)) : out.without(p);
        return out;
    }
}
