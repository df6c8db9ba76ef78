package ablecrate.pack;

import ablecrate.codec.SoundFile;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.json.Json;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.lang.reflect.Method;
import java.lang.reflect.RecordComponent;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.zip.CRC32C;

/// What the last run into a folder made its files of, so that a run over the same sounds leaves out what is there, and only that.
final class Recipes {
    private record Made(String recipe, long bytes) {}

    /// What the parts of a record are asked by.
    private static final ClassValue<List<Method>> PARTS = new ClassValue<>() {
        @Override protected List<Method> computeValue(Class<?> type) {
            return Stream.of(type.getRecordComponents()).map(RecordComponent::getAccessor).peek(m -> m.setAccessible(true)).toList();
        }
    };

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
        List<Object> all = new ArrayList<>(List.of(map.formatId(), map.about(), map.instruments(), map.verbatim()));
        List<Integer> played = map.instruments().stream().flatMap(i -> i.zones().stream()).map(Zone::sample).distinct().sorted().toList();
        for (int sound : played) {
            PlannedOutput output = outputs.get(sound);
            all.addAll(List.of(of(output.source(), output), output.path(), output.facts()));
        }
        return sum(all);
    }

    /// The source as it is now, and all that decides about the samples. Facts are not in it: they are read from the file that is there.
    static String of(SoundFile source, PlannedOutput output) throws IOException {
        return sum(List.of(source.path().toAbsolutePath(), source.fileBytes(), Files.getLastModifiedTime(source.path()).toMillis(), output.formatId(),
                source.audio(), output.shape(), output.front(), output.finish(), output.dither()));
    }

    private static String sum(List<Object> parts) {
        StringBuilder text = new StringBuilder();
        spell(parts, text);
        CRC32C crc = new CRC32C();
        crc.update(text.toString().getBytes(StandardCharsets.UTF_8));
        return Long.toHexString(crc.getValue());
    }

    private static void spell(Object value, StringBuilder into) {
        List<?> parts = parts(value);
        if (parts == null)
            into.append(value);
        else
            parts.forEach(p -> spell(p, into));
        into.append(';');
    }

    /// What a value is made of; null where its text says it all. The text of a record would do, but to put it together the virtual machine has to make
    /// classes at every start, which took longer than to plan a small pack; that of a zone rounds.
    private static List<?> parts(Object value) {
        if (value instanceof List<?> list) return list;
        if (value instanceof Optional<?> maybe) return maybe.stream().toList();
        if (value instanceof Zone zone)
            return Stream.concat(Stream.of(zone.sample()), zone.said().stream().flatMap(p -> Stream.of(p.label(), zone.get(p)))).toList();
        if (value instanceof Record made)
            return Stream.concat(Stream.of(made.getClass().getSimpleName()), PARTS.get(made.getClass()).stream().map(p -> part(made, p))).toList();
        return null;
    }

    private static Object part(Record made, Method part) {
        try {
            return part.invoke(made);
        } catch (ReflectiveOperationException e) {
            throw new IllegalStateException(part.toString(), e);
        }
    }
}
