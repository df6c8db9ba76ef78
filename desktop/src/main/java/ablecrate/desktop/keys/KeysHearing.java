package ablecrate.desktop.keys;

import ablecrate.desktop.hearing.KeyPlayer;
import ablecrate.desktop.hearing.MidiKeys;
import ablecrate.desktop.hearing.Sounding;
import ablecrate.instrument.Instrument;
import ablecrate.plan.PlannedOutput;
import ablecrate.play.KeptSounds;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executor;
import javafx.animation.PauseTransition;
import javafx.animation.SequentialTransition;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.util.Duration;
import org.slf4j.LoggerFactory;

/// The instrument of the key bench under the fingers: as the source has it, or as the destination will. FX thread only, but for notes of MIDI keyboards.
public final class KeysHearing {
    /// How long a note lasts that is only tapped.
    private static final int TAP_MS = 700;
    /// From one tap to the next where two are compared.
    private static final int NEXT_MS = 1_100;

    private final KeysModel model;
    private final SoundPath path;
    private final KeyPlayer player;
    private final Executor fx;
    private final ReadOnlyObjectWrapper<Set<Integer>> heard = new ReadOnlyObjectWrapper<>(Set.of());
    private volatile KeptSounds kept = new KeptSounds();
    /// What could not be read is not tried again for each note.
    private final Set<Object> unread = ConcurrentHashMap.newKeySet();
    private final BooleanProperty result;
    private Optional<MidiKeys> midi = Optional.empty();
    private Optional<SequentialTransition> both = Optional.empty();

    /// @param result whether the result is heard rather than the source
    public KeysHearing(KeysModel model, SoundPath path, BooleanProperty result, Executor fx, Runnable noDevice) {
        this.model = model;
        this.path = path;
        this.result = result;
        this.fx = fx;
        player = new KeyPlayer(noDevice);
        model.versionProperty().subscribe(_ -> use());
        result.subscribe(_ -> use());
        model.instrumentProperty().subscribe(_ -> {
            kept = new KeptSounds();
            unread.clear();
        });
    }

    private void use() {
        Optional<Instrument> planned = result.get() ? model.planned() : Optional.empty();
        List<PlannedOutput> outputs = model.plannedSounds();
        if (planned.isPresent())
            use(planned.get(), sample -> load(outputs.get(sample),
                    () -> LoadedSound.of(path.open(outputs.get(sample).source(), outputs.get(sample).sourceChain(), outputs.get(sample).outputChain()))));
        else
            model.instrumentProperty().get()
                    .ifPresent(i -> use(i, sample -> model.sound(sample).flatMap(file -> load(file, () -> LoadedSound.of(file.open())))));
    }

    private void use(Instrument instrument, Voices.Sounds sounds) { player.use(rate -> new Played(new Voices(instrument, sounds, rate, new Random()))); }

    private record Played(Voices voices) implements Sounding {
        @Override public void noteOn(int key, int velocity) { voices.noteOn(key, velocity); }

        @Override public void noteOff(int key) { voices.noteOff(key); }

        @Override public void sustain(boolean isDown) { voices.sustain(isDown); }

        @Override public void bend(double position) { voices.bend(position); }

        @Override public void wheel(double position) { voices.wheel(position); }

        @Override public boolean isSilent() { return voices.isSilent(); }

        @Override public void render(double[][] block, int frames) { voices.render(block, frames); }
    }

    private Optional<LoadedSound> load(Object key, KeptSounds.Reader reader) {
        if (unread.contains(key)) return Optional.empty();
        try {
            return Optional.of(kept.get(key, reader));
        } catch (IOException e) {
            LoggerFactory.getLogger(KeysHearing.class).warn("cannot play a zone: {}", e.getMessage());
            unread.add(key);
            return Optional.empty();
        }
    }

    /// Keys that are down.
    public ReadOnlyObjectProperty<Set<Integer>> heardProperty() { return heard.getReadOnlyProperty(); }

    public void on(int key, int velocity) {
        if (heard.get().contains(key) || model.instrumentProperty().get().isEmpty()) return;
        player.noteOn(key, velocity);
        Set<Integer> down = new TreeSet<>(heard.get());
        down.add(key);
        heard.set(down);
    }

    public void off(int key) {
        player.noteOff(key);
        Set<Integer> down = new TreeSet<>(heard.get());
        down.remove(key);
        heard.set(down);
    }

    public void tap(int key, int velocity) {
        on(key, velocity);
        PauseTransition pause = new PauseTransition(Duration.millis(TAP_MS));
        pause.setOnFinished(_ -> off(key));
        pause.play();
    }

    /// A note as the source has it, and then as the destination will.
    public void tapBoth(int key, int velocity) {
        if (both.isPresent()) both.get().stop();
        boolean wasResult = result.get();
        result.set(false);
        tap(key, velocity);
        PauseTransition first = new PauseTransition(Duration.millis(NEXT_MS)), second = new PauseTransition(Duration.millis(NEXT_MS));
        first.setOnFinished(_ -> {
            result.set(true);
            tap(key, velocity);
        });
        second.setOnFinished(_ -> result.set(wasResult));
        SequentialTransition sequence = new SequentialTransition(first, second);
        both = Optional.of(sequence);
        sequence.play();
    }

    /// Listens to MIDI keyboards while the key bench is shown.
    public void shown(boolean isShown) {
        if (isShown && midi.isEmpty())
            midi = Optional.of(new MidiKeys(new MidiKeys.Notes() {
                @Override public void on(int key, int velocity) { fx.execute(() -> KeysHearing.this.on(key, velocity)); }

                @Override public void off(int key) { fx.execute(() -> KeysHearing.this.off(key)); }

                @Override public void sustain(boolean isDown) { player.sustain(isDown); }

                @Override public void bend(double position) { player.bend(position); }

                @Override public void wheel(double position) { player.wheel(position); }
            }));
        if (!isShown) {
            midi.ifPresent(MidiKeys::close);
            midi = Optional.empty();
        }
    }
}
