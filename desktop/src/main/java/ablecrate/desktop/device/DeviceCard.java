package ablecrate.desktop.device;

import ablecrate.audio.Figures;
import ablecrate.change.Told;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.disk.DiskFault;
import ablecrate.plan.PackingItem;
import ablecrate.standins.Device;
import ablecrate.standins.Preset;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;

/// The folder that is packed into, or any other, as a stand-in for the device loads it. FX thread only.
public final class DeviceCard {
    private static final int OUTLINE = 120;

    /// A card in a device.
    public record Shown(Device device, Path card, Device.Loaded loaded) {}

    private final CrateModel crate;
    private final Background background;
    private final ReadOnlyObjectWrapper<Optional<Shown>> shown = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Preset>> preset = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyStringWrapper empty = new ReadOnlyStringWrapper("");
    private final ReadOnlyObjectWrapper<Map<Path, double[]>> outlines = new ReadOnlyObjectWrapper<>(Map.of());
    private Optional<Path> otherCard = Optional.empty();
    /// What was loaded last; empty where it has to be loaded again.
    private Optional<Wanted> loaded = Optional.empty();
    private Map<Path, PackingItem> lines = Map.of();
    private boolean isLookedAt;
    private int generation;

    public DeviceCard(CrateModel crate, PackRunModel run, Background background) {
        this.crate = crate;
        this.background = background;
        crate.jobProperty().subscribe(_ -> look());
        crate.sheetProperty().subscribe(_ -> {
            otherCard = Optional.empty();
            look();
        });
        crate.onList(this::knowLines);
        run.slipProperty().subscribe(_ -> {
            loaded = Optional.empty();
            look();
        });
        preset.subscribe(this::draw);
    }

    /// Empty where no card is in a device.
    public ReadOnlyObjectProperty<Optional<Shown>> shownProperty() { return shown.getReadOnlyProperty(); }

    /// Why nothing is shown, and what to do.
    public ReadOnlyStringProperty emptyProperty() { return empty.getReadOnlyProperty(); }

    /// The one of its presets that is chosen.
    public ReadOnlyObjectProperty<Optional<Preset>> presetProperty() { return preset.getReadOnlyProperty(); }

    /// Peaks of the preset's sounds, by their files, once they are read; the loudest reaches 1.
    public ReadOnlyObjectProperty<Map<Path, double[]>> outlinesProperty() { return outlines.getReadOnlyProperty(); }

    public void choose(Preset chosen) { preset.set(Optional.of(chosen)); }

    /// Which card belongs into which device.
    private record Wanted(Optional<Device> device, Optional<Path> card) {}

    private Wanted wanted() { return new Wanted(Device.byId(crate.sheetProperty().get().id()), otherCard.or(() -> crate.job().into())); }

    /// Whether there is a stand-in for what is packed for.
    public boolean hasDevice() { return wanted().device().isPresent(); }

    /// Whether a folder is known that it would load.
    public boolean hasCard() { return hasDevice() && wanted().card().isPresent(); }

    /// A card is loaded only while somebody looks.
    public void lookedAt(boolean isLooking) {
        isLookedAt = isLooking;
        look();
    }

    private void look() {
        if (isLookedAt && !loaded.equals(Optional.of(wanted()))) load();
    }

    /// Loads another folder than the one that is packed into.
    public void load(Path folder) {
        otherCard = Optional.of(folder);
        load();
    }

    /// Loads the card again, as the device would after it was put in.
    public void load() {
        int mine = ++generation;
        Wanted wanted = wanted();
        loaded = Optional.of(wanted);
        if (wanted.device().isEmpty()) {
            show(Optional.empty(), crate.sheetProperty().get().name() + " has no stand-in. These have: "
                    + String.join(", ", Device.ALL.stream().map(Device::name).toList()) + ".");
            return;
        }
        if (wanted.card().isEmpty()) {
            show(Optional.empty(), "Choose the folder to pack into (Ctrl+I): it is the card of the " + wanted.device().get().name() + ".");
            return;
        }
        Device with = wanted.device().get();
        Path folder = wanted.card().get();
        background.run(() -> Files.isDirectory(folder) ? new Device.Loaded[]{with.load(folder)} : new Device.Loaded[0], now -> {
            if (mine != generation) return;
            if (now.length == 0 || now[0].presets().isEmpty() && now[0].refusals().isEmpty())
                show(Optional.empty(), "There is nothing on the card yet. Pack (Ctrl+Enter), and the device loads it here.");
            else
                show(Optional.of(new Shown(with, folder, now[0])), "");
        }, e -> {
            if (mine == generation) show(Optional.empty(), "The card cannot be read: " + (e instanceof IOException io ? DiskFault.text(io) : e.toString()));
        });
    }

    private void show(Optional<Shown> now, String why) {
        Optional<String> before = preset.get().map(Preset::name);
        empty.set(why);
        shown.set(now);
        knowLines();
        List<Preset> presets = now.map(s -> s.loaded().presets()).orElse(List.of());
        preset.set(presets.stream().filter(p -> before.equals(Optional.of(p.name()))).findFirst().or(() -> presets.stream().findFirst()));
    }

    /// Which line of the list made which file or folder of the card.
    private void knowLines() {
        Map<Path, PackingItem> byPath = new HashMap<>();
        shown.get().map(Shown::card).ifPresent(card -> crate.listProperty().get().items()
                .forEach(line -> Stream.of(line.maps().stream().map(m -> m.path()), line.outputs().stream().map(o -> o.path()),
                        line.parts().stream().flatMap(p -> p.outputs().stream()).map(o -> o.path())).flatMap(paths -> paths)
                        .forEach(path -> byPath.put(card.resolve(path), line))));
        lines = byPath;
    }

    /// Reads the preset's sounds, so that the first note comes at once, and pictures of them are there.
    private void draw() {
        outlines.set(Map.of());
        preset.get().ifPresent(p -> background.run(() -> {
            Map<Path, double[]> drawn = new HashMap<>();
            p.slots().forEach(s -> drawn.computeIfAbsent(s.sound().file(), _ -> s.sound().outline(OUTLINE)));
            double loudest = drawn.values().stream().flatMapToDouble(Arrays::stream).max().orElse(1);
            drawn.replaceAll((_, peaks) -> Arrays.stream(peaks).map(peak -> peak / Math.max(1e-6, loudest)).toArray());
            return drawn;
        }, drawn -> {
            if (preset.get().equals(Optional.of(p))) outlines.set(drawn);
        }, this::failed));
    }

    void failed(Exception e) {
        crate.fail("the card cannot be read any more: " + (e.getCause() instanceof IOException io ? DiskFault.text(io) : e.getMessage()) + "; load it again");
    }

    /// The line that a key of the preset was made of.
    Optional<PackingItem> line(int key, int velocity) {
        return preset.get().flatMap(p -> Optional.ofNullable(lines.get(shown.get().orElseThrow().card().resolve(p.path())))
                .or(() -> p.slots().stream().filter(s -> s.covers(key, velocity)).findFirst().flatMap(s -> Optional.ofNullable(lines.get(s.sound().file())))));
    }

    /// The card in a sentence.
    public String sentence() {
        return shown.get().map(s -> {
            int sounds = s.loaded().presets().stream().mapToInt(p -> p.slots().size()).sum();
            String what = switch (s.device().controls()) {
                case PADS -> "kit";
                case KEYS -> "instrument";
                case TRACKS -> "song";
            };
            int refused = s.loaded().refusals().size();
            return s.device().name() + " has loaded " + Told.count(s.loaded().presets().size(), what) + " with " + Told.count(sounds, "sound")
                    + (s.loaded().mostBytes() > 0 ? "" : ", " + Figures.bytes(s.loaded().memoryBytes()))
                    + (refused == 0 ? "; it refuses nothing." : "; it refuses " + Told.count(refused, "file") + ".");
        }).orElse("");
    }
}
