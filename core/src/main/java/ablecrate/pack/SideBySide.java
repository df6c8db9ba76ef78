package ablecrate.pack;

import java.io.IOException;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ForkJoinTask;
import java.util.function.Consumer;

/// Does the parts of an item side by side, by the workers that the run has. From within one of them only.
final class SideBySide {
    /// One part.
    interface Part<T> {
        T make() throws IOException, StopSignal.StoppedException, ItemFault;
    }

    private SideBySide() {}

    /// @param done told of each that succeeded, in the order of the parts, also where another failed
    static <T> void all(List<Part<T>> parts, Consumer<T> done) throws IOException, StopSignal.StoppedException, ItemFault {
        List<ForkJoinTask<T>> tasks = parts.stream().map(p -> ForkJoinTask.adapt((Callable<T>) p::make)).toList();
        tasks.reversed().forEach(ForkJoinTask::fork);
        Throwable fault = null;
        for (ForkJoinTask<T> task : tasks)
            try {
                done.accept(task.get());
            } catch (ExecutionException e) {
                if (fault == null) fault = unwrapped(e.getCause());
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new IOException("interrupted", e);
            }
        if (fault instanceof IOException e) throw e;
        if (fault instanceof StopSignal.StoppedException e) throw e;
        if (fault instanceof ItemFault e) throw e;
        if (fault != null) throw new IllegalStateException(fault);
    }

    /// A pool of this kind hands on what its tasks throw inside of a plain runtime exception.
    private static Throwable unwrapped(Throwable fault) {
        return fault.getClass() == RuntimeException.class && fault.getCause() != null ? unwrapped(fault.getCause()) : fault;
    }
}
