package ablecrate.desktop.keys;

import ablecrate.codec.SoundFile;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.format.InstrumentFile;
import ablecrate.format.names.NameFacts;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NamePlace;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.change.Change;
import ablecrate.option.ItemEdit;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import ablecrate.option.Fitting;
import java.util.function.BiPredicate;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/// The instrument of the current line: its zones, which of them are chosen, and what is changed about them. Every change is a step of the job.
/// FX thread only.
public final class KeysModel {
    private final CrateModel crate;
    private final PackingListModel list;
    private final ReadOnlyObjectWrapper<Optional<Instrument>> instrument = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<String> names = FXCollections.observableArrayList();
    private final ReadOnlyIntegerWrapper index = new ReadOnlyIntegerWrapper();
    private final SortedSet<Integer> chosen = new TreeSet<>();
    private final ReadOnlyIntegerWrapper version = new ReadOnlyIntegerWrapper();
    private Optional<Path> shown = Optional.empty();
    private Optional<PackingItem> item = Optional.empty();
    private List<Zone> zones = List.of();

    public KeysModel(CrateModel crate, PackingListModel list) {
        this.crate = crate;
        this.list = list;
        instrument.subscribe(i -> zones = i.map(Instrument::zones).orElse(List.of()));
        list.currentProperty().subscribe(this::show);
        // The instrument at hand may not be the current line.
        crate.onList(() -> show(list.currentProperty().get()));
    }

    private void show(Optional<PackingItem> next) {
        // The sounds of an instrument belong to it: it stays while one walks through them, and while one looks for another sound to put on its keys.
        Optional<PackingItem> of = next.map(i -> list.parentOf(i).orElse(i)).filter(PackingItem::isInstruments)
                .or(() -> shown.flatMap(this::line));
        Optional<Path> path = of.map(i -> i.source().path());
        // While lines are renewed none is current for a moment; what was chosen outlasts that.
        if (path.isPresent() && !path.equals(shown)) {
            shown = path;
            index.set(0);
            chosen.clear();
        }
        item = of;
        List<Instrument> all = instruments();
        names.setAll(all.stream().map(Instrument::name).toList());
        if (of.isPresent()) index.set(Math.clamp(index.get(), 0, Math.max(0, all.size() - 1)));
        instrument.set(all.isEmpty() ? Optional.empty() : Optional.of(all.get(index.get())));
        if (of.isPresent()) chosen.removeIf(z -> z >= zones().size());
        version.set(version.get() + 1);
    }

    private Optional<PackingItem> line(Path path) { return list.all().stream().filter(i -> i.isInstruments() && i.source().path().equals(path)).findFirst(); }

    private Optional<InstrumentFile> file() { return item.flatMap(i -> i.source().instruments()); }

    /// As edited, or as the file has them.
    private List<Instrument> instruments() {
        return edit().map()
                .or(() -> file().map(InstrumentFile::instruments)).orElse(List.of());
    }

    private ItemEdit edit() { return item.map(i -> crate.job().edits().get(i.source().path())).orElse(ItemEdit.NONE); }

    /// The name of the line.
    public String title() { return item.map(i -> i.source().stem()).orElse(""); }

    public ReadOnlyObjectProperty<Optional<Instrument>> instrumentProperty() { return instrument.getReadOnlyProperty(); }

    /// Of all instruments of the line.
    public ObservableList<String> names() { return names; }

    public ReadOnlyIntegerProperty indexProperty() { return index.getReadOnlyProperty(); }

    /// Counts whatever is to be drawn anew.
    public ReadOnlyIntegerProperty versionProperty() { return version.getReadOnlyProperty(); }

    public void showInstrument(int which) {
        if (which < 0 || which == index.get() || which >= names.size()) return;
        index.set(which);
        chosen.clear();
        show(item);
    }

    /// @param name of an instrument; stays where none is called so
    public void showInstrument(String name) { showInstrument(names.indexOf(name)); }

    public List<Zone> zones() { return zones; }

    /// Numbers of the chosen zones.
    public SortedSet<Integer> chosen() { return chosen; }

    public void choose(int zone, boolean more) {
        if (!more) chosen.clear();
        if (zone >= 0 && !chosen.add(zone) && more) chosen.remove(zone);
        version.set(version.get() + 1);
    }

    public void chooseAll(List<Integer> which) {
        chosen.clear();
        chosen.addAll(which);
        version.set(version.get() + 1);
    }

    public int groupOf(int zone) {
        int at = zone, g = 0;
        for (ZoneGroup group : instrument.get().map(Instrument::groups).orElse(List.of())) {
            if (at < group.zones().size()) return g;
            at -= group.zones().size();
            g++;
        }
        return 0;
    }

    public String sampleName(Zone zone) {
        String name = added(zone.sample()).map(Path::toString).or(() -> file().map(f -> f.samples().get(zone.sample()).name())).orElse("");
        return name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1);
    }

    /// What the destination makes of it, the parts of a kit that is divided together; empty while that is not known, where it is left out, or where the destination takes sounds alone.
    public Optional<Instrument> planned() {
        List<Instrument> all = item.stream().flatMap(i -> i.maps().stream()).flatMap(m -> m.instruments().stream()).toList();
        String name = instrument.get().map(Instrument::name).orElse("");
        List<Instrument> same = all.stream().filter(i -> i.name().equals(name)).toList(),
                parts = all.stream().filter(i -> i.name().matches(Pattern.quote(name) + " \\d+")).toList();
        if (same.size() == 1) return Optional.of(same.getFirst());
        if (same.isEmpty() && parts.size() > 1) return Optional.of(parts.getFirst().withGroups(parts.stream().flatMap(p -> p.groups().stream()).toList()));
        // Several of one name, or a name that the format cuts: where none is left out or divided, their places tell.
        return all.size() == names.size() ? all.stream().skip(index.get()).findFirst() : Optional.empty();
    }

    public List<PlannedOutput> plannedSounds() { return item.map(PackingItem::outputs).orElse(List.of()); }

    /// What happens to the line, worst first.
    public List<Change> changes() {
        return item.map(i -> i.changes().stream().sorted(Comparator.comparing(Change::verdict).reversed()).toList()).orElse(List.of());
    }

    public Optional<SoundFile> sound(int sample) { return added(sample).map(crate::sound).orElseGet(() -> file().flatMap(f -> f.sound(sample))); }

    /// The sound of the job that a number means which is not the file's own.
    private Optional<Path> added(int sample) {
        int number = sample - file().map(f -> f.samples().size()).orElse(0);
        return number >= 0 && number < edit().added().size() ? Optional.of(edit().added().get(number)) : Optional.empty();
    }

    /// Puts sounds on keys, one after the other from this one on, at the velocities of what is there. That makes room, so that nothing overlaps.
    public void putSounds(List<Path> sounds, int key, int velocity) {
        if (instrument.get().isEmpty() || sounds.isEmpty()) return;
        List<Path> wanted = sounds.stream().limit(128 - key).toList();
        List<Path> missing = wanted.stream().filter(p -> crate.sound(p).isEmpty()).toList();
        if (!missing.isEmpty()) crate.gather(missing);
        List<ZoneGroup> groups = new ArrayList<>(instrument.get().get().groups());
        List<Path> all = new ArrayList<>(edit().added());
        int own = file().orElseThrow().samples().size();
        for (int i = 0; i < wanted.size(); i++) {
            if (!all.contains(wanted.get(i))) all.add(wanted.get(i));
            groups = ZonePlaces.withOn(groups, key + i, velocity, own + all.indexOf(wanted.get(i)));
        }
        put(instrument.get().get().withGroups(groups), all, wanted.size() == 1 ? "put a sound on a key" : "put sounds on keys", false);
        List<Integer> placed = new ArrayList<>();
        for (int z = 0; z < zones().size(); z++)
            if (zones().get(z).sample() >= own && zones().get(z).get(Parameter.KEYS).size() == 1 && zones().get(z).get(Parameter.KEYS).low() >= key
                    && zones().get(z).get(Parameter.KEYS).low() < key + wanted.size())
                placed.add(z);
        chooseAll(placed);
    }

    /// As [#putSounds], above the highest key that is taken; below the lowest where there is no room above.
    public void putSoundsBeside(List<Path> sounds) {
        if (zones().isEmpty() || sounds.isEmpty()) return;
        Span taken = ZonePlaces.around(zones(), Parameter.KEYS);
        int above = taken.high() + 1, below = taken.low() - sounds.size();
        // Where zones reach to both ends of the keyboard, the highest keys make room.
        putSounds(sounds, above + sounds.size() <= 128 ? above : below >= 0 ? below : Math.max(0, 128 - sounds.size()), 1);
    }

    /// How the name of a zone's sound was read; empty where the map is not made of names.
    public Optional<NameFacts> nameOf(Zone zone) {
        String name = sampleName(zone);
        return file().stream().flatMap(f -> f.names().stream()).filter(n -> n.name().equals(name)).findFirst();
    }

    private NameReading reading() { return edit().names().orElse(crate.job().options().instruments().names()); }

    /// Says what a part of the names means; all names of the set are read again.
    public void explain(NamePlace place, NamePart meaning) { read(reading().withPart(place, meaning), "what names mean"); }

    /// By how many keys all names would move if this zone's root were right and the others counted likewise; empty where that is so already.
    public OptionalInt shiftBy(Zone zone) {
        Optional<Zone> found = file().stream().flatMap(f -> f.instruments().stream()).flatMap(i -> i.zones().stream()).filter(z -> z.sample() == zone.sample())
                .findFirst();
        if (nameOf(zone).filter(n -> n.key().isPresent()).isEmpty() || found.isEmpty()) return OptionalInt.empty();
        int by = zone.get(Parameter.ROOT_KEY) - found.get().get(Parameter.ROOT_KEY);
        return by == 0 ? OptionalInt.empty() : OptionalInt.of(by);
    }

    /// Counts the keys of all names so that this zone's root is right.
    public void countLike(Zone zone) {
        nameOf(zone).flatMap(n -> n.key().stream().boxed().findFirst())
                .ifPresent(named -> read(reading().withShift(OptionalInt.of(zone.get(Parameter.ROOT_KEY) - named)), "how names count keys"));
    }

    private void read(NameReading reading, String label) {
        chosen.clear();
        crate.edit(Set.of(item.orElseThrow().source().path()), e -> e.withNames(Optional.of(reading)), label);
    }

    /// Changes zones by their numbers; what the change returns empty is taken out.
    public void change(Map<Integer, Optional<Zone>> changes, String label, boolean isDrag) {
        if (instrument.get().isEmpty() || changes.isEmpty()) return;
        List<ZoneGroup> groups = new ArrayList<>();
        int number = 0;
        for (ZoneGroup group : instrument.get().get().groups()) {
            List<Zone> zones = new ArrayList<>();
            for (Zone zone : group.zones()) {
                int mine = number++;
                changes.getOrDefault(mine, Optional.of(zone)).ifPresent(zones::add);
            }
            groups.add(group.withZones(zones));
        }
        put(instrument.get().get().withGroups(groups), label, isDrag);
    }

    private void put(Instrument changed, String label, boolean isDrag) { put(changed, edit().added(), label, isDrag); }

    private void put(Instrument changed, List<Path> added, String label, boolean isDrag) {
        List<Instrument> all = new ArrayList<>(instruments());
        all.set(index.get(), changed);
        Set<Path> line = Set.of(item.orElseThrow().source().path());
        UnaryOperator<ItemEdit> change = e -> e.withMap(Optional.of(all)).withAdded(added);
        if (isDrag)
            crate.dragEdit(line, change, label);
        else
            crate.edit(line, change, label);
        instrument.set(Optional.of(changed));
        version.set(version.get() + 1);
    }

    /// The chosen zones as the source has them again, and all others.
    public void asTheSource() { item.ifPresent(i -> crate.edit(Set.of(i.source().path()), e -> e.withMap(Optional.empty()), "zones as the source")); }

    public void set(UnaryOperator<Zone> change, String label) {
        Map<Integer, Optional<Zone>> changes = new TreeMap<>();
        chosen.forEach(z -> changes.put(z, Optional.of(change.apply(zones().get(z)))));
        change(changes, label, false);
    }

    public void takeOut() {
        Map<Integer, Optional<Zone>> changes = new TreeMap<>();
        chosen.forEach(z -> changes.put(z, Optional.empty()));
        chosen.clear();
        change(changes, "take out zones", false);
    }

    private Fitting fitting() { return crate.job().options().instruments().fitting(); }

    /// Whether the root of a zone, or its layer, has to stay where the instrument is made to fit.
    public boolean keepsRoot(Zone zone) { return fitting().keptRoots().contains(zone.get(Parameter.ROOT_KEY)); }

    public boolean keepsLayer(Zone zone) { return fitting().keptVelocities().stream().anyMatch(zone.get(Parameter.VELOCITIES)::contains); }

    /// Roots of the chosen zones have to stay where the instrument is made to fit; or need not any more, where all of them had to.
    public void keepRoots() {
        keep("roots", this::keepsRoot, z -> Integer.toString(z.get(Parameter.ROOT_KEY)), (text, z) -> text.equals(Integer.toString(z.get(Parameter.ROOT_KEY))));
    }

    /// As [#keepRoots], for their velocity layers.
    public void keepLayers() {
        keep("layers", this::keepsLayer, z -> "v" + z.get(Parameter.VELOCITIES).high(),
                (text, z) -> text.startsWith("v") && z.get(Parameter.VELOCITIES).contains(Integer.parseInt(text.substring(1))));
    }

    private void keep(String what, Predicate<Zone> isKept, Function<Zone, String> text, BiPredicate<String, Zone> isOf) {
        List<Zone> of = chosen.stream().map(zones::get).toList();
        if (of.isEmpty()) return;
        List<String> keep = new ArrayList<>(fitting().keep());
        boolean isRelease = of.stream().allMatch(isKept);
        if (isRelease)
            keep.removeIf(k -> of.stream().anyMatch(z -> isOf.test(k, z)));
        else
            of.stream().filter(isKept.negate()).map(text).distinct().forEach(keep::add);
        crate.changeOptions(o -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().keeping(keep))),
                (isRelease ? "let go of " : "keep ") + what);
    }

    /// Moves an edge of the chosen zones by so much. Neighbours that touch it move with it, so that neither gap nor overlap comes of it.
    /// @param alone whether the neighbours stay
    public void stretch(Edge edge, int by, boolean alone, boolean isDrag) {
        Map<Integer, Optional<Zone>> changes = new TreeMap<>();
        for (int z : chosen) {
            Zone zone = zones().get(z), moved = edge.moved(zone, by);
            if (moved.equals(zone)) continue;
            changes.put(z, Optional.of(moved));
            if (!alone)
                for (int other = 0; other < zones().size(); other++)
                    if (!chosen.contains(other) && groupOf(other) == groupOf(z) && edge.touches(zone, zones().get(other)))
                        changes.put(other, Optional.of(edge.opposite().moved(zones().get(other), by)));
        }
        change(changes, "stretch zones", isDrag);
    }

    /// Moves the chosen zones, as far as all of them stay on the keyboard; their roots go along.
    public void move(int keys, int velocities, boolean isDrag) {
        List<Zone> moving = chosen.stream().map(zones()::get).toList();
        int across = ZonePlaces.within(keys, moving, Parameter.KEYS), up = ZonePlaces.within(velocities, moving, Parameter.VELOCITIES);
        if (across == 0 && up == 0) return;
        Map<Integer, Optional<Zone>> changes = new TreeMap<>();
        for (int z : chosen) {
            Zone moved = zones().get(z);
            Span k = moved.get(Parameter.KEYS), v = moved.get(Parameter.VELOCITIES);
            if (across != 0)
                moved = moved.with(Parameter.KEYS, new Span(k.low() + across, k.high() + across)).with(Parameter.ROOT_KEY,
                        Math.clamp(moved.get(Parameter.ROOT_KEY) + across, 0, 127));
            if (up != 0) moved = moved.with(Parameter.VELOCITIES, new Span(v.low() + up, v.high() + up));
            changes.put(z, Optional.of(moved));
        }
        change(changes, "move zones", isDrag);
    }

    /// Cuts each chosen zone in two at the middle of its keys; both halves are chosen.
    public void split() {
        if (chosen.isEmpty()) return;
        List<ZoneGroup> groups = new ArrayList<>();
        List<Integer> halves = new ArrayList<>();
        int number = 0, cut = 0;
        for (ZoneGroup group : instrument.get().orElseThrow().groups()) {
            List<Zone> zones = new ArrayList<>();
            for (Zone zone : group.zones()) {
                Span keys = zone.get(Parameter.KEYS);
                boolean isChosen = chosen.contains(number);
                if (isChosen) halves.add(number + cut);
                number++;
                if (isChosen && keys.size() > 1) {
                    halves.add(number + cut++);
                    int middle = (keys.low() + keys.high()) / 2;
                    zones.add(zone.with(Parameter.KEYS, new Span(keys.low(), middle)));
                    zones.add(zone.with(Parameter.KEYS, new Span(middle + 1, keys.high())));
                } else
                    zones.add(zone);
            }
            groups.add(group.withZones(zones));
        }
        if (cut == 0) return;
        put(instrument.get().orElseThrow().withGroups(groups), "split zones", false);
        chooseAll(halves);
    }

    /// The chosen zones become the first of them, over the keys and velocities of all.
    public void merge() {
        if (chosen.size() < 2) return;
        List<Zone> all = chosen.stream().map(zones()::get).toList();
        Span keys = ZonePlaces.around(all, Parameter.KEYS), velocities = ZonePlaces.around(all, Parameter.VELOCITIES);
        Map<Integer, Optional<Zone>> changes = new TreeMap<>();
        chosen.forEach(z -> changes.put(z, Optional.empty()));
        changes.put(chosen.first(), Optional.of(all.getFirst().with(Parameter.KEYS, keys).with(Parameter.VELOCITIES, velocities)));
        int first = chosen.first();
        chosen.clear();
        chosen.add(first);
        change(changes, "merge zones", false);
    }

    /// The next zone along the keys or up the velocities, from the one that is chosen.
    public void walk(int keys, int velocities) {
        if (zones().isEmpty()) return;
        if (chosen.isEmpty()) {
            choose(0, false);
            return;
        }
        ZonePlaces.next(zones(), zones().get(chosen.first()), keys, velocities).ifPresent(z -> choose(z, false));
    }
}
