package ablecrate.work;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;

/// Work that is done by whichever workers are idle, while its results are taken in the order in which it was given. What nobody has begun when its result is
/// wanted is done by whoever wants it, so that nobody waits for a worker who has something else to do. For one thread.
public final class OrderedWork<T> implements AutoCloseable {
    private final Deque<FutureTask<T>> given = new ArrayDeque<>();
    private final int most = Workers.enough();
    private volatile boolean isClosed;

    public void give(Callable<T> work) {
        // Whoever runs it first does it; for the others it is done.
        FutureTask<T> task = new FutureTask<>(() -> isClosed ? null : work.call());
        given.add(task);
        Workers.offer(task);
    }

    /// Whether nothing is given that was not taken.
    public boolean isEmpty() { return given.isEmpty(); }

    /// Whether as much is given as keeps all workers busy.
    public boolean isFull() { return given.size() >= most; }

    /// The result of what was given first.
    /// @throws IOException if it failed with one
    public T take() throws IOException {
        FutureTask<T> first = given.peek();
        // While another is at it there is more to do.
        for (FutureTask<T> task : given)
            if (!first.isDone()) task.run();
        given.remove();
        try {
            return first.get();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof IOException fault) throw fault;
            if (e.getCause() instanceof RuntimeException fault) throw fault;
            if (e.getCause() instanceof Error fault) throw fault;
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("interrupted", e);
        }
    }

    /// Returns once nobody is at work any more; what was not begun is left.
    @Override public void close() {
        isClosed = true;
        for (FutureTask<T> task : given) {
            task.run();
            try {
                task.get();
            } catch (ExecutionException e) {
                // Nobody wants its result any more.
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
        given.clear();
    }
}
