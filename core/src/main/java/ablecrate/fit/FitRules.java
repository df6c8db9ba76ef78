package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.Set;
import java.util.function.Predicate;

/// What fitting must not do.
/// @param forbidden steps that are not taken
/// @param roots keys whose own sounds stay
/// @param velocities whose layers stay
public record FitRules(Set<FitStep.Kind> forbidden, Set<Integer> roots, Set<Integer> velocities) {
    public static final FitRules NONE = new FitRules(Set.of(), Set.of(), Set.of());

    public FitRules {
        forbidden = Set.copyOf(forbidden);
        roots = Set.copyOf(roots);
        velocities = Set.copyOf(velocities);
    }

    public static FitRules without(Set<FitStep.Kind> steps) { return new FitRules(steps, Set.of(), Set.of()); }

    boolean keepsLayer(Span layer) { return velocities.stream().anyMatch(layer::contains); }

    /// Whether what has to stay is played where it was: on a root its own sounds and no neighbour's, at a velocity its own layer.
    boolean hold(Instrument before, Instrument after) {
        return roots.stream().allMatch(key -> isOwn(before, after, z -> z.get(Parameter.KEYS).contains(key)))
                && velocities.stream().allMatch(v -> isOwn(before, after, z -> z.get(Parameter.VELOCITIES).contains(v)));
    }

    /// Whether what sounds in a place is some of what sounded there; silence is none of it.
    private static boolean isOwn(Instrument before, Instrument after, Predicate<Zone> place) {
        return before.zones().stream().anyMatch(place) == after.zones().stream().anyMatch(place)
                && after.zones().stream().filter(place).allMatch(z -> before.zones().stream().anyMatch(b -> b.sample() == z.sample() && place.test(b)));
    }
}
