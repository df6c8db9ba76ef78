package ablecrate.planner.place;

import ablecrate.change.CardChange;
import ablecrate.change.FileChange;
import ablecrate.change.PartChange;
import ablecrate.change.Property;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WrittenFormat;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern.Word;
import ablecrate.destination.NamePattern;
import ablecrate.destination.NameRules;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.library.Gathered;
import ablecrate.library.Stated;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.Card;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;

/// Gives every output its folder and its name: by the destination's layout, in its alphabet and length, each once.
public final class Placement {
    private final DestinationSheet sheet;
    private final NamePattern namePattern, folderPattern;
    /// Folders that names sort into.
    private final List<NamePattern> sorting;
    private final NameRules rules;
    private final boolean mirror;
    /// Names in use in each folder.
    private final Map<String, NameRules.Taken> taken = new HashMap<>();
    private final Map<Path, String> mirrored = new HashMap<>();
    private final KitPlaces kits;
    private final Map<String, Integer> counts = new HashMap<>();
    private final Optional<Card.Session> session;
    private int number, outputs;

    public Placement(DestinationSheet sheet, PackOptions options, Card card) throws OptionConflict {
        this.sheet = sheet;
        try {
            String begin = sheet.names().begin(), chosen = options.namePattern().orElse(sheet.names().pattern());
            NamePattern whole = NamePattern.parse(chosen.startsWith(begin) && chosen.length() > begin.length() ? chosen.substring(begin.length()) : chosen);
            List<NamePattern> levels = sheet.layout().folder().isEmpty() && !sheet.layout().oneFolder() ? whole.levels() : List.of(whole);
            sorting = levels.subList(0, levels.size() - 1);
            namePattern = levels.getLast();
        } catch (IllegalArgumentException e) {
            throw new OptionConflict(e.getMessage());
        }
        folderPattern = sheet.layout().folder().isEmpty() ? null : NamePattern.parse(sheet.layout().folder());
        rules = new NameRules(sheet.names());
        mirror = options.mirror().orElse(sheet.layout().mirror());
        session = card.session();
        kits = new KitPlaces(options.placing().kits(), card, sheet.layout().soundsPerFolder(), isNumbered(sheet));
    }

    /// Whether folders of a destination have numbers.
    public static boolean isNumbered(DestinationSheet sheet) {
        return !sheet.layout().folder().isEmpty() && NamePattern.parse(sheet.layout().folder()).uses(Word.KIT);
    }

    public List<PackingItem> place(List<PackingItem> items) {
        kits.assign(items.stream().filter(i -> i.verdict() != Verdict.BLOCKED)
                .flatMap(i -> i.isInstruments() ? i.maps().isEmpty() ? i.parts().stream() : Stream.<PackingItem>empty() : Stream.of(i)).toList());
        return items.stream()
                .map(i -> i.verdict() == Verdict.BLOCKED
                        ? i
                        : i.isInstruments() ? placeInstruments(i) : isLost(i) ? lost(i) : place(i, Optional.empty(), earlier(i)))
                .toList();
    }

    /// Whether the destination would not load a sound, as no instrument plays it. Until it is known what becomes of a clip, it may still be one.
    private boolean isLost(PackingItem item) { return sheet.layout().instrumentsOnly() && item.isSettled(); }

    private PackingItem lost(PackingItem item) {
        InstrumentFormat wanted = InstrumentFormats.byId(sheet.accepts().instruments().getFirst()).orElseThrow();
        return item.with(new CardChange.SoundAlone(item.source().fileName(), wanted.name(), item.source().sound().filter(SoundFile::isJoined).isPresent()),
                List.of());
    }

    /// A map lies beside a folder of its sounds; several maps of one file lie in a folder with one for the sounds of all, but for banks of a device that counts their instruments. Sounds without a map
    /// lie where the destination's layout puts loose ones, or in a folder named for their instrument where it has no wish.
    private PackingItem placeInstruments(PackingItem item) {
        String folder = mirrored(item.source());
        if (!item.maps().isEmpty() && item.maps().getFirst().format().zonesInSounds()) return placeInFolders(item, folder);
        boolean isAlone = item.maps().isEmpty(), isBank = !isAlone && item.maps().getFirst().holdsSounds(), isMany = item.maps().size() > 1;
        String bank = inMaps(item.source().stem());
        if (isMany && !(isBank && sheet.loadsBankByBank())) folder = inside(folder, rules.unique(bank, "", taken(folder)));
        List<PlannedMap> maps = new ArrayList<>();
        for (PlannedMap map : item.maps()) {
            String name = inMaps(!isMany ? item.source().stem() : map.about().name());
            String extension = "." + map.format().extension();
            maps.add(map.at(inside(folder, rules.unique(name, extension, taken(folder)) + extension)));
        }
        String sounds = isMany ? "sounds" : isAlone ? "" : stem(maps.getFirst().path()).substring(folder.isEmpty() ? 0 : folder.length() + 1) + " sounds";
        List<PackingItem> parts = new ArrayList<>();
        List<String> earlier = isAlone ? earlier(item) : List.of();
        int at = 0;
        for (PackingItem part : item.parts()) {
            List<String> ofPart = earlier.isEmpty() ? List.of() : earlier.subList(at, at + part.outputs().size());
            at += part.outputs().size();
            if (part.outputs().isEmpty())
                parts.add(part);
            else
                if (isBank)
                    parts.add(pooled(part));
                else
                    if (isAlone)
                        parts.add(place(part, folderPattern == null && !sheet.layout().oneFolder()
                                ? Optional.of(inside(folder, rules.fit(part.source().folderName())))
                                : Optional.empty(), ofPart));
                    else
                        parts.add(place(part, Optional.of(inside(folder, sounds)), List.of()));
        }
        Optional<PackingItem> refused = parts.stream().filter(p -> p.verdict() == Verdict.BLOCKED && p.change(Property.FOLDER).isPresent()).findFirst();
        if (refused.isPresent()) return item.with(refused.get().change(Property.FOLDER).get(), parts, maps);
        String after = maps.isEmpty() ? Told.count(parts.size(), "sound") : maps.getFirst().path() + (isMany ? " +" + (maps.size() - 1) : "");
        String beside = maps.isEmpty() ? parts.stream().flatMap(p -> p.outputs().stream()).findFirst().map(o -> folderOf(o.path())).orElse(folder) : folder;
        return item.withSidecars(besides(item, beside, bank)).with(FileChange.Named.plainly(item.source().fileName(), after), parts, maps);
    }

    /// Each map lies in a folder of its own, with the sounds that it alone plays.
    private PackingItem placeInFolders(PackingItem item, String parent) {
        List<PlannedMap> maps = new ArrayList<>();
        Map<Integer, String> folders = new HashMap<>();
        for (PlannedMap map : item.maps()) {
            String name = rules.unique(inMaps(item.maps().size() == 1 ? item.source().stem() : map.about().name()), "", taken(parent)),
                    folder = inside(parent, name);
            maps.add(map.at(inside(folder, name + "." + map.format().extension())));
            map.instruments().stream().flatMap(i -> i.zones().stream()).forEach(z -> folders.put(z.sample(), folder));
        }
        List<PackingItem> parts = new ArrayList<>();
        int at = 0;
        for (PackingItem part : item.parts()) {
            parts.add(part.outputs().isEmpty() ? part : place(part, Optional.of(folders.get(at)), List.of()));
            at += part.outputs().size();
        }
        Optional<PackingItem> refused = parts.stream().filter(p -> p.verdict() == Verdict.BLOCKED && p.change(Property.FOLDER).isPresent()).findFirst();
        if (refused.isPresent()) return item.with(refused.get().change(Property.FOLDER).get(), parts, maps);
        String after = maps.getFirst().path() + (maps.size() > 1 ? " +" + (maps.size() - 1) : "");
        return item.with(FileChange.Named.plainly(item.source().fileName(), after), parts, maps);
    }

    /// @param name of what they lie beside
    private List<PlannedSidecar> besides(PackingItem item, String folder, String name) {
        List<String> there = session.map(s -> s.sidecars().get(item.source().path())).orElse(List.of());
        return item.sidecars().stream().map(s -> {
            String extension = "." + s.sidecar().extension(), own = rules.fit(name + s.path()), path = inside(folder, own + extension);
            return s.at(there.contains(path) ? path : inside(folder, rules.unique(own, extension, taken(folder)) + extension));
        }).toList();
    }

    private final NameRules.Taken pooledNames = new NameRules.Taken();

    private PackingItem pooled(PackingItem part) {
        String name = rules.unique(part.source().stem(), "", pooledNames);
        List<PlannedOutput> outputs = part.outputs();
        List<PlannedOutput> named = IntStream.range(0, outputs.size())
                .mapToObj(i -> outputs.get(i).at(outputs.size() == 1 ? name : name + (i == 0 ? "-L" : "-R"))).toList();
        return part.with(FileChange.Named.plainly(part.source().fileName(), name), named);
    }

    /// Names stand in maps that are texts, where some characters have a meaning.
    private String inMaps(String name) { return rules.fit(name.replaceAll("[=$#]", "_")); }

    private static String inside(String folder, String name) { return folder.isEmpty() ? name : folder + "/" + name; }

    private static String folderOf(String path) { return path.substring(0, Math.max(0, path.lastIndexOf('/'))); }

    /// The name of a file without folder and extension.
    private static String named(String path) { return stem(path.substring(path.lastIndexOf('/') + 1)); }

    private static String stem(String path) { return path.substring(0, path.lastIndexOf('.')); }

    /// In a session names of files that are there are taken: they are not ours alone.
    private NameRules.Taken taken(String folder) {
        return taken.computeIfAbsent(folder, _ -> {
            NameRules.Taken names = new NameRules.Taken();
            String start = inside(folder, "");
            session.ifPresent(s -> s.files().stream().filter(f -> f.startsWith(start)).forEach(f -> names.reserve(f.substring(start.length()))));
            return names;
        });
    }

    /// Where the session holds what was made of a source before; none where it is not the same number of files.
    private List<String> earlier(PackingItem item) {
        List<String> paths = session.map(s -> s.earlier().get(item.source().path())).orElse(List.of());
        return paths.size() == item.outputs().size() ? paths : List.of();
    }

    /// @param fixed the folder it lies in; empty for the layout's
    /// @param earlier where the session holds its outputs already; empty where it does not
    private PackingItem place(PackingItem item, Optional<String> fixed, List<String> earlier) {
        number++;
        List<PlannedOutput> placed = new ArrayList<>();
        String firstWanted = "", firstFitted = "", firstName = "";
        for (int i = 0; i < item.outputs().size(); i++) {
            PlannedOutput output = item.outputs().get(i);
            Card.Place kit = fixed.isPresent() ? new Card.Place(1, "", number) : kits.of(item, i);
            int limit = sheet.layout().maxFolders(), size = sheet.layout().soundsPerFolder();
            if (limit > 0 && kit.kit() > limit)
                return item.with(new CardChange.TooManyFolders(item.source().folderName(), kit.kit(), limit), List.of());
            Map<Word, String> values = values(item, output, i, kit);
            String folder = fixed.orElseGet(() -> folder(item.source(), values)),
                    wanted = (fixed.isEmpty() ? rules.begin(values) : "") + namePattern.apply(values);
            if (fixed.isEmpty() && size > 0 && counts.merge(folder, 1, Integer::sum) > size)
                return item.with(new CardChange.FolderFull(item.source().folderName(), folder, size), List.of());
            boolean isSplit = item.outputs().size() > 1 && !namePattern.uses(Word.CHANNEL);
            if (isSplit) wanted += "-" + values.get(Word.CHANNEL);
            String extension = "." + SoundFormats.byId(output.formatId()).orElseThrow().extensions().getFirst();
            if (fixed.isPresent()) wanted = wanted.replaceAll("[=$]", "_");
            String fitted = isSplit
                    ? fitKeepingEnd(wanted, "-" + values.get(Word.CHANNEL))
                    : fixed.isPresent() ? rules.fit(wanted) : rules.fitSound(namePattern, values);
            String name = earlier.isEmpty() ? rules.unique(fitted, extension, taken(folder)) : named(earlier.get(i));
            if (i == 0) {
                firstWanted = wanted;
                firstFitted = fitted;
                firstName = name;
            }
            PlannedOutput at = output.at(earlier.isEmpty() ? inside(folder, name + extension) : earlier.get(i));
            placed.add(SoundFormats.written(output.formatId()).filter(WrittenFormat::numbersSounds).isPresent() ? at.numbered(outputs++) : at);
        }
        String before = item.source().fileName(), after = placed.getFirst().path() + (placed.size() > 1 ? " +" + (placed.size() - 1) : "");
        return item.withSidecars(item.sidecars().isEmpty() ? List.of() : besides(item, folderOf(placed.getFirst().path()), firstName))
                .with(new FileChange.Named(before, after, firstWanted, firstFitted, firstName), placed);
    }

    /// A long name is cut before its channel, so that left and right stay told apart.
    private String fitKeepingEnd(String wanted, String end) {
        String stem = wanted.substring(0, wanted.length() - end.length());
        int longest = sheet.names().maxLength();
        if (longest > 0 && wanted.length() > longest) stem = stem.substring(0, Math.max(1, longest - end.length()));
        return rules.fit(stem + end);
    }

    private Map<Word, String> values(PackingItem item, PlannedOutput output, int channel, Card.Place kit) {
        Gathered source = item.source();
        Map<Word, String> values = new EnumMap<>(Word.class);
        values.put(Word.NAME, source.stem());
        values.put(Word.FOLDER, kit.name().isEmpty() ? source.folderName() : kit.name());
        values.put(Word.NUMBER, Integer.toString(number));
        values.put(Word.ROOT, root(item, output).map(Object::toString).orElse(""));
        values.put(Word.RATE, Integer.toString(output.shape().rateHz()));
        values.put(Word.DEPTH, output.shape().depth().id());
        values.put(Word.CHANNEL, item.outputs().size() == 1 ? "" : item.outputs().size() == 2 ? channel == 0 ? "L" : "R" : Integer.toString(channel + 1));
        values.put(Word.KIT, Integer.toString(kit.kit()));
        values.put(Word.PAD, Integer.toString(kit.pad()));
        values.put(Word.TEMPO, tempo(item).map(bpm -> Long.toString(Math.round(bpm))).orElse(""));
        return values;
    }

    /// A destination that holds no root keys has them in names at least. At another speed the source's is no more true.
    private static Optional<Integer> root(PackingItem item, PlannedOutput output) {
        return output.metadata().mapping().rootKey().or(() -> matched(item).isPresent() ? Optional.empty() : output.source().metadata().mapping().rootKey());
    }

    private static Optional<Double> tempo(PackingItem item) { return matched(item).or(() -> Stated.tempo(item.source())); }

    /// The tempo that it is brought to.
    private static Optional<Double> matched(PackingItem item) {
        return item.changes().stream().filter(PartChange.TempoMatched.class::isInstance).map(c -> ((PartChange.TempoMatched) c).toBpm()).findFirst();
    }

    private String folder(Gathered source, Map<Word, String> values) {
        List<String> parts = new ArrayList<>();
        if (folderPattern != null) parts.add(rules.fit(folderPattern, values));
        if (mirror) parts.add(mirrored(source));
        // What says nothing of itself lies outside of the folder.
        sorting.stream().filter(p -> p.tells(values)).forEach(p -> parts.add(rules.fit(p, values)));
        return parts.stream().filter(p -> !p.isEmpty()).collect(Collectors.joining("/"));
    }

    private String mirrored(Gathered source) {
        Path parent = source.relative().getParent();
        if (!mirror || parent == null) return "";
        return mirrored.computeIfAbsent(parent, p -> StreamSupport.stream(p.spliterator(), false).map(part -> rules.fit(part.toString()))
                .collect(Collectors.joining("/")));
    }
}
