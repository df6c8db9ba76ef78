package ablecrate.codec;

import ablecrate.audio.Depth;

/// The audio of a file to be written.
/// @param quality where the format is lossy; it has no depth then
/// @param number among the sounds that are written, from 0, for formats that number them
public record OutputShape(int rateHz, int channels, Depth depth, long frames, Quality quality, int number) {
    public OutputShape {
        if (rateHz < 1 || channels < 1 || frames < 0)
            throw new IllegalArgumentException(rateHz + " Hz, " + channels + " channels, " + frames + " frames");
    }

    public OutputShape(int rateHz, int channels, Depth depth, long frames, Quality quality) { this(rateHz, channels, depth, frames, quality, 0); }

    public OutputShape(int rateHz, int channels, Depth depth, long frames) { this(rateHz, channels, depth, frames, Quality.DEFAULT); }

    public OutputShape numbered(int other) { return new OutputShape(rateHz, channels, depth, frames, quality, other); }
}
