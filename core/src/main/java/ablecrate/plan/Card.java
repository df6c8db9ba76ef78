package ablecrate.plan;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;

/// What a folder that is packed into holds already, as far as it decides where new results go.
/// @param kits numbers of kits that are there
/// @param places where the results of a source lie, one an output, at destinations that number their folders
public record Card(Set<Integer> kits, Map<Path, List<Place>> places) {
    public static final Card EMPTY = new Card(Set.of(), Map.of());

    /// @param kit number of the folder
    /// @param name of the kit, as far as it can be told from its folder's name; empty if it cannot
    /// @param pad number in the folder; 0 where names do not tell it
    public record Place(int kit, String name, int pad) {}

    public Card {
        kits = Set.copyOf(kits);
        places = Map.copyOf(places);
    }

    public int highest() { return kits.stream().max(Integer::compare).orElse(0); }
}
