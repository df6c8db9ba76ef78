package ablecrate.plan;

import ablecrate.session.SessionDocument;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// What a folder that is packed into holds already, as far as it decides where new results go.
/// @param kits numbers of kits that are there
/// @param session where it is a recording session
/// @param places where the results of a source lie, one an output, at destinations that number their folders
/// @param files bytes of the files that are there, by their paths below it, at destinations whose cards have limits
public record Card(Set<Integer> kits, Map<Path, List<Place>> places, Optional<Session> session, Map<String, Long> files) {
    public static final Card EMPTY = new Card(Set.of(), Map.of(), Optional.empty(), Map.of());

    /// @param kit number of the folder
    /// @param name of the kit, as far as it can be told from its folder's name; empty if it cannot
    /// @param pad number in the folder; 0 where names do not tell it
    public record Place(int kit, String name, int pad) {}

    /// A recording session that is there.
    /// @param earlier paths of what was made of a source before, below the folder
    /// @param sidecars paths of what was made beside them
    /// @param files paths of all files in it
    public record Session(SessionDocument document, Map<Path, List<String>> earlier, Map<Path, List<String>> sidecars, Set<String> files) {
        public Session {
            earlier = Map.copyOf(earlier);
            sidecars = Map.copyOf(sidecars);
            files = Set.copyOf(files);
        }
    }

    public Card {
        files = Map.copyOf(files);
        kits = Set.copyOf(kits);
        places = Map.copyOf(places);
    }

    public Card withFiles(Map<String, Long> there) { return new Card(kits, places, session, there); }

    public int highest() { return kits.stream().max(Integer::compare).orElse(0); }
}
