package ablecrate.audio;

import java.io.Closeable;
import java.io.IOException;

/// A stream of frames, pulled. One reader per stream; not for two threads.
public interface FrameSource extends Closeable {
    int SKIPPED_AT_ONCE = 4096;

    int channels();

    int rateHz();

    /// Frames from the first to the last, whatever has been read already.
    long frames();

    /// Reads up to `count` frames into `planes[channel][at …]`.
    /// @return how many frames were read; 0 only at the end
    /// @throws IOException if the disk fails, or the file is shorter than it was when opened
    int read(double[][] planes, int at, int count) throws IOException;

    /// Passes over frames, for less than reading them takes where that can be.
    /// @return how many; fewer than `count` only at the end
    default long skip(long count) throws IOException {
        double[][] unheard = new double[channels()][(int) Math.min(count, SKIPPED_AT_ONCE)];
        long done = 0;
        for (int got; done < count && (got = read(unheard, 0, (int) Math.min(count - done, SKIPPED_AT_ONCE))) > 0;)
            done += got;
        return done;
    }

    @Override default void close() throws IOException {}

    /// Reads as many frames as are there, `count` at most, over as many reads as it takes.
    default int readFully(double[][] planes, int at, int count) throws IOException {
        int done = 0;
        while (done < count) {
            int got = read(planes, at + done, count - done);
            if (got == 0) break;
            done += got;
        }
        return done;
    }
}
