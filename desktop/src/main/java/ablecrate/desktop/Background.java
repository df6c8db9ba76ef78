package ablecrate.desktop;

import java.util.concurrent.Callable;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;

/// The one place where results of the core cross to the FX thread.
public final class Background {
    private final Executor workers, fx;

    /// @param workers in the application a pool
    /// @param fx in the application `Platform::runLater`
    public Background(Executor workers, Executor fx) {
        this.workers = workers;
        this.fx = fx;
    }

    /// Works elsewhere, then hands the result, or what went wrong, to the FX thread.
    public <T> void run(Callable<T> work, Consumer<T> done, Consumer<Exception> failed) {
        workers.execute(() -> {
            try {
                T result = work.call();
                fx.execute(() -> done.accept(result));
            } catch (Exception e) {
                fx.execute(() -> failed.accept(e));
            }
        });
    }

    /// Hands something to the FX thread, in order.
    public void onFx(Runnable what) { fx.execute(what); }

    /// A listener for any thread that shows only the newest value: ten thousand of them do not flood the queue.
    public <T> Consumer<T> newest(Consumer<T> onFx) {
        AtomicReference<T> waiting = new AtomicReference<>();
        return value -> {
            if (waiting.getAndSet(value) == null) fx.execute(() -> onFx.accept(waiting.getAndSet(null)));
        };
    }
}
