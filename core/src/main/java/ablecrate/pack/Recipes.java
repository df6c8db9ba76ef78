package ablecrate.pack;

import ablecrate.codec.SoundFile;
import ablecrate.instrument.Zone;
import ablecrate.json.Json;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.CRC32C;

/// What the last run into a folder made its files of, so that a run over the same sounds leaves out what is there, and only that.
final class Recipes {
    private record Made(String recipe, long bytes) {}

    private final Map<String, Made> made = new HashMap<>();

    /// @param folder whose slip is read; without one, or with one that cannot be read, nothing is known
    static Recipes of(Path folder) throws IOException {
        Recipes recipes = new Recipes();
        Path slip = folder.resolve(Packer.SLIP_JSON);
        if (Files.isRegularFile(slip))
            try {
                for (PackingSlip.Item item : Json.read(slip, PackingSlip.class).items()) {
                    for (PackingSlip.Output output : item.outputs())
                        recipes.made.put(output.path(), new Made(output.recipe(), output.bytes()));
                    for (PackingSlip.MapFile map : item.maps())
                        recipes.made.put(map.path(), new Made(map.recipe(), map.bytes()));
                }
            } catch (Json.JsonFault e) {
                // Another program's, or an older version's: what is there is compared by rendering it again.
            }
        return recipes;
    }

    /// Whether a file that is there was made of this, in this way.
    boolean isMade(String shownPath, Path file, String recipe) throws IOException {
        Made known = made.get(shownPath);
        return known != null && known.recipe().equals(recipe) && known.bytes() == Files.size(file);
    }

    /// Everything that decides about a file of instruments.
    static String of(PlannedMap map, List<PlannedOutput> outputs) throws IOException {
        StringBuilder all = new StringBuilder().append(map.formatId()).append(map.about()).append(map.instruments()).append(map.verbatim());
        List<Integer> played = map.instruments().stream().flatMap(i -> i.zones().stream()).map(Zone::sample).distinct().sorted().toList();
        for (int sound : played) {
            PlannedOutput output = outputs.get(sound);
            all.append(of(output.source(), output)).append(output.path()).append(output.facts());
        }
        CRC32C crc = new CRC32C();
        crc.update(all.toString().getBytes(StandardCharsets.UTF_8));
        return Long.toHexString(crc.getValue());
    }

    /// The source as it is now, and all that decides about the samples. Facts are not in it: they are read from the file that is there.
    static String of(SoundFile source, PlannedOutput output) throws IOException {
        CRC32C crc = new CRC32C();
        String all = source.path().toAbsolutePath() + " " + source.fileBytes() + " " + Files.getLastModifiedTime(source.path()).toMillis() + " "
                + output.formatId() + " " + source.audio() + " "
                + output.shape() + " " + output.front() + " " + output.finish() + " " + output.dither();
        crc.update(all.getBytes(StandardCharsets.UTF_8));
        return Long.toHexString(crc.getValue());
    }
}
