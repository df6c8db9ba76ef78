package ablecrate.desktop.crate;

import ablecrate.desktop.Background;
import ablecrate.signal.Measurement;
import ablecrate.signal.Measurements;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;

/// Listens to what a list depends on, a moment at a time, so that what was found shows meanwhile.
final class Listening {
    private static final long MOMENT_NANOS = 250_000_000L;

    private final Background background;
    private final Measurements book;
    private final ReadOnlyIntegerWrapper toHear = new ReadOnlyIntegerWrapper(), toFit = new ReadOnlyIntegerWrapper();
    private final ReadOnlyDoubleWrapper fitPart = new ReadOnlyDoubleWrapper();
    /// Instruments that are being made to fit, and whether that is not wanted any more.
    private final Map<Measurement.Request, AtomicBoolean> fitting = new ConcurrentHashMap<>();
    private boolean isBusy;

    Listening(Background background, Measurements book) {
        this.background = background;
        this.book = book;
    }

    /// How many sounds have to be listened to yet.
    ReadOnlyIntegerProperty toHearProperty() { return toHear.getReadOnlyProperty(); }

    /// How many of these are instruments that have to be made to fit.
    ReadOnlyIntegerProperty toFitProperty() { return toFit.getReadOnlyProperty(); }

    /// The part of one of them that is done.
    ReadOnlyDoubleProperty fitPartProperty() { return fitPart.getReadOnlyProperty(); }

    /// Listens for a moment, unless it is at it already.
    /// @param wanted all that is not known yet; what else is being made to fit is given up
    /// @param heard told when the moment is over
    void listen(List<Measurement.Request> wanted, Runnable heard, Consumer<Exception> failed) {
        toFit.set((int) wanted.stream().filter(Measurement.OfInstruments.class::isInstance).count());
        fitting.forEach((request, isUnwanted) -> {
            if (!wanted.contains(request)) isUnwanted.set(true);
        });
        toHear.set(wanted.size());
        if (wanted.isEmpty() || isBusy) return;
        isBusy = true;
        background.run(() -> {
            long end = System.nanoTime() + MOMENT_NANOS;
            wanted.parallelStream().forEach(request -> {
                if (System.nanoTime() < end) measure(request);
            });
            return true;
        }, _ -> {
            isBusy = false;
            heard.run();
        }, e -> {
            isBusy = false;
            failed.accept(e);
        });
    }

    /// What takes long and is not wanted any more is given up: another destination may have been chosen meanwhile.
    private void measure(Measurement.Request request) {
        if (!(request instanceof Measurement.OfInstruments)) {
            book.measure(request, () -> false);
            return;
        }
        AtomicBoolean isUnwanted = new AtomicBoolean();
        fitting.put(request, isUnwanted);
        try {
            Consumer<Double> tell = background.newest(fitPart::set);
            tell.accept(0.0);
            book.measure(request, isUnwanted::get, tell::accept);
        } finally {
            fitting.remove(request);
        }
    }
}
