package ablecrate.desktop.hearing;

import ablecrate.instrument.Instrument;
import ablecrate.play.Voices;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;

/// Plays an instrument from keys: notes come from any thread, sound is made in one of its own, which ends when all is silent for a while.
public final class KeyPlayer {
    private static final int RATE = 48_000, BLOCK = 256;
    /// How long the device stays open after the last sound.
    private static final long IDLE_NANOS = 3_000_000_000L;

    private sealed interface Event {
        record On(int key, int velocity) implements Event {}

        record Off(int key) implements Event {}

        record Use(Instrument instrument, Voices.Sounds sounds) implements Event {}
    }

    private final BlockingQueue<Event> events = new LinkedBlockingQueue<>();
    private final Runnable noDevice;
    private Optional<Event.Use> used = Optional.empty();
    private Thread thread;

    /// @param noDevice told, from the player's thread, where there is no sound device
    public KeyPlayer(Runnable noDevice) { this.noDevice = noDevice; }

    /// From now on notes play this instrument.
    /// @param sounds asked from the player's thread
    public synchronized void use(Instrument instrument, Voices.Sounds sounds) {
        used = Optional.of(new Event.Use(instrument, sounds));
        if (isRunning()) events.add(used.get());
    }

    public synchronized void noteOn(int key, int velocity) {
        if (used.isEmpty()) return;
        if (!isRunning()) {
            events.clear();
            events.add(used.get());
            thread = Thread.ofPlatform().name("keys").daemon().start(this::play);
        }
        events.add(new Event.On(key, velocity));
    }

    public synchronized void noteOff(int key) {
        if (isRunning()) events.add(new Event.Off(key));
    }

    private boolean isRunning() { return thread != null && thread.isAlive(); }

    private void play() {
        double[][] block = new double[2][BLOCK];
        Optional<Voices> voices = Optional.empty();
        long silentSince = System.nanoTime();
        try (AudioOut device = Player.deviceOrClock(RATE, noDevice)) {
            while (System.nanoTime() - silentSince < IDLE_NANOS) {
                for (Event event; (event = events.poll()) != null;)
                    voices = take(event, voices, device.rateHz());
                if (voices.isPresent() && !voices.get().isSilent()) silentSince = System.nanoTime();
                if (voices.isPresent()) voices.get().render(block, BLOCK);
                device.write(block, BLOCK);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static Optional<Voices> take(Event event, Optional<Voices> voices, int rateHz) {
        switch (event) {
            case Event.Use(Instrument instrument, Voices.Sounds sounds) -> {
                return Optional.of(new Voices(instrument, sounds, rateHz, new Random()));
            }
            case Event.On(int key, int velocity) -> voices.ifPresent(v -> v.noteOn(key, velocity));
            case Event.Off(int key) -> voices.ifPresent(v -> v.noteOff(key));
        }
        return voices;
    }
}
