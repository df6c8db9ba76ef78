package ablecrate.instrument;

/// How a device is to play an instrument as a whole, where the description of one can say so.
/// @param channel that it listens on, 1 to 16
/// @param isMono whether a note ends the one before
/// @param bendKeys by which the wheel raises and lowers, 0 to 24
public record PlayingSettings(int channel, boolean isMono, int bendKeys) {
    public static final PlayingSettings USUAL = new PlayingSettings(1, false, 2);
    private static final int CHANNELS = 16, MOST_BEND = 24;

    public PlayingSettings {
        if (channel < 1 || channel > CHANNELS) throw new IllegalArgumentException("there are MIDI channels 1 to " + CHANNELS + ", not " + channel);
        if (bendKeys < 0 || bendKeys > MOST_BEND) throw new IllegalArgumentException("a wheel bends by 0 to " + MOST_BEND + " keys, not " + bendKeys);
    }

    public PlayingSettings withChannel(int other) { return new PlayingSettings(other, isMono, bendKeys); }

    public PlayingSettings withMono(boolean mono) { return new PlayingSettings(channel, mono, bendKeys); }

    public PlayingSettings withBend(int keys) { return new PlayingSettings(channel, isMono, keys); }
}
