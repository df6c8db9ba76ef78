package ablecrate.relink;

import ablecrate.json.Json;
import ablecrate.pack.Originals;
import ablecrate.session.SessionDocument;
import ablecrate.session.Sessions;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/// A session as it was before it was made whole, from what was put aside for the way back.
/// @param document where it lies now
/// @param files where each of its files lies now if not in its place: what was put aside, and what was offline and has been found
public record FormerSession(Path document, Map<Path, Path> files) {
    public FormerSession {
        files = Map.copyOf(files);
    }

    /// @param repair that has been packed
    /// @return nothing where it changed nothing
    public static Optional<FormerSession> of(SessionRepair repair) throws IOException, Json.JsonFault {
        Path folder = repair.check().folder().toAbsolutePath().normalize();
        if (Sessions.open(folder).equals(repair.check().document())) return Optional.empty();
        Map<Path, Path> kept = Originals.kept(folder), files = new HashMap<>(kept);
        repair.sources().forEach((file, from) -> repair.check().place(file).ifPresent(place -> files.put(place, kept.getOrDefault(from, from))));
        Path document = folder.resolve(SessionDocument.NAME);
        return Optional.of(new FormerSession(kept.getOrDefault(document, document), files));
    }

    public Path at(Path place) { return files.getOrDefault(place, place); }
}
