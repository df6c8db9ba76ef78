package ablecrate.format;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;
import ablecrate.instrument.About;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.Arrays;
import java.util.Collections;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/// What an instrument format carries. The planner derives every verdict from this and the instrument; the table "what survives where"
/// is printed from it, and the tests hold readers and writers to it.
/// @param carried parameters that are kept, and how finely; all others are lost
/// @param together what holds between parameters of a zone, once each is on its steps
/// @param about texts that are kept
/// @param names whether groups keep theirs
/// @param sounds of the sounds inside, where the format holds them
/// @param manyInstruments whether one file can hold several
public record InstrumentCapabilities(Map<Parameter<?>, Precision<?>> carried, UnaryOperator<Zone> together, Set<About.Field> about, boolean names,
        Optional<Capabilities> sounds, boolean manyInstruments) {
    public InstrumentCapabilities {
        carried = Collections.unmodifiableMap(new LinkedHashMap<>(carried));
        about = Collections.unmodifiableSet(about.isEmpty() ? EnumSet.noneOf(About.Field.class) : EnumSet.copyOf(about));
    }

    public boolean carries(Parameter<?> parameter) { return carried.containsKey(parameter); }

    /// The same where less is carried.
    public InstrumentCapabilities without(Set<Parameter<?>> parameters) {
        if (parameters.isEmpty()) return this;
        Map<Parameter<?>, Precision<?>> left = new LinkedHashMap<>(carried);
        left.keySet().removeAll(parameters);
        return new InstrumentCapabilities(left, together, about, names, sounds, manyInstruments);
    }

    /// The same where these are carried as they are, too.
    public InstrumentCapabilities withExactly(Parameter<?>... parameters) {
        Map<Parameter<?>, Precision<?>> more = new LinkedHashMap<>(carried);
        more.putAll(new Builder().exactly(parameters).map());
        return new InstrumentCapabilities(more, together, about, names, sounds, manyInstruments);
    }

    public InstrumentCapabilities withTogether(UnaryOperator<Zone> rules) {
        return new InstrumentCapabilities(carried, rules, about, names, sounds, manyInstruments);
    }

    /// For people; empty where the parameter is lost.
    public String how(Parameter<?> parameter) { return carries(parameter) ? carried.get(parameter).how() : ""; }

    /// The zone that comes back when this one is written and read.
    public Zone fit(Zone zone) {
        Zone fitted = zone;
        for (Parameter<?> parameter : zone.said())
            fitted = fit(fitted, parameter);
        return together.apply(fitted);
    }

    @SuppressWarnings("unchecked") private <T> Zone fit(Zone zone, Parameter<T> parameter) {
        Precision<T> how = (Precision<T>) carried.get(parameter);
        return how == null ? zone.without(parameter) : zone.with(parameter, how.step().apply(zone.get(parameter)));
    }

    /// In which loops come back as they are.
    public Set<LoopMode> loopModes() {
        return Arrays.stream(LoopMode.values()).filter(m -> {
            List<Loop> loop = List.of(Loop.sustain(new FrameRange(0, 2), m));
            return fit(Zone.of(0).with(Parameter.LOOPS, loop)).get(Parameter.LOOPS).equals(loop);
        }).collect(Collectors.toSet());
    }

    /// What is left of the texts.
    public About fit(About whole) {
        About fitted = whole;
        for (About.Field field : About.Field.values())
            if (!about.contains(field)) fitted = fitted.with(field, "");
        return fitted;
    }

    /// Collects what a format carries.
    public static final class Builder {
        private final Map<Parameter<?>, Precision<?>> carried = new LinkedHashMap<>();

        public Builder exactly(Parameter<?>... parameters) {
            for (Parameter<?> p : parameters)
                carried.put(p, Precision.exactly());
            return this;
        }

        public <T> Builder with(Parameter<T> parameter, Precision<T> how) {
            carried.put(parameter, how);
            return this;
        }

        @SafeVarargs public final <T> Builder with(Precision<T> how, Parameter<T>... parameters) {
            for (Parameter<T> p : parameters)
                carried.put(p, how);
            return this;
        }

        public Map<Parameter<?>, Precision<?>> map() { return carried; }
    }
}
