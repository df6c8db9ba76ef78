package ablecrate.planner.instrument;

import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;

/// What of a zone is heard: settings of something that does nothing by itself are as if nothing had been said, so that losing them is no loss.
final class Heard {
    private Heard() {}

    static Zone of(Zone zone) {
        Zone out = zone;
        if (out.get(Parameter.VIBRATO_DEPTH) == 0 && out.get(Parameter.VIBRATO_WHEEL) == 0 && out.get(Parameter.VIBRATO_PRESSURE) == 0)
            out = without(out, Parameter.VIBRATO_RATE, Parameter.VIBRATO_DELAY);
        if (out.get(Parameter.FILTER_ENVELOPE) == 0)
            out = without(out, Parameter.FILTER_ATTACK, Parameter.FILTER_HOLD, Parameter.FILTER_DECAY, Parameter.FILTER_SUSTAIN, Parameter.FILTER_RELEASE);
        if (out.get(Parameter.FILTER) == FilterKind.NONE) out = out.without(Parameter.Area.FILTER);
        // A level that stays where it is neither waits nor falls.
        if (out.get(Parameter.SUSTAIN) == 0) out = without(out, Parameter.HOLD, Parameter.DECAY);
        if (out.get(Parameter.ONE_SHOT)) out = without(out, Parameter.RELEASE);
        if (out.said(Parameter.EXTRAS).isPresent()) out = out.with(Parameter.EXTRAS, out.get(Parameter.EXTRAS).missed());
        boolean isOneKey = out.get(Parameter.KEYS).low() == out.get(Parameter.KEYS).high() && out.get(Parameter.KEYS).low() == out.get(Parameter.ROOT_KEY);
        return isOneKey ? without(out, Parameter.KEY_TRACKING) : out;
    }

    private static Zone without(Zone zone, Parameter<?>... parameters) {
        Zone out = zone;
        for (Parameter<?> p : parameters)
            out = out.without(p);
        return out;
    }
}
