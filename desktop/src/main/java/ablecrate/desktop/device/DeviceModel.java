package ablecrate.desktop.device;

import ablecrate.audio.FrameSource;
import ablecrate.change.Told;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.hearing.KeyPlayer;
import ablecrate.desktop.hearing.MidiKeys;
import ablecrate.desktop.hearing.Playback;
import ablecrate.desktop.hearing.Sounding;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.disk.DiskFault;
import ablecrate.plan.PackingItem;
import ablecrate.standins.Device;
import ablecrate.standins.DevicePlayer;
import ablecrate.standins.Performance;
import ablecrate.standins.Preset;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.value.ObservableValue;

/// The folder that is packed into, as a stand-in for the device loads and plays it; or any other card. FX thread only, but for notes of MIDI keyboards.
public final class DeviceModel implements Hearable {
    public static final int USUAL_VELOCITY = 100;
    private static final int OUTLINE = 120;

    /// The three that can be compared.
    public enum Side {
        DEVICE("Device"), RESULT("Result"), SOURCE("Source");

        private final String label;

        Side(String label) { this.label = label; }

        public String label() { return label; }
    }

    /// A card in a device.
    public record Shown(Device device, Path card, Device.Loaded loaded) {}

    /// Plays what the packing list has of a sound or an instrument.
    public interface ListSide {
        /// @param isResult whether the result is heard rather than the source
        /// @param instrument by its name, where the line has several
        void on(PackingItem line, String instrument, boolean isResult, int key, int velocity);

        void off(int key);
    }

    private final CrateModel crate;
    private final Background background;
    private final ListSide listSide;
    private final Playback playback;
    private final KeyPlayer keys;
    private final Executor fx;
    private final ReadOnlyObjectWrapper<Optional<Shown>> shown = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Preset>> preset = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Set<Integer>> down = new ReadOnlyObjectWrapper<>(Set.of());
    private final ReadOnlyStringWrapper empty = new ReadOnlyStringWrapper("");
    private final ObjectProperty<Side> side = new SimpleObjectProperty<>(Side.DEVICE);
    private final ReadOnlyObjectWrapper<Map<Path, double[]>> outlines = new ReadOnlyObjectWrapper<>(Map.of());
    private final BooleanProperty letters = new SimpleBooleanProperty(true);
    private final ReadOnlyObjectWrapper<Optional<Path>> song = new ReadOnlyObjectWrapper<>(Optional.empty());
    private Optional<Path> otherCard = Optional.empty();
    /// What was loaded last; empty where it has to be loaded again.
    private Optional<Wanted> loaded = Optional.empty();
    private Optional<MidiKeys> midi = Optional.empty();
    private Optional<Performance> performance = Optional.empty();
    private Map<Path, PackingItem> lines = Map.of();
    private boolean isLookedAt;
    private int generation;

    public DeviceModel(CrateModel crate, PackRunModel run, ListSide listSide, Background background, Executor fx) {
        this.crate = crate;
        this.listSide = listSide;
        this.background = background;
        this.fx = fx;
        playback = new Playback(fx, this::silent);
        keys = new KeyPlayer(() -> fx.execute(this::silent));
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
        preset.subscribe(this::use);
        side.subscribe(() -> List.copyOf(down.get()).forEach(this::off));
    }

    private void silent() { crate.tell("no sound device: running silent"); }

    /// Empty where no card is in a device.
    public ReadOnlyObjectProperty<Optional<Shown>> shownProperty() { return shown.getReadOnlyProperty(); }

    /// Why nothing is shown, and what to do.
    public ReadOnlyStringProperty emptyProperty() { return empty.getReadOnlyProperty(); }

    /// What the keys play.
    public ReadOnlyObjectProperty<Optional<Preset>> presetProperty() { return preset.getReadOnlyProperty(); }

    /// Keys and pads that are held.
    public ReadOnlyObjectProperty<Set<Integer>> downProperty() { return down.getReadOnlyProperty(); }

    public ObjectProperty<Side> sideProperty() { return side; }

    /// Peaks of the preset's sounds, by their files, once they are read; the loudest reaches 1.
    public ReadOnlyObjectProperty<Map<Path, double[]>> outlinesProperty() { return outlines.getReadOnlyProperty(); }

    /// Whether letters play notes.
    public BooleanProperty lettersProperty() { return letters; }

    boolean areLettersNotes() { return letters.get(); }

    /// The MIDI file that is played, if one was chosen.
    public ReadOnlyObjectProperty<Optional<Path>> songProperty() { return song.getReadOnlyProperty(); }

    /// Which card belongs into which device.
    private record Wanted(Optional<Device> device, Optional<Path> card) {}

    private Wanted wanted() { return new Wanted(Device.byId(crate.sheetProperty().get().id()), otherCard.or(() -> crate.job().into())); }

    /// A card is loaded only while somebody looks.
    public void lookedAt(boolean isLooking) {
        isLookedAt = isLooking;
        if (isLooking && midi.isEmpty()) midi = Optional.of(new MidiKeys(new FromKeyboard()));
        if (!isLooking) {
            midi.ifPresent(MidiKeys::close);
            midi = Optional.empty();
            stop();
        }
        look();
    }

    private final class FromKeyboard implements MidiKeys.Notes {
        @Override public void on(int key, int velocity) { fx.execute(() -> DeviceModel.this.on(key, velocity)); }

        @Override public void off(int key) { fx.execute(() -> DeviceModel.this.off(key)); }

        @Override public void sustain(boolean isDown) { keys.sustain(isDown); }

        @Override public void bend(double position) { keys.bend(position); }
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
        stop();
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

    private void use() {
        stop();
        preset.get().ifPresent(p -> {
            keys.use(rate -> new Played(new DevicePlayer(p, rate), e -> fx.execute(() -> failed(e))));
            // The first note shall come at once.
            outlines.set(Map.of());
            background.run(() -> {
                Map<Path, double[]> drawn = new HashMap<>();
                p.slots().forEach(s -> drawn.computeIfAbsent(s.sound().file(), _ -> s.sound().outline(OUTLINE)));
                double loudest = drawn.values().stream().flatMapToDouble(Arrays::stream).max().orElse(1);
                drawn.replaceAll((_, peaks) -> Arrays.stream(peaks).map(peak -> peak / Math.max(1e-6, loudest)).toArray());
                return drawn;
            }, drawn -> {
                if (preset.get().equals(Optional.of(p))) outlines.set(drawn);
            }, this::failed);
        });
    }

    private void failed(Exception e) {
        crate.fail("the card cannot be read any more: " + (e.getCause() instanceof IOException io ? DiskFault.text(io) : e.getMessage()) + "; load it again");
    }

    private record Played(DevicePlayer player, Consumer<UncheckedIOException> failed) implements Sounding {
        @Override public void noteOn(int key, int velocity) {
            try {
                player.noteOn(key, velocity);
            } catch (UncheckedIOException e) {
                failed.accept(e);
            }
        }

        @Override public void noteOff(int key) { player.noteOff(key); }

        @Override public void sustain(boolean isDown) { player.sustain(isDown); }

        @Override public void bend(double position) { player.bend(position); }

        @Override public boolean isSilent() { return player.isSilent(); }

        @Override public void render(double[][] block, int frames) {
            for (double[] plane : block)
                Arrays.fill(plane, 0, frames, 0);
            player.render(block, 0, frames);
        }
    }

    public void choose(Preset chosen) { preset.set(Optional.of(chosen)); }

    public void on(int key, int velocity) {
        if (preset.get().isEmpty() || down.get().contains(key)) return;
        playback.stop();
        if (side.get() == Side.DEVICE)
            keys.noteOn(key, velocity);
        else
            line(key, velocity).ifPresentOrElse(l -> listSide.on(l, preset.get().get().name(), side.get() == Side.RESULT, key, velocity),
                    () -> crate.tell("no line of the list made what is on this key: choose Device to hear it"));
        press(key, true);
    }

    public void off(int key) {
        keys.noteOff(key);
        listSide.off(key);
        press(key, false);
    }

    private void press(int key, boolean isDown) {
        Set<Integer> now = new TreeSet<>(down.get());
        if (isDown)
            now.add(key);
        else
            now.remove(key);
        down.set(now);
    }

    /// The line that a key of the preset was made of.
    private Optional<PackingItem> line(int key, int velocity) {
        return preset.get().flatMap(p -> Optional.ofNullable(lines.get(shown.get().orElseThrow().card().resolve(p.path())))
                .or(() -> p.slots().stream().filter(s -> s.covers(key, velocity)).findFirst().flatMap(s -> Optional.ofNullable(lines.get(s.sound().file())))));
    }

    /// Plays a track alone.
    public void playTrack(int slot) {
        preset.get().ifPresent(p -> play(Performance.inTurn(p.with(List.of(p.slots().get(slot))), Performance.RATE_HZ)));
    }

    /// Plays a MIDI file on the preset.
    public void play(Path file) {
        song.set(Optional.of(file));
        if (preset.get().isEmpty()) return;
        try {
            play(Performance.of(preset.get().get(), file, Performance.RATE_HZ));
        } catch (IOException e) {
            song.set(Optional.empty());
            crate.fail("cannot play " + file.getFileName() + ": " + DiskFault.text(e));
        }
    }

    /// All sounds of the preset again, instead of the MIDI file.
    public void forgetSong() {
        stop();
        song.set(Optional.empty());
    }

    private void play(Performance next) {
        performance = Optional.of(next);
        playback.play(() -> new PerformedSound(next), this::failed);
    }

    /// What a performance makes, as a stream.
    private record PerformedSound(Performance performance) implements FrameSource {
        @Override public int channels() { return 2; }

        @Override public int rateHz() { return Performance.RATE_HZ; }

        @Override public long frames() { return Math.round(performance.seconds() * Performance.RATE_HZ); }

        @Override public int read(double[][] planes, int into, int count) { return performance.read(planes, into, count); }
    }

    /// Keys that sound: held by hand, or played by what plays.
    public Set<Integer> lit() {
        if (!playback.isPlaying()) return down.get();
        Set<Integer> all = new TreeSet<>(down.get());
        performance.ifPresent(p -> all.addAll(p.keysAt(seconds())));
        return all;
    }

    private double seconds() { return playback.heardFrames() / Performance.RATE_HZ; }

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
                    + (s.loaded().mostBytes() > 0 ? "" : ", " + Told.bytes(s.loaded().memoryBytes()))
                    + (refused == 0 ? "; it refuses nothing." : "; it refuses " + Told.count(refused, "file") + ".");
        }).orElse("");
    }

    @Override public void toggle() {
        if (playback.isPlaying())
            stop();
        else
            if (preset.get().isEmpty())
                crate.tell("nothing is loaded that could play");
            else
                song.get().ifPresentOrElse(this::play, () -> play(Performance.inTurn(preset.get().get(), Performance.RATE_HZ)));
    }

    @Override public Playback playback() { return playback; }

    @Override public void otherSide() { side.set(Side.values()[(side.get().ordinal() + 1) % Side.values().length]); }

    @Override public ObservableValue<String> side() { return side.map(Side::label); }

    @Override public double share() {
        return !playback.isPlaying() ? -1 : performance.map(p -> Math.clamp(seconds() / Math.max(0.01, p.seconds()), 0, 1)).orElse(-1.0);
    }

    @Override public Heard heard() { return playback.heardAt(seconds()); }
}
