package ablecrate.standins;

import java.io.IOException;

/// A sound that can be read from anywhere.
public interface HostSound {
    int rateHz();

    int channels();

    long frames();

    /// @return `[channel][frame]`, full scale is 1; silence behind the end
    double[][] read(long from, int count) throws IOException;
}
