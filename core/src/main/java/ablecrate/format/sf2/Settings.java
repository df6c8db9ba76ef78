package ablecrate.format.sf2;

import java.util.Map;
import java.util.Optional;

/// The generators of a zone: what its instrument says, and what the preset adds.
record Settings(Map<Integer, Integer> own, Map<Integer, Integer> added) {
    /// The sum, where either says anything.
    /// @param usual what the preset adds to where the instrument says nothing
    Optional<Integer> sum(Generator generator, int usual) {
        Integer absolute = own.get(generator.number()), more = generator.isAdditive() ? added.get(generator.number()) : null;
        if (absolute == null && (more == null || more == 0)) return Optional.empty();
        return Optional.of((absolute == null ? usual : absolute) + (more == null ? 0 : more));
    }

    int or(Generator generator, int usual) { return sum(generator, usual).orElse(usual); }
}
