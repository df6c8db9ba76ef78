package ablecrate.standins;

import java.io.IOException;

/// A sound that can be read from anywhere.
public interface HostSound {
    int rateHz();

    int channels();

    long frames();

    /// @return `[channel][frame]`, full scale is 1; silence behind the end
    double[][] read(long from, int count) throws IOException;

    /// Reads a part of a sound.
    interface Reading {
        double[][] read(long from, int count) throws IOException;
    }

    /// A sound that something else reads.
    static HostSound of(int rateHz, int channels, long frames, Reading reading) {
        record Read(int rateHz, int channels, long frames, Reading reading) implements HostSound {
            @Override public double[][] read(long from, int count) throws IOException { return reading.read(from, count); }
        }
        return new Read(rateHz, channels, frames, reading);
    }
}
