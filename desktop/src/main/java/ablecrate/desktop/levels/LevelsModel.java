package ablecrate.desktop.levels;

import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.option.LevelTarget;
import ablecrate.plan.PackingItem;
import ablecrate.option.Treatment;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;

/// The levels of the chosen sounds, or of all that are shown, before and after. FX thread only.
public final class LevelsModel {
    /// More are no picture.
    static final int MOST = 2000;
    /// Farther than this from the middle of all, a sound is named.
    private static final double OUTLIER_DB = 6;

    private final CrateModel crate;
    private final PackingListModel list;
    private final ObjectProperty<LevelMeasure> measure = new SimpleObjectProperty<>(LevelMeasure.LUFS_M);
    private final ObjectProperty<Order> order = new SimpleObjectProperty<>(Order.LISTED);
    private final BooleanProperty shown = new SimpleBooleanProperty();
    private final ReadOnlyObjectWrapper<List<Dumbbell>> dumbbells = new ReadOnlyObjectWrapper<>(List.of());

    /// How sounds stand beside each other.
    public enum Order {
        LISTED("as listed"), BEFORE("by level before"), AFTER("by level after"), CHANGE("by change of level"), OUTLIERS("outliers first");

        private final String label;

        Order(String label) { this.label = label; }

        public String label() { return label; }
    }

    /// One sound.
    /// @param before by the measure; absent where it is not defined or not known yet
    /// @param peakAfter true peak, for the ceiling
    /// @param isHeld whether the ceiling holds it
    /// @param fromMiddleDb how far its level after lies from the middle of all
    public record Dumbbell(PackingItem item, OptionalDouble before, OptionalDouble after, OptionalDouble peakAfter, boolean isHeld, double fromMiddleDb) {
        public String name() { return item.source().stem(); }

        public boolean isOutlier() { return fromMiddleDb > OUTLIER_DB; }

        double changeDb() { return before.isPresent() && after.isPresent() ? after.getAsDouble() - before.getAsDouble() : 0; }
    }

    private final TreatmentModel treatments;
    private final Executor fx;
    private boolean renewing;

    /// @param fx where things are done a little later on the FX thread
    /// @param treatments whose target and ceiling are shown and moved
    public LevelsModel(CrateModel crate, PackingListModel list, TreatmentModel treatments, Executor fx) {
        this.crate = crate;
        this.treatments = treatments;
        this.fx = fx;
        this.list = list;
        treatments.subscribe(() -> treatment().level().map(LevelTarget::measure).ifPresent(measure::set));
        crate.onList(this::renewSoon);
        // Listening alone may leave the list as it was.
        crate.toHearProperty().subscribe(_ -> renewSoon());
        list.chosen().subscribe(this::renewSoon);
        list.shown().subscribe(this::renewSoon);
        measure.subscribe(this::renewSoon);
        order.subscribe(this::renewSoon);
        shown.subscribe(this::renewSoon);
    }

    public ObjectProperty<LevelMeasure> measureProperty() { return measure; }

    public ObjectProperty<Order> orderProperty() { return order; }

    /// Nothing is listened to while nobody looks.
    public BooleanProperty shownProperty() { return shown; }

    public ReadOnlyObjectProperty<List<Dumbbell>> dumbbellsProperty() { return dumbbells.getReadOnlyProperty(); }

    /// Of all sounds, or of the chosen ones.
    public Treatment treatment() { return treatments.treatment(); }

    /// Tells when the target, the ceiling or whose they are may be others.
    public void subscribe(Runnable changed) { treatments.subscribe(changed); }

    /// The target, if levels are set by the measure that is shown.
    public Optional<Double> target() { return treatment().level().filter(l -> l.measure() == measure.get()).map(LevelTarget::value); }

    /// Sets the target, by the measure that is shown.
    /// @param isDragged whether it is one of many on the way
    public void aim(double value, boolean isDragged) {
        double rounded = Math.clamp(Math.rint(value * 10) / 10, -60, 12);
        Optional<Double> ceiling = treatment().ceilingDbtp().or(() -> Optional.of(Treatment.USUAL_CEILING).filter(_ -> measure.get().unit().equals("LUFS")));
        UnaryOperator<Treatment> change = t -> t.withLevel(Optional.of(new LevelTarget(measure.get(), rounded))).withCeiling(ceiling);
        if (isDragged)
            treatments.drag("move target", change);
        else
            treatments.change("target", change);
    }

    public void aimFirst() { aim(TreatmentForm.usual(measure.get()), false); }

    public void holdAt(double dbtp) {
        treatments.drag("move ceiling", t -> t.withCeiling(Optional.of(Math.clamp(Math.rint(dbtp * 10) / 10, -40, 0))));
    }

    public boolean isAllShown() { return sounds().size() <= MOST; }

    private List<PackingItem> lines() { return isOfChosen() ? list.chosen() : list.shown(); }

    /// Those of instruments among them, also where their lines are folded.
    private List<PackingItem> sounds() {
        Set<PackingItem> sounds = Collections.newSetFromMap(new IdentityHashMap<>());
        return lines().stream().flatMap(line -> line.isInstruments() ? line.parts().stream() : Stream.of(line))
                .filter(i -> i.source().sound().isPresent() && !i.outputs().isEmpty() && sounds.add(i)).toList();
    }

    /// One sound alone is shown among all of them.
    public boolean isOfChosen() { return list.chosen().size() > 1 || list.chosen().stream().anyMatch(PackingItem::isInstruments); }

    /// Once for a list that changes line by line, and not while it does.
    private void renewSoon() {
        if (renewing) return;
        renewing = true;
        fx.execute(() -> {
            renewing = false;
            renew();
        });
    }

    private void renew() {
        if (!shown.get()) return;
        List<PackingItem> sounds = sounds().stream().limit(MOST).toList();
        List<Measurement.Request> wanted = new ArrayList<>();
        List<Dumbbell> all = new ArrayList<>();
        for (PackingItem item : sounds) {
            Optional<Levels> before = before(item, wanted), after = item.outputs().getFirst().levels().after().or(() -> before);
            OptionalDouble peak = after.map(Levels::truePeakDbtp).orElse(OptionalDouble.empty());
            all.add(new Dumbbell(item, by(before), by(after), peak, item.outputs().getFirst().outputChain().hold().isPresent(), 0));
        }
        double middle = middle(all);
        List<Dumbbell> marked = new ArrayList<>(all.stream()
                .map(d -> new Dumbbell(d.item(), d.before(), d.after(), d.peakAfter(), d.isHeld(),
                        d.after().isPresent() ? Math.abs(d.after().getAsDouble() - middle) : 0))
                .toList());
        switch (order.get()) {
            case LISTED -> {}
            case BEFORE -> marked.sort(Comparator.comparingDouble(d -> d.before().orElse(Double.NEGATIVE_INFINITY)));
            case AFTER -> marked.sort(Comparator.comparingDouble(d -> d.after().orElse(Double.NEGATIVE_INFINITY)));
            case CHANGE -> marked.sort(Comparator.comparingDouble(Dumbbell::changeDb));
            case OUTLIERS -> marked.sort(Comparator.comparingDouble(Dumbbell::fromMiddleDb).reversed());
        }
        if (!marked.equals(dumbbells.get())) dumbbells.set(List.copyOf(marked));
        crate.alsoListen(wanted);
    }

    private Optional<Levels> before(PackingItem item, List<Measurement.Request> wanted) {
        Measurement.Request request = new Measurement.OfFile(item.source().sound().orElseThrow(),
                treatments.of(item.source().path()).trimDbfs().map(OptionalDouble::of).orElse(OptionalDouble.empty()));
        Optional<Measurement> found = crate.book().find(request);
        if (found.isEmpty()) wanted.add(request);
        return found.filter(Measurement.Survey.class::isInstance).map(m -> ((Measurement.Survey) m).levels());
    }

    private OptionalDouble by(Optional<Levels> levels) { return levels.map(l -> l.by(measure.get())).orElse(OptionalDouble.empty()); }

    private static double middle(List<Dumbbell> all) {
        double[] known = all.stream().filter(d -> d.after().isPresent()).mapToDouble(d -> d.after().getAsDouble()).sorted().toArray();
        return known.length == 0 ? 0 : known[known.length / 2];
    }

    public void choose(Dumbbell dumbbell) { list.turnTo(dumbbell.item().source().path()); }

    public Optional<PackingItem> current() { return list.currentProperty().get(); }
}
