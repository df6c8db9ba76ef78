package ablecrate.desktop.list;

import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.dsp.Decibels;
import ablecrate.plan.PackingItem;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;

/// What lies before the first attack of each source, and whether its ends click: listened to while a column shows it. FX thread only.
public final class EndsHeard {
    /// @param gapMs empty where no attack is heard
    /// @param startStep,endStep how far the first and the last frame are from silence; 1 is full scale
    record Heard(OptionalDouble gapMs, double startStep, double endStep) {
        String gap() { return gapMs.isPresent() ? String.format(Locale.ROOT, "%.1f", gapMs.getAsDouble()) : "none"; }

        String clicks() {
            List<String> told = new ArrayList<>();
            if (startStep > Measurement.Survey.CLICK) told.add(String.format(Locale.ROOT, "start %.0f", Decibels.ofFactor(startStep)));
            if (endStep > Measurement.Survey.CLICK) told.add(String.format(Locale.ROOT, "end %.0f", Decibels.ofFactor(endStep)));
            return String.join(", ", told);
        }

        double worstStep() { return Math.max(startStep, endStep); }
    }

    private record Found(SoundFile.Id id, Optional<Heard> heard) {}

    private final CrateModel crate;
    private final Background background;
    private final Map<SoundFile.Id, Optional<Heard>> heard = new HashMap<>();
    private AtomicBoolean stopped = new AtomicBoolean();
    private boolean isShown;
    private Runnable onHeard = () -> {};

    public EndsHeard(CrateModel crate, Background background) {
        this.crate = crate;
        this.background = background;
        crate.onList(this::listen);
    }

    /// @param told after some more were heard
    void onHeard(Runnable told) { onHeard = told; }

    /// Listens while a column is shown, and stops when none is.
    void show(boolean isShown) {
        if (this.isShown == isShown) return;
        this.isShown = isShown;
        listen();
    }

    /// Empty while it was not heard yet, and where there is nothing to hear.
    Optional<Heard> of(PackingItem line) { return line.source().sound().flatMap(s -> heard.getOrDefault(s.id(), Optional.empty())); }

    /// Whether it is going to be heard.
    boolean isAwaited(PackingItem line) { return line.source().sound().filter(s -> !heard.containsKey(s.id())).isPresent(); }

    private void listen() {
        stopped.set(true);
        if (!isShown || crate.listProperty().get() == null) return;
        stopped = new AtomicBoolean();
        AtomicBoolean mine = stopped;
        List<SoundFile> files = crate.listProperty().get().items().stream().flatMap(i -> i.source().sound().stream()).filter(s -> !heard.containsKey(s.id()))
                .toList();
        if (files.isEmpty()) return;
        ConcurrentLinkedQueue<Found> waiting = new ConcurrentLinkedQueue<>();
        Consumer<Boolean> more = background.newest(_ -> {
            for (Found found = waiting.poll(); found != null; found = waiting.poll())
                heard.put(found.id(), found.heard());
            onHeard.run();
        });
        background.run(() -> {
            files.parallelStream().filter(_ -> !mine.get()).forEach(file -> {
                Optional<Heard> found = heard(file, mine);
                if (mine.get()) return;
                waiting.add(new Found(file.id(), found));
                more.accept(true);
            });
            return mine;
        }, _ -> {}, e -> crate.fail("a fault in Able Crate itself: " + e));
    }

    private Optional<Heard> heard(SoundFile file, AtomicBoolean mine) {
        Optional<Measurement.Survey> survey = measured(new Measurement.OfFile(file, OptionalDouble.empty()), Measurement.Survey.class, mine);
        Optional<Measurement.Onsets> onsets = measured(new Measurement.OfOnsets(file), Measurement.Onsets.class, mine);
        return survey.flatMap(s -> onsets.map(o -> new Heard(
                o.frames().isEmpty() ? OptionalDouble.empty() : OptionalDouble.of(o.frames().getFirst() * 1000.0 / file.rateHz()), s.startStep(),
                s.endStep())));
    }

    private <T extends Measurement> Optional<T> measured(Measurement.Request request, Class<T> kind, AtomicBoolean mine) {
        crate.book().measure(request, mine::get);
        return crate.book().find(request).filter(kind::isInstance).map(kind::cast);
    }
}
