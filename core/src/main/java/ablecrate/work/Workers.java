package ablecrate.work;

import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinTask;

/// The pool of workers that the thread belongs to. A thread that belongs to none has nobody to help it.
public final class Workers {
    private Workers() {}

    /// Whether one of them has nothing to do.
    public static boolean haveIdle() {
        ForkJoinPool pool = ForkJoinTask.getPool();
        return pool != null && pool.getActiveThreadCount() < pool.getParallelism() && !pool.hasQueuedSubmissions() && pool.getQueuedTaskCount() == 0;
    }

    /// Pieces of work that keep all of them busy, also while the one that hands them on has something else to do.
    static int enough() {
        ForkJoinPool pool = ForkJoinTask.getPool();
        return pool == null ? 1 : 2 * pool.getParallelism() + 1;
    }

    /// Offers work to whoever is idle first, unless enough is offered that nobody took.
    static void offer(Runnable work) {
        if (ForkJoinTask.inForkJoinPool() && ForkJoinTask.getQueuedTaskCount() < enough()) ForkJoinTask.adapt(work).fork();
    }
}
