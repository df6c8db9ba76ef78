package ablecrate.codec;

import ablecrate.audio.SeekableSource;
import java.io.IOException;
import java.util.Arrays;
import java.util.function.LongConsumer;

/// Two mono sounds as one: left and right. The shorter one ends in silence.
final class SidesSource implements SeekableSource {
    private final SeekableSource left, right;
    private long position;

    SidesSource(SoundFile leftFile, SoundFile rightFile, LongConsumer bad) throws IOException {
        left = leftFile.open(bad);
        try {
            right = rightFile.open(bad);
        } catch (IOException e) {
            left.close();
            throw e;
        }
    }

    @Override public int channels() { return 2; }

    @Override public int rateHz() { return left.rateHz(); }

    @Override public long frames() { return Math.max(left.frames(), right.frames()); }

    @Override public void seek(long frame) throws IOException {
        left.seek(Math.min(frame, left.frames()));
        right.seek(Math.min(frame, right.frames()));
        position = frame;
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = (int) Math.min(count, frames() - position);
        fill(left, planes[0], at, n);
        fill(right, planes[1], at, n);
        position += n;
        return n;
    }

    private static void fill(SeekableSource side, double[] plane, int at, int count) throws IOException {
        int got = side.readFully(new double[][]{plane}, at, count);
        Arrays.fill(plane, at + got, at + count, 0);
    }

    @Override public void close() throws IOException {
        try (left) {
            right.close();
        }
    }
}
