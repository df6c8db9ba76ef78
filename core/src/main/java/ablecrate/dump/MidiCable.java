package ablecrate.dump;

import java.io.Closeable;
import java.io.IOException;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;

/// A MIDI connection in both directions.
public interface MidiCable extends Closeable {
    /// A byte is ten bits of 31,250 a second.
    /// Source: MIDI Manufacturers Association, *MIDI 1.0 detailed specification*, hardware.
    Duration BYTE_TIME = Duration.ofNanos(320_000);

    static Duration timeOf(long bytes) { return BYTE_TIME.multipliedBy(bytes); }

    /// Returns when the message is through.
    /// @param message system exclusive, F0…F7
    /// @throws IOException if the port is gone
    void send(byte[] message) throws IOException;

    /// The next system exclusive message that comes in.
    /// @return empty if none has come within that time
    Optional<byte[]> receive(Duration most) throws IOException;

    /// Since it was opened, as the cable counts it.
    Duration time();

    @Override void close();

    /// One that is made of its parts, and has nothing to close.
    static MidiCable of(Consumer<byte[]> send, Function<Duration, Optional<byte[]>> receive, Supplier<Duration> time) {
        return new MidiCable() {
            @Override public void send(byte[] message) { send.accept(message); }

            @Override public Optional<byte[]> receive(Duration most) { return receive.apply(most); }

            @Override public Duration time() { return time.get(); }

            @Override public void close() {}
        };
    }
}
