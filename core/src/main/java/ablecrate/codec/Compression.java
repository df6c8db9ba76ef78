package ablecrate.codec;

/// What is known of a compressed sound beyond its shape.
/// @param isLossy whether the original cannot be had back; such a sound has no bit depth of its own
/// @param bitsPerSecond of all channels, the mean over the file
public record Compression(boolean isLossy, long bitsPerSecond, Start start) {
    /// Where the sound starts in what the decoder gives.
    public sealed interface Start {
        /// Frames before it.
        long delayFrames();

        /// @param saidBy what of the file says it, for people
        record Told(long delayFrames, String saidBy) implements Start {}

        /// The file does not say it; nothing is taken off.
        /// @param likelyFrames what encoders of its kind put before
        record Unknown(long likelyFrames) implements Start {
            @Override public long delayFrames() { return 0; }
        }
    }

    /// Without loss, and without delay.
    public static Compression lossless(long bitsPerSecond) { return new Compression(false, bitsPerSecond, new Start.Told(0, "codec without delay")); }
}
