package ablecrate.desktop.hearing;

import ablecrate.audio.FrameSource;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;

/// What is heard of one part of the window: one sound at a time, and how loud. FX thread only.
public final class Playback {
    private final Executor fx;
    private final Runnable noDevice;
    private final ReadOnlyBooleanWrapper playing = new ReadOnlyBooleanWrapper();
    private Optional<Player> player = Optional.empty();
    private double volumeDb;

    /// @param fx where answers of the player's thread go
    /// @param noDevice told where there is no sound device
    public Playback(Executor fx, Runnable noDevice) {
        this.fx = fx;
        this.noDevice = noDevice;
    }

    public ReadOnlyBooleanProperty playingProperty() { return playing.getReadOnlyProperty(); }

    /// Plays this instead of what is heard.
    /// @param failed told of what went wrong on the way
    public void play(Callable<FrameSource> opening, Consumer<Exception> failed) {
        stop();
        Player next = new Player(opening, rate -> Player.deviceOrClock(rate, () -> fx.execute(noDevice)), fault -> fx.execute(() -> {
            if (fault != null) failed.accept(fault);
            // Another one may play by now.
            if (player.filter(Player::isOver).isPresent()) forget();
        }));
        next.setVolumeDb(volumeDb);
        player = Optional.of(next);
        playing.set(true);
        next.start();
    }

    public void stop() {
        player.ifPresent(Player::stop);
        forget();
    }

    private void forget() {
        player = Optional.empty();
        playing.set(false);
    }

    /// @param db 0 or below
    public void setVolumeDb(double db) {
        volumeDb = db;
        player.ifPresent(p -> p.setVolumeDb(db));
    }

    public boolean isPlaying() { return player.isPresent(); }

    /// Frames of the source that were heard; 0 while nothing plays.
    public double heardFrames() { return player.map(Player::heardSourceFrames).orElse(0.0); }

    /// @param seconds where in the sound that is
    public Hearable.Heard heardAt(double seconds) {
        return player.map(p -> new Hearable.Heard(seconds, p.leftDb(), p.rightDb())).orElse(Hearable.Heard.NOTHING);
    }
}
