package ablecrate.audio;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import java.io.IOException;
import java.util.Arrays;
import java.util.Queue;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class PiecedSourceTest {
    private static final int STEP = 1000;
    private static final double[] LEFT = Sounds.signal(1_300_123, n -> n * 1e-7), RIGHT = Sounds.signal(LEFT.length, n -> -n * 1e-7);

    private final AtomicInteger open = new AtomicInteger();
    private final Queue<Long> places = new ConcurrentLinkedQueue<>();

    /// @param faultAt frame that cannot be read
    private PiecedSource pieces(long faultAt) {
        return new PiecedSource(2, 44_100, LEFT.length, STEP, start -> {
            places.add(start);
            open.incrementAndGet();
            SeekableSource from = new MemorySource(44_100, new double[][]{LEFT, RIGHT});
            from.seek(start);
            return new FrameSource() {
                private long at = start;

                @Override public int channels() { return 2; }

                @Override public int rateHz() { return 44_100; }

                @Override public long frames() { return LEFT.length; }

                @Override public int read(double[][] planes, int to, int count) throws IOException {
                    if (at >= faultAt) throw new IOException("the disk is gone");
                    int got = from.read(planes, to, (int) Math.min(count, faultAt - at));
                    at += got;
                    return got;
                }

                @Override public void close() { open.decrementAndGet(); }
            };
        });
    }

    private static <T> T byWorkers(int count, Callable<T> work) throws Exception {
        try (ForkJoinPool pool = new ForkJoinPool(count)) {
            return pool.submit(work).get();
        }
    }

    private double[][] read() throws IOException {
        double[][] read = new double[2][LEFT.length + 10];
        try (PiecedSource source = pieces(Long.MAX_VALUE)) {
            int at = 0;
            for (int got, count = 1; (got = source.read(read, at, Math.min(count, read[0].length - at))) > 0; count = count * 3 % 99_991 + 1)
                at += got;
            assertThat(at).isEqualTo(LEFT.length);
            assertThat(source.read(read, 0, 10)).as("the end stays the end").isZero();
        }
        return new double[][]{Arrays.copyOf(read[0], LEFT.length), Arrays.copyOf(read[1], LEFT.length)};
    }

    @Test void whatComesInPiecesIsTheSame() throws Exception {
        for (int workers : new int[]{2, 4}) {
            places.clear();
            double[][] read = byWorkers(workers, this::read);
            assertThat(read[0]).isEqualTo(LEFT);
            assertThat(read[1]).isEqualTo(RIGHT);
            assertThat(places).as("it came in pieces").hasSizeGreaterThan(2).doesNotHaveDuplicates().allMatch(p -> p % STEP == 0);
            assertThat(open).hasValue(0);
        }
    }

    @Test void whereNobodyIsIdleItIsReadInOneGo() throws Exception {
        assertThat(read()[1]).as("without workers").isEqualTo(RIGHT);
        assertThat(byWorkers(1, this::read)[1]).isEqualTo(RIGHT);
        assertThat(places).containsExactly(0L, 0L);
        assertThat(open).hasValue(0);
    }

    @Test void aFaultIsToldAndAllIsClosed() throws Exception {
        byWorkers(3, () -> {
            double[][] read = new double[2][LEFT.length];
            PiecedSource source = pieces(700_000);
            assertThatThrownBy(() -> source.readFully(read, 0, LEFT.length)).isInstanceOf(IOException.class).hasMessage("the disk is gone");
            source.close();
            PiecedSource left = pieces(Long.MAX_VALUE);
            left.read(read, 0, 10);
            left.close();
            return null;
        });
        assertThat(open).hasValue(0);
    }
}
