package ablecrate.desktop.keys;

/// Which keys and velocities lie under which pixels: keys from left to right, velocities upwards, the keyboard along the bottom. Knows no toolkit.
/// @param width,height in pixels
/// @param lowKey at the left edge; a fraction where one has zoomed
/// @param highKey at the right edge, beyond the last
/// @param lowVelocity at the bottom edge, half a step below the lowest
/// @param highVelocity at the top edge
record KeyScale(double width, double height, double lowKey, double highKey, double lowVelocity, double highVelocity) {
    static final double LEFT = 34, RIGHT = 10, TOP = 8, KEYBOARD = 46;
    private static final double FEWEST_KEYS = 6, FEWEST_VELOCITIES = 8;

    /// All velocities of some keys.
    static KeyScale of(double width, double height, int lowestKey, int highestKey) {
        return new KeyScale(width, height, lowestKey, highestKey + 1, 0.5, 127.5);
    }

    KeyScale sized(double w, double h) { return new KeyScale(w, h, lowKey, highKey, lowVelocity, highVelocity); }

    int lowestKey() { return Math.clamp((int) Math.floor(lowKey), 0, 127); }

    int highestKey() { return Math.clamp((int) Math.ceil(highKey) - 1, 0, 127); }

    double x(double key) { return LEFT + (key - lowKey) / (highKey - lowKey) * (width - LEFT - RIGHT); }

    double y(double velocity) { return TOP + (highVelocity - velocity) / (highVelocity - lowVelocity) * (height - TOP - KEYBOARD); }

    int keyAt(double x) { return Math.clamp((int) Math.floor(keyUnder(x)), 0, 127); }

    int velocityAt(double y) { return Math.clamp(Math.round(velocityUnder(y)), 1, 127); }

    boolean isKeyboard(double y) { return y > height - KEYBOARD; }

    private double keyUnder(double x) { return lowKey + (x - LEFT) / (width - LEFT - RIGHT) * (highKey - lowKey); }

    private double velocityUnder(double y) { return highVelocity - (y - TOP) / (height - TOP - KEYBOARD) * (highVelocity - lowVelocity); }

    /// @param factor below 1 is nearer
    /// @param x stays where it is
    KeyScale keysZoomed(double factor, double x) {
        double span = Math.clamp((highKey - lowKey) * factor, FEWEST_KEYS, 128), share = Math.clamp((x - LEFT) / (width - LEFT - RIGHT), 0, 1);
        return withKeys(keyUnder(x) - share * span, span);
    }

    /// @param y stays where it is
    KeyScale velocitiesZoomed(double factor, double y) {
        double span = Math.clamp((highVelocity - lowVelocity) * factor, FEWEST_VELOCITIES, 127),
                share = Math.clamp((y - TOP) / (height - TOP - KEYBOARD), 0, 1),
                high = Math.clamp(velocityUnder(y) + share * span, 0.5 + span, 127.5);
        return new KeyScale(width, height, lowKey, highKey, high - span, high);
    }

    KeyScale moved(double keys) { return withKeys(lowKey + keys, highKey - lowKey); }

    private KeyScale withKeys(double low, double span) {
        double from = Math.clamp(low, 0, 128 - span);
        return new KeyScale(width, height, from, from + span, lowVelocity, highVelocity);
    }
}
