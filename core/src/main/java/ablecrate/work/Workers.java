package ablecrate.work;

import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinTask;

/// The pool of workers that the thread belongs to: that of a run, or else the one that all of the program shares.
public final class Workers {
    private Workers() {}

    private static ForkJoinPool pool() {
        ForkJoinPool own = ForkJoinTask.getPool();
        return own == null ? ForkJoinPool.commonPool() : own;
    }

    /// Whether one of them has nothing to do.
    public static boolean haveIdle() {
        ForkJoinPool pool = pool();
        return pool.getActiveThreadCount() < pool.getParallelism() && !pool.hasQueuedSubmissions() && pool.getQueuedTaskCount() == 0;
    }

    /// Pieces of work that keep all of them busy, also while the one that hands them on has something else to do.
    static int enough() { return 2 * pool().getParallelism() + 1; }

    /// Offers work to whoever is idle first, unless enough is offered that nobody took.
    static void offer(Runnable work) {
        if (!ForkJoinTask.inForkJoinPool()) {
            if (pool().getQueuedSubmissionCount() < enough()) pool().execute(work);
        } else if (ForkJoinTask.getQueuedTaskCount() < enough()) ForkJoinTask.adapt(work).fork();
    }
}
