package ablecrate.pack;

import ablecrate.change.ChangeEntry;
import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.disk.Checksums;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Zone;
import ablecrate.json.Json;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
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
import java.util.TreeMap;
import java.util.stream.Stream;
import java.util.zip.CRC32C;

/// What earlier runs left in a folder, as its slip tells: what each file was made of, and what it was like. So a run leaves out what is there, and only that;
/// and it tells what was damaged or changed since.
final class PackedBefore {
    /// What the parts of a record are asked by.
    private static final ClassValue<List<Method>> PARTS = new ClassValue<>() {
        @Override protected List<Method> computeValue(Class<?> type) {
            return Stream.of(type.getRecordComponents()).map(RecordComponent::getAccessor).peek(m -> m.setAccessible(true)).toList();
        }
    };

    private final Optional<PackingSlip> slip;
    private final Map<String, PackingSlip.Written> known = new HashMap<>();

    private PackedBefore(Optional<PackingSlip> slip) {
        this.slip = slip;
        slip.stream().flatMap(s -> s.items().stream()).flatMap(i -> i.files().stream()).forEach(f -> known.put(f.path(), f));
    }

    static PackedBefore nothing() { return new PackedBefore(Optional.empty()); }

    /// @param folder whose slip is read; without one, or with one that cannot be read, nothing is known
    static PackedBefore of(Path folder) throws IOException {
        Path file = folder.resolve(Packer.SLIP_JSON);
        if (!Files.isRegularFile(file)) return nothing();
        try {
            return new PackedBefore(Optional.of(Json.read(file, PackingSlip.class)));
        } catch (Json.JsonFault | RuntimeException e) {
            // Another program's, or an older version's: what is there is compared by rendering it again.
            return nothing();
        }
    }

    Optional<PackingSlip> slip() { return slip; }

    /// What was told of a source when it was packed, and a plan does not know.
    List<ChangeEntry> changes(Path source) {
        String path = source.toString();
        return slip.stream().flatMap(s -> s.items().stream()).filter(i -> i.source().equals(path)).findFirst().map(PackingSlip.Item::changes).orElse(List.of());
    }

    /// The slip's line of a file.
    /// @param kind of line
    <T extends PackingSlip.Written> Optional<T> line(String path, Class<T> kind) {
        return Optional.ofNullable(known.get(path)).filter(kind::isInstance).map(kind::cast);
    }

    /// Whether a file was made of this, in this way.
    boolean isMadeSo(String path, String recipe) { return Optional.ofNullable(known.get(path)).filter(k -> k.recipe().equals(recipe)).isPresent(); }

    /// What a file is by now. Its bytes are read where its size or time are not what the slip holds, and wherever `verifies` asks for it.
    Standing standing(String path, Path file, boolean verifies) throws IOException {
        if (!Files.exists(file)) return Standing.ABSENT;
        PackingSlip.Written was = known.get(path);
        if (was == null) return Standing.STRANGE;
        boolean isSameTime = Files.getLastModifiedTime(file).toMillis() == was.modifiedMillis(), isSameSize = Files.size(file) == was.bytes();
        if (isSameTime && isSameSize && !verifies) return Standing.INTACT;
        if (isSameSize && Checksums.xxh128Hex(file).equals(was.xxh128())) return Standing.INTACT;
        return isSameTime || !(was instanceof PackingSlip.SidecarFile) && !opens(file) ? Standing.DAMAGED : Standing.CHANGED;
    }

    /// Whether a file is a whole sound, or holds whole instruments.
    private static boolean opens(Path file) throws IOException {
        try {
            if (FileKind.of(file) instanceof FileKind.Sound(SoundFormat format)) return isWhole(format.read(file));
            Optional<InstrumentFormat> map = InstrumentFormats.of(file);
            return map.isPresent() && map.get().read(file).problems().stream().noneMatch(PackedBefore::isLoss);
        } catch (FormatException e) {
            return false;
        }
    }

    private static boolean isWhole(SoundFile file) { return file.frames() > 0 && file.problems().stream().noneMatch(PackedBefore::isLoss); }

    private static boolean isLoss(Problem problem) { return problem.effect() == Problem.Effect.LOST; }

    /// Everything that decides about a file of instruments.
    static String recipe(PlannedMap map, List<PlannedOutput> outputs) throws IOException {
        List<Object> all = new ArrayList<>(List.of(map.formatId(), map.about(), map.instruments(), map.verbatim()));
        List<Integer> played = map.instruments().stream().flatMap(i -> i.zones().stream()).map(Zone::sample).distinct().sorted().toList();
        for (int sound : played) {
            PlannedOutput output = outputs.get(sound);
            all.addAll(List.of(recipe(output.source(), output), output.path()));
        }
        return sum(all);
    }

    /// Everything that decides about a small file beside sounds.
    static String recipe(PlannedSidecar sidecar, List<PlannedOutput> outputs) {
        return sum(List.of(sidecar.sidecar(), outputs.stream().map(PlannedOutput::path).toList()));
    }

    /// The source as it is now, and all that decides about the file.
    static String recipe(SoundFile source, PlannedOutput output) throws IOException {
        List<Object> files = new ArrayList<>();
        for (SoundFile file : source.files())
            files.addAll(List.of(file.path().toAbsolutePath(), file.fileBytes(), Files.getLastModifiedTime(file.path()).toMillis()));
        return sum(List.of(files, output.formatId(), source.audio(), output.shape(), output.metadata(), output.sourceChain(), output.outputChain(),
                output.dither(), output.levels().overs(),
                output.chunks()));
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
        // Sorted, as the order of such a map is another in each run.
        if (value instanceof Map<?, ?> map) return new TreeMap<>(map).entrySet().stream().flatMap(e -> Stream.of(e.getKey(), e.getValue())).toList();
        // Which files a sound is made of stands in the recipe, with their times; all else that is in them follows. A slice would say all of its clip again.
        if (value instanceof SoundFile file) return List.of(file.path().getFileName(), file.formatId(), file.rateHz(), file.frames(), file.audio());
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
