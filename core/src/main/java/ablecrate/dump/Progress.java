package ablecrate.dump;

import java.time.Duration;

/// Where a transfer is.
/// @param name of the sound on its way
/// @param sounds done, of all
/// @param packets of this sound that have arrived, of all
/// @param time since the cable was opened, as the cable counts it
/// @param left until the end at the cable's speed, if nothing has to go again; zero where nobody knows
public record Progress(String name, Count sounds, Count packets, Duration time, Duration left) {
    public record Count(int done, int all) {}

    /// Of all sounds, 0…1.
    public double share() { return (sounds.done() + (double) packets.done() / packets.all()) / sounds.all(); }

    /// Told after each packet.
    public interface Listener {
        void at(Progress progress);
    }
}
