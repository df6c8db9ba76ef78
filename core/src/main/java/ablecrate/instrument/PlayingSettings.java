package ablecrate.instrument;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// How a device is to play an instrument as a whole, where the description of one can say so. What is not said is as usual: channel 1, many voices, a wheel
/// that bends by two keys and one that does nothing, straight lines between samples.
/// @param channel that it listens on, 1 to 16
/// @param isMono whether a note ends the one before
/// @param bendKeys by which the bend wheel raises and lowers, 0 to 24
/// @param wheelCents of vibrato that the fully raised modulation wheel adds, 0 to 1200
/// @param isSmooth whether the device is to play a smooth curve between samples, rather than a straight line
public record PlayingSettings(Optional<Integer> channel, Optional<Boolean> isMono, Optional<Integer> bendKeys, Optional<Integer> wheelCents,
        Optional<Boolean> isSmooth) {
    public static final PlayingSettings NONE = new PlayingSettings(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty());
    public static final int MOST_BEND = 24, MOST_WHEEL = 1200;
    private static final int CHANNELS = 16;

    public PlayingSettings {
        if (channel.filter(c -> c < 1 || c > CHANNELS).isPresent())
            throw new IllegalArgumentException("there are MIDI channels 1 to " + CHANNELS + ", not " + channel.get());
        if (bendKeys.filter(b -> b < 0 || b > MOST_BEND).isPresent())
            throw new IllegalArgumentException("a wheel bends by 0 to " + MOST_BEND + " keys, not " + bendKeys.get());
        if (wheelCents.filter(w -> w < 0 || w > MOST_WHEEL).isPresent())
            throw new IllegalArgumentException("a wheel adds vibrato of 0 to " + MOST_WHEEL + " cents, not " + wheelCents.get());
    }

    public PlayingSettings withChannel(Optional<Integer> other) { return new PlayingSettings(other, isMono, bendKeys, wheelCents, isSmooth); }

    public PlayingSettings withMono(Optional<Boolean> mono) { return new PlayingSettings(channel, mono, bendKeys, wheelCents, isSmooth); }

    public PlayingSettings withBend(Optional<Integer> keys) { return new PlayingSettings(channel, isMono, keys, wheelCents, isSmooth); }

    public PlayingSettings withWheel(Optional<Integer> cents) { return new PlayingSettings(channel, isMono, bendKeys, cents, isSmooth); }

    public PlayingSettings withSmooth(Optional<Boolean> smooth) { return new PlayingSettings(channel, isMono, bendKeys, wheelCents, smooth); }

    /// With those of others where it says nothing.
    public PlayingSettings or(PlayingSettings others) {
        return new PlayingSettings(channel.or(others::channel), isMono.or(others::isMono), bendKeys.or(others::bendKeys), wheelCents.or(others::wheelCents),
                isSmooth.or(others::isSmooth));
    }

    /// What is said, for people: `MIDI channel 10`, `one voice`, `bend by 12 keys`.
    public List<String> told() {
        List<String> told = new ArrayList<>();
        channel.ifPresent(c -> told.add("MIDI channel " + c));
        isMono.ifPresent(mono -> told.add(mono ? "one voice" : "many voices"));
        bendKeys.ifPresent(b -> told.add("bend by " + b + (b == 1 ? " key" : " keys")));
        wheelCents.ifPresent(w -> told.add("wheel to vibrato of " + w + " cents"));
        isSmooth.ifPresent(smooth -> told.add(smooth ? "smooth interpolation" : "straight interpolation"));
        return told;
    }
}
