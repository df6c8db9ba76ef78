package ablecrate.relink;

import ablecrate.json.Json;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;

/// Which file took the place of which, by a packing slip.
/// @param files new paths by old ones; a sound that became several files, or an instrument, is none of them
public record Renames(Map<Path, Path> files) {
    public Renames {
        files = new LinkedHashMap<>(files);
    }

    /// @param folder that was packed into, with its slip
    public static Renames of(Path folder) throws IOException, Json.JsonFault {
        Path root = folder.toAbsolutePath().normalize();
        Map<Path, Path> files = new LinkedHashMap<>();
        for (PackingSlip.Item item : Json.read(root.resolve(Packer.SLIP_JSON), PackingSlip.class).items())
            if (item.outputs().size() == 1 && item.maps().isEmpty())
                files.put(Path.of(item.source()), root.resolve(item.outputs().getFirst().path()).normalize());
        return new Renames(files);
    }
}
