package ablecrate.cli;

import ablecrate.pack.StopSignal;
import java.util.concurrent.CountDownLatch;

/// Work that Ctrl-C ends in good order: what is under way is finished or given up, what has to be told is told, then the program goes.
interface Interruptible<T> {
    T run(StopSignal stop) throws Exception;

    static <T> T call(Interruptible<T> work) throws Exception {
        StopSignal stop = new StopSignal();
        CountDownLatch finished = new CountDownLatch(1);
        Thread onInterrupt = new Thread(() -> {
            stop.stop();
            try {
                finished.await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        Runtime.getRuntime().addShutdownHook(onInterrupt);
        try {
            return work.run(stop);
        } finally {
            finished.countDown();
            try {
                Runtime.getRuntime().removeShutdownHook(onInterrupt);
            } catch (IllegalStateException alreadyGoing) {
                // The hook is what brought us here.
            }
        }
    }
}
