package ablecrate.planner;

import ablecrate.destination.DestinationSheet;
import ablecrate.fit.FitTask;
import ablecrate.library.Gathered;
import ablecrate.option.ItemEdit;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.Card;
import ablecrate.plan.PackingList;
import ablecrate.signal.Measurements;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BooleanSupplier;

/// Plans, listens to what the plan asks for, and plans again, until nothing is asked for.
public final class ListeningPlanner {
    /// Told how many sounds of how many were listened to.
    public interface Progress {
        void heard(int done, int of);

        /// Before instruments are made to fit, which takes a while.
        default void fitting(int instruments) {}

        /// Meanwhile, from any thread.
        default void fitted(double part) {}
    }

    private ListeningPlanner() {}

    /// @param stopped asked now and then; true returns what is known by then
    /// @throws OptionConflict as [Planner#plan]
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits, Measurements book,
            BooleanSupplier stopped, Progress progress) throws OptionConflict {
        return plan(gathered, sheet, options, edits, book, Card.EMPTY, stopped, progress);
    }

    /// @param card what the folder holds that is packed into
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits, Measurements book,
            Card card, BooleanSupplier stopped, Progress progress) throws OptionConflict {
        while (true) {
            PackingList list = Planner.plan(gathered, sheet, options, edits, book::find, card);
            List<Measurement.Request> wanted = list.wanted();
            if (wanted.isEmpty() || stopped.getAsBoolean()) return list;
            int instruments = wanted.stream().filter(FitTask.class::isInstance).mapToInt(r -> ((FitTask) r).instruments().size()).sum();
            if (instruments > 0) progress.fitting(instruments);
            AtomicInteger done = new AtomicInteger();
            wanted.parallelStream().forEach(request -> {
                if (!stopped.getAsBoolean()) book.measure(request, stopped, progress::fitted);
                progress.heard(done.incrementAndGet(), wanted.size());
            });
        }
    }
}
