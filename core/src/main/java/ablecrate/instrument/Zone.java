package ablecrate.instrument;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/// One sound on a stretch of keys and velocities, with what a player does to it. Immutable.
public final class Zone {
    private final int sample;
    /// By the place of the parameter; null where nothing is said.
    private final Object[] values;

    private Zone(int sample, Object[] values) {
        this.sample = sample;
        this.values = values;
    }

    /// @param sample which of the samples that the instrument's file lists
    public static Zone of(int sample) {
        if (sample < 0) throw new IllegalArgumentException("sample " + sample);
        return new Zone(sample, new Object[Parameter.ALL.size()]);
    }

    public int sample() { return sample; }

    public Zone withSample(int other) { return new Zone(other, values); }

    /// What is said, or the usual value.
    public <T> T get(Parameter<T> parameter) { return said(parameter).orElse(parameter.usual()); }

    /// What is said; empty where nothing is.
    @SuppressWarnings("unchecked") public <T> Optional<T> said(Parameter<T> parameter) { return Optional.ofNullable((T) values[parameter.place()]); }

    /// @throws IllegalArgumentException if the value is out of the parameter's bounds
    public <T> Zone with(Parameter<T> parameter, T value) {
        if (!parameter.allows(value)) throw new IllegalArgumentException(parameter.label() + " of " + parameter.text(value));
        return put(parameter, value);
    }

    /// As if nothing had been said.
    public Zone without(Parameter<?> parameter) { return values[parameter.place()] == null ? this : put(parameter, null); }

    /// As if nothing had been said of a whole area.
    public Zone without(Parameter.Area area) {
        Zone zone = this;
        for (Parameter<?> p : Parameter.ALL)
            if (p.area() == area) zone = zone.without(p);
        return zone;
    }

    private Zone put(Parameter<?> parameter, Object value) {
        Object[] changed = values.clone();
        changed[parameter.place()] = value;
        return new Zone(sample, changed);
    }

    /// The same values from another zone, said or not.
    @SuppressWarnings("unchecked") public Zone with(Collection<Parameter<?>> parameters, Zone from) {
        Zone zone = this;
        for (Parameter<?> p : parameters)
            zone = zone.put(p, from.said((Parameter<Object>) p).orElse(null));
        return zone;
    }

    /// Parameters of which something is said.
    public List<Parameter<?>> said() { return Parameter.ALL.stream().filter(p -> values[p.place()] != null).collect(Collectors.toList()); }

    public boolean covers(int key, int velocity) {
        Span keys = get(Parameter.KEYS), velocities = get(Parameter.VELOCITIES);
        return keys.contains(key) && velocities.contains(velocity);
    }

    /// Whether a player does the same with both: silence and the usual value are one.
    public boolean playsAs(Zone other) { return sample == other.sample && differences(other).isEmpty(); }

    /// Parameters whose values differ, said or usual.
    public List<Parameter<?>> differences(Zone other) {
        List<Parameter<?>> out = new ArrayList<>();
        for (Parameter<?> p : Parameter.ALL)
            if (!get(p).equals(other.get(p))) out.add(p);
        return out;
    }

    @Override public boolean equals(Object other) { return other instanceof Zone z && sample == z.sample && Arrays.equals(values, z.values); }

    @Override public int hashCode() { return 31 * sample + Arrays.hashCode(values); }

    @Override public String toString() {
        StringBuilder out = new StringBuilder("sample ").append(sample);
        for (Parameter<?> p : said())
            out.append(", ").append(told(p));
        return out.toString();
    }

    /// `decay 1.200 s`
    public <T> String told(Parameter<T> parameter) { return parameter.label() + " " + parameter.text(get(parameter)); }
}
