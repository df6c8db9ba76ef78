package ablecrate.desktop.device;

import ablecrate.audio.FrameSource;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.hearing.KeyPlayer;
import ablecrate.desktop.hearing.MidiKeys;
import ablecrate.desktop.hearing.Playback;
import ablecrate.desktop.hearing.Sounding;
import ablecrate.disk.DiskFault;
import ablecrate.plan.PackingItem;
import ablecrate.standins.DevicePlayer;
import ablecrate.standins.Performance;
import ablecrate.standins.Preset;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.value.ObservableValue;

/// The device under the fingers: its keys, pads and tracks, played by hand or by a MIDI file; the same keys play the result and the source as well.
/// FX thread only, but for notes of MIDI keyboards.
public final class DeviceModel implements Hearable {
    public static final int USUAL_VELOCITY = 100;

    /// The three that can be compared.
    public enum Side {
        DEVICE("Device"), RESULT("Result"), SOURCE("Source");

        private final String label;

        Side(String label) { this.label = label; }

        public String label() { return label; }
    }

    /// Plays what the packing list has of a sound or an instrument.
    public interface ListSide {
        /// @param isResult whether the result is heard rather than the source
        /// @param instrument by its name, where the line has several
        void on(PackingItem line, String instrument, boolean isResult, int key, int velocity);

        void off(int key);
    }

    private final DeviceCard card;
    private final CardChanges changes;
    private final CrateModel crate;
    private final ListSide listSide;
    private final Playback playback;
    private final KeyPlayer keys;
    private final Executor fx;
    private final ReadOnlyObjectWrapper<Set<Integer>> down = new ReadOnlyObjectWrapper<>(Set.of());
    private final ObjectProperty<Side> side = new SimpleObjectProperty<>(Side.DEVICE);
    private final BooleanProperty letters = new SimpleBooleanProperty(true);
    private final ReadOnlyObjectWrapper<Optional<Path>> song = new ReadOnlyObjectWrapper<>(Optional.empty());
    private Optional<MidiKeys> midi = Optional.empty();
    private Optional<Performance> performance = Optional.empty();

    public DeviceModel(DeviceCard card, CardChanges changes, CrateModel crate, ListSide listSide, Executor fx) {
        this.card = card;
        this.changes = changes;
        this.crate = crate;
        this.listSide = listSide;
        this.fx = fx;
        playback = new Playback(fx, this::silent);
        keys = new KeyPlayer(() -> fx.execute(this::silent));
        card.shownProperty().subscribe(_ -> stop());
        card.presetProperty().subscribe(this::use);
        side.subscribe(() -> List.copyOf(down.get()).forEach(this::off));
    }

    private void silent() { crate.tell("no sound device: running silent"); }

    public DeviceCard card() { return card; }

    public CardChanges changes() { return changes; }

    private Optional<Preset> preset() { return card.presetProperty().get(); }

    /// Keys and pads that are held.
    public ReadOnlyObjectProperty<Set<Integer>> downProperty() { return down.getReadOnlyProperty(); }

    public ObjectProperty<Side> sideProperty() { return side; }

    /// Whether letters play notes.
    public BooleanProperty lettersProperty() { return letters; }

    boolean areLettersNotes() { return letters.get(); }

    /// The MIDI file that is played, if one was chosen.
    public ReadOnlyObjectProperty<Optional<Path>> songProperty() { return song.getReadOnlyProperty(); }

    /// Listens to MIDI keyboards, and has the card loaded, while somebody looks.
    public void lookedAt(boolean isLooking) {
        if (isLooking && midi.isEmpty()) midi = Optional.of(new MidiKeys(new FromKeyboard()));
        if (!isLooking) {
            midi.ifPresent(MidiKeys::close);
            midi = Optional.empty();
            stop();
        }
        card.lookedAt(isLooking);
    }

    private final class FromKeyboard implements MidiKeys.Notes {
        @Override public void on(int key, int velocity) { fx.execute(() -> DeviceModel.this.on(key, velocity)); }

        @Override public void off(int key) { fx.execute(() -> DeviceModel.this.off(key)); }

        @Override public void sustain(boolean isDown) { keys.sustain(isDown); }

        @Override public void bend(double position) { keys.bend(position); }

        @Override public void wheel(double position) { keys.wheel(position); }
    }

    private void use() {
        stop();
        preset().ifPresent(p -> keys.use(rate -> new Played(new DevicePlayer(p, rate), e -> fx.execute(() -> card.failed(e)))));
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

        @Override public void wheel(double position) { player.wheel(position); }

        @Override public boolean isSilent() { return player.isSilent(); }

        @Override public void render(double[][] block, int frames) {
            for (double[] plane : block)
                Arrays.fill(plane, 0, frames, 0);
            player.render(block, 0, frames);
        }
    }

    public void on(int key, int velocity) {
        if (preset().isEmpty() || down.get().contains(key)) return;
        playback.stop();
        if (side.get() == Side.DEVICE)
            keys.noteOn(key, velocity);
        else
            card.line(key, velocity).ifPresentOrElse(l -> listSide.on(l, preset().get().name(), side.get() == Side.RESULT, key, velocity),
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

    /// Plays a track alone.
    public void playTrack(int slot) {
        preset().ifPresent(p -> play(Performance.inTurn(p.with(List.of(p.slots().get(slot))), Performance.RATE_HZ)));
    }

    /// Plays a MIDI file on the preset.
    public void play(Path file) {
        song.set(Optional.of(file));
        if (preset().isEmpty()) return;
        try {
            Performance next = Performance.of(preset().get(), file, Performance.RATE_HZ);
            if (next.isEmpty()) crate.tell("no note of " + file.getFileName() + " is on the MIDI channel that '" + preset().get().name() + "' listens on");
            play(next);
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
        playback.play(() -> new PerformedSound(next), card::failed);
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

    @Override public void toggle() {
        if (playback.isPlaying())
            stop();
        else
            if (preset().isEmpty())
                crate.tell("nothing is loaded that could play");
            else
                song.get().ifPresentOrElse(this::play, () -> play(Performance.inTurn(preset().get(), Performance.RATE_HZ)));
    }

    @Override public Playback playback() { return playback; }

    @Override public void otherSide() { side.set(Side.values()[(side.get().ordinal() + 1) % Side.values().length]); }

    @Override public ObservableValue<String> side() { return side.map(Side::label); }

    @Override public double share() {
        return !playback.isPlaying() ? -1 : performance.map(p -> Math.clamp(seconds() / Math.max(0.01, p.seconds()), 0, 1)).orElse(-1.0);
    }

    @Override public Heard heard() { return playback.heardAt(seconds()); }
}
