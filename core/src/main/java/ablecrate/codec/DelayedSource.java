package ablecrate.codec;

import ablecrate.audio.SeekableSource;
import java.io.IOException;
import java.util.Arrays;

/// A sound with silence in front of it.
final class DelayedSource implements SeekableSource {
    private final SeekableSource sound;
    private final long silence;
    private long position;

    DelayedSource(SeekableSource sound, long silence) {
        this.sound = sound;
        this.silence = silence;
    }

    @Override public int channels() { return sound.channels(); }

    @Override public int rateHz() { return sound.rateHz(); }

    @Override public long frames() { return silence + sound.frames(); }

    @Override public void seek(long frame) throws IOException {
        sound.seek(Math.max(0, frame - silence));
        position = frame;
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int silent = Math.clamp(silence - position, 0, count), got = silent;
        if (silent > 0)
            for (double[] plane : planes)
                Arrays.fill(plane, at, at + silent, 0);
        else
            got = sound.read(planes, at, count);
        position += got;
        return got;
    }

    @Override public void close() throws IOException { sound.close(); }
}
