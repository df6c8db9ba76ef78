package ablecrate.codec;

import ablecrate.audio.Depth;

/// The audio of a file to be written.
public record OutputShape(int rateHz, int channels, Depth depth, long frames) {
    public OutputShape {
        if (rateHz < 1 || channels < 1 || frames < 0)
            throw new IllegalArgumentException(rateHz + " Hz, " + channels + " channels, " + frames + " frames");
    }
}
