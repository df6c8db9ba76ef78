package ablecrate.format.sf2;

import java.util.Map;
import java.util.Optional;

/// The generators of a zone: what its instrument says, and what the preset adds.
record Settings(Map<Integer, Integer> own, Map<Integer, Integer> added) {
    /// The sum, where either says anything.
    Optional<Integer> sum(Generator generator) {
        Integer absolute = own.get(generator.number()), more = generator.isAdditive() ? added.get(generator.number()) : null;
        if (absolute == null && (more == null || more == 0)) return Optional.empty();
        return Optional.of((absolute == null ? generator.usual() : absolute) + (more == null ? 0 : more));
    }

    /// The sum, or what holds where nothing is said.
    int get(Generator generator) { return sum(generator).orElse(generator.usual()); }
}
