package ablecrate.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class OrderedWorkTest {
    private static final int PARTS = 200;

    private static List<Integer> squares() throws IOException {
        List<Integer> taken = new ArrayList<>();
        try (OrderedWork<Integer> work = new OrderedWork<>()) {
            for (int i = 0; i < PARTS; i++) {
                int number = i;
                work.give(() -> number * number);
                if (work.isFull()) taken.add(work.take());
            }
            while (!work.isEmpty())
                taken.add(work.take());
        }
        return taken;
    }

    @ParameterizedTest @ValueSource(ints = {1, 2, 5}) void resultsComeInTheOrderOfTheWork(int workers) throws Exception {
        List<Integer> expected = IntStream.range(0, PARTS).mapToObj(i -> i * i).toList();
        assertThat(squares()).as("where there are no workers").isEqualTo(expected);
        try (ForkJoinPool pool = new ForkJoinPool(workers)) {
            assertThat(pool.submit(OrderedWorkTest::squares).get()).isEqualTo(expected);
        }
    }

    @Test void anIdleWorkerTakesPart() throws Exception {
        try (ForkJoinPool pool = new ForkJoinPool(2)) {
            boolean isShared = pool.submit(() -> {
                CountDownLatch both = new CountDownLatch(2);
                try (OrderedWork<Boolean> work = new OrderedWork<>()) {
                    for (int i = 0; i < 2; i++)
                        work.give(() -> {
                            both.countDown();
                            return both.await(20, TimeUnit.SECONDS);
                        });
                    return work.take() && work.take();
                }
            }).get();
            assertThat(isShared).as("two parts that wait for each other are done").isTrue();
        }
    }

    @Test void aFaultIsToldInItsPlace() throws Exception {
        try (OrderedWork<String> work = new OrderedWork<>()) {
            work.give(() -> "whole");
            work.give(() -> {
                throw new IOException("the disk is gone");
            });
            assertThat(work.take()).isEqualTo("whole");
            assertThatThrownBy(work::take).isInstanceOf(IOException.class).hasMessage("the disk is gone");
        }
    }

    @Test void whatIsLeftIsNotBegun() throws Exception {
        List<String> done = new ArrayList<>();
        OrderedWork<Boolean> work = new OrderedWork<>();
        work.give(() -> done.add("one"));
        work.close();
        assertThat(done).isEmpty();
    }
}
