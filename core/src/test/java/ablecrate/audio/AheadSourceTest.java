package ablecrate.audio;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import java.io.IOException;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;

class AheadSourceTest {
    private static final double[] NOISE = Sounds.signal(100_001, n -> Math.sin(0.1 * n * n));

    /// @param faultAt frame that cannot be read
    private record Fragile(FrameSource sound, int faultAt, AtomicBoolean isClosed, int[] place) implements FrameSource {
        @Override public int channels() { return sound.channels(); }

        @Override public int rateHz() { return sound.rateHz(); }

        @Override public long frames() { return sound.frames(); }

        @Override public int read(double[][] planes, int at, int count) throws IOException {
            if (place[0] >= faultAt) throw new IOException("the disk is gone");
            int got = sound.read(planes, at, Math.min(count, faultAt - place[0]));
            place[0] += got;
            return got;
        }

        @Override public void close() { isClosed.set(true); }
    }

    private static Fragile fragile(int faultAt) { return new Fragile(Sounds.source(44_100, NOISE), faultAt, new AtomicBoolean(), new int[1]); }

    @Test void whatIsReadAheadIsTheSame() throws Exception {
        Fragile source = fragile(Integer.MAX_VALUE);
        double[][] read = new double[1][NOISE.length + 10];
        try (AheadSource ahead = new AheadSource(source, "test")) {
            int at = 0;
            for (int got, count = 1; (got = ahead.read(read, at, Math.min(count, read[0].length - at))) > 0; count = count * 3 % 9973 + 1)
                at += got;
            assertThat(at).isEqualTo(NOISE.length);
            assertThat(ahead.read(read, 0, 10)).as("the end stays the end").isZero();
        }
        assertThat(java.util.Arrays.copyOf(read[0], NOISE.length)).containsExactly(NOISE);
        assertThat(source.isClosed()).isTrue();
    }

    @Test void aFaultIsToldWhereItIsAndTheSourceIsClosed() throws Exception {
        Fragile source = fragile(50_000);
        double[][] read = new double[1][NOISE.length];
        try (AheadSource ahead = new AheadSource(source, "test")) {
            assertThatThrownBy(() -> ahead.readFully(read, 0, NOISE.length)).isInstanceOf(IOException.class).hasMessage("the disk is gone");
        }
        assertThat(source.isClosed()).isTrue();
        Fragile left = fragile(Integer.MAX_VALUE);
        new AheadSource(left, "test").close();
        assertThat(left.isClosed()).as("also where nothing was read").isTrue();
    }
}
