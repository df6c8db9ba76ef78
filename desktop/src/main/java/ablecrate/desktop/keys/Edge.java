package ablecrate.desktop.keys;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;

/// One edge of a zone.
public enum Edge {
    LOW_KEY(Parameter.KEYS, Parameter.VELOCITIES, true), HIGH_KEY(Parameter.KEYS, Parameter.VELOCITIES, false),
    LOW_VELOCITY(Parameter.VELOCITIES, Parameter.KEYS, true), HIGH_VELOCITY(Parameter.VELOCITIES, Parameter.KEYS, false);

    private final Parameter<Span> along, across;
    private final boolean isLow;

    Edge(Parameter<Span> along, Parameter<Span> across, boolean isLow) {
        this.along = along;
        this.across = across;
        this.isLow = isLow;
    }

    Edge opposite() {
        return switch (this) {
            case LOW_KEY -> HIGH_KEY;
            case HIGH_KEY -> LOW_KEY;
            case LOW_VELOCITY -> HIGH_VELOCITY;
            case HIGH_VELOCITY -> LOW_VELOCITY;
        };
    }

    /// A zone with this edge elsewhere, as far as it goes.
    Zone moved(Zone zone, int by) {
        Span span = zone.get(along);
        return zone.with(along,
                isLow
                        ? new Span(Math.clamp(span.low() + by, along.usual().low(), span.high()), span.high())
                        : new Span(span.low(), Math.clamp(span.high() + by, span.low(), along.usual().high())));
    }

    /// Whether another zone begins where this edge of one is.
    boolean touches(Zone zone, Zone other) {
        Span mine = zone.get(along), theirs = other.get(along);
        boolean meets = isLow ? theirs.high() == mine.low() - 1 : theirs.low() == mine.high() + 1;
        return meets && zone.get(across).overlaps(other.get(across));
    }
}
