package ablecrate.instrument;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// How a device is to play an instrument as a whole, where the description of one can say so. What is not said is as usual: channel 1, many voices, a wheel
/// that bends by two keys.
/// @param channel that it listens on, 1 to 16
/// @param isMono whether a note ends the one before
/// @param bendKeys by which the wheel raises and lowers, 0 to 24
public record PlayingSettings(Optional<Integer> channel, Optional<Boolean> isMono, Optional<Integer> bendKeys) {
    public static final PlayingSettings NONE = new PlayingSettings(Optional.empty(), Optional.empty(), Optional.empty());
    public static final int MOST_BEND = 24;
    private static final int CHANNELS = 16;

    public PlayingSettings {
        if (channel.filter(c -> c < 1 || c > CHANNELS).isPresent())
            throw new IllegalArgumentException("there are MIDI channels 1 to " + CHANNELS + ", not " + channel.get());
        if (bendKeys.filter(b -> b < 0 || b > MOST_BEND).isPresent())
            throw new IllegalArgumentException("a wheel bends by 0 to " + MOST_BEND + " keys, not " + bendKeys.get());
    }

    public PlayingSettings withChannel(Optional<Integer> other) { return new PlayingSettings(other, isMono, bendKeys); }

    public PlayingSettings withMono(Optional<Boolean> mono) { return new PlayingSettings(channel, mono, bendKeys); }

    public PlayingSettings withBend(Optional<Integer> keys) { return new PlayingSettings(channel, isMono, keys); }

    /// With those of others where it says nothing.
    public PlayingSettings or(PlayingSettings others) {
        return new PlayingSettings(channel.or(others::channel), isMono.or(others::isMono), bendKeys.or(others::bendKeys));
    }

    /// What is said, for people: `MIDI channel 10`, `one voice`, `bend by 12 keys`.
    public List<String> told() {
        List<String> told = new ArrayList<>();
        channel.ifPresent(c -> told.add("MIDI channel " + c));
        isMono.ifPresent(mono -> told.add(mono ? "one voice" : "many voices"));
        bendKeys.ifPresent(b -> told.add("bend by " + b + (b == 1 ? " key" : " keys")));
        return told;
    }
}
