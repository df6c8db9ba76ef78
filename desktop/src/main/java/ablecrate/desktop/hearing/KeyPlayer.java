package ablecrate.desktop.hearing;

import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.function.IntFunction;

/// Plays what is under the fingers: notes come from any thread, sound is made in one of its own, which ends when all is silent for a while.
public final class KeyPlayer {
    private static final int RATE = 48_000, BLOCK = 256;
    /// How long the device stays open after the last sound.
    private static final long IDLE_NANOS = 3_000_000_000L;

    private sealed interface Event {
        record On(int key, int velocity) implements Event {}

        record Off(int key) implements Event {}

        record Sustain(boolean isDown) implements Event {}

        record Bend(double position) implements Event {}

        record Wheel(double position) implements Event {}

        record Use(IntFunction<Sounding> maker) implements Event {}
    }

    private final BlockingQueue<Event> events = new LinkedBlockingQueue<>();
    private final Runnable noDevice;
    private Optional<Event.Use> used = Optional.empty();
    private Thread thread;

    /// @param noDevice told, from the player's thread, where there is no sound device
    public KeyPlayer(Runnable noDevice) { this.noDevice = noDevice; }

    /// From now on notes play this.
    /// @param maker makes it for a rate in Hz; asked from the player's thread
    public synchronized void use(IntFunction<Sounding> maker) {
        used = Optional.of(new Event.Use(maker));
        send(used.get());
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

    public void noteOff(int key) { send(new Event.Off(key)); }

    public void sustain(boolean isDown) { send(new Event.Sustain(isDown)); }

    public void bend(double position) { send(new Event.Bend(position)); }

    public void wheel(double position) { send(new Event.Wheel(position)); }

    private synchronized void send(Event event) {
        if (isRunning()) events.add(event);
    }

    private boolean isRunning() { return thread != null && thread.isAlive(); }

    private void play() {
        double[][] block = new double[2][BLOCK];
        Optional<Sounding> sounding = Optional.empty();
        long silentSince = System.nanoTime();
        try (AudioOut device = Player.deviceOrClock(RATE, noDevice)) {
            while (System.nanoTime() - silentSince < IDLE_NANOS) {
                for (Event event; (event = events.poll()) != null;)
                    sounding = take(event, sounding, device.rateHz());
                if (sounding.isPresent() && !sounding.get().isSilent()) silentSince = System.nanoTime();
                if (sounding.isPresent()) sounding.get().render(block, BLOCK);
                device.write(block, BLOCK);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static Optional<Sounding> take(Event event, Optional<Sounding> sounding, int rateHz) {
        switch (event) {
            case Event.Use(IntFunction<Sounding> maker) -> {
                return Optional.of(maker.apply(rateHz));
            }
            case Event.On(int key, int velocity) -> sounding.ifPresent(s -> s.noteOn(key, velocity));
            case Event.Off(int key) -> sounding.ifPresent(s -> s.noteOff(key));
            case Event.Sustain(boolean isDown) -> sounding.ifPresent(s -> s.sustain(isDown));
            case Event.Bend(double position) -> sounding.ifPresent(s -> s.bend(position));
            case Event.Wheel(double position) -> sounding.ifPresent(s -> s.wheel(position));
        }
        return sounding;
    }
}
