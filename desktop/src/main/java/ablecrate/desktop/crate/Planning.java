package ablecrate.desktop.crate;

import ablecrate.desktop.Background;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.disk.DiskFault;
import ablecrate.job.Delivery;
import ablecrate.job.Job;
import ablecrate.json.Json;
import ablecrate.library.Gathered;
import ablecrate.option.OptionConflict;
import ablecrate.pack.Cards;
import ablecrate.pack.Forecast;
import ablecrate.plan.Card;
import ablecrate.plan.PackingList;
import ablecrate.planner.Planner;
import ablecrate.signal.Measurement;
import ablecrate.signal.Measurements;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// The packing lists of a job: planned in the background for the destination that is looked at, then for the others; what they depend on is listened to, and once all is known
/// the folder packed into is looked at. FX thread only.
final class Planning {
    private final Background background;
    private final SheetCatalogue sheets;
    private final Measurements book;
    private final GatheredFiles files;
    private final Listening listening;
    private final Consumer<Exception> failed;
    private final ReadOnlyObjectWrapper<PackingList> list = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<DeliveryPlan>> plans = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<Map<Forecast.Fate, Long>> forecast = new ReadOnlyObjectWrapper<>(Map.of());
    private final ReadOnlyBooleanWrapper isKnown = new ReadOnlyBooleanWrapper(true);
    private final Supplier<Job> job;
    private final Supplier<DestinationSheet> sheet;
    /// Of the list.
    private Overview overview;
    /// Results of work that was overtaken are thrown away.
    private int planning, foreseeing;
    /// The latest plan that is done, and the latest of all destinations.
    private int planned, allPlanned;
    /// What a view wants to have listened to besides what the plan does.
    private List<Measurement.Request> alsoWanted = List.of();

    /// @param job as it is now
    /// @param sheet of the destination that is looked at
    Planning(Supplier<Job> job, Supplier<DestinationSheet> sheet, SheetCatalogue sheets, GatheredFiles files, Measurements book, Background background,
            Consumer<Exception> failed) {
        this.job = job;
        this.sheet = sheet;
        this.sheets = sheets;
        this.files = files;
        this.book = book;
        this.background = background;
        this.failed = failed;
        listening = new Listening(background, book);
        overview = new Overview(new PackingList(sheet.get(), job.get().options(), List.of()));
        list.set(overview.list());
        files.readingProperty().subscribe(_ -> lookWhetherKnown());
    }

    ReadOnlyObjectProperty<PackingList> listProperty() { return list.getReadOnlyProperty(); }

    Overview overview() { return overview; }

    ReadOnlyObjectProperty<List<DeliveryPlan>> plansProperty() { return plans.getReadOnlyProperty(); }

    Listening listening() { return listening; }

    /// Whether all lines are there, planned as the job is now, and all of what they depend on is known.
    ReadOnlyBooleanProperty isKnownProperty() { return isKnown.getReadOnlyProperty(); }

    private void lookWhetherKnown() {
        isKnown.set(!files.isReading() && planned == planning && allPlanned == planning && overview.isSettled()
                && plans.get().stream().allMatch(p -> p.isSettled() || p.fault().isPresent()));
    }

    /// Empty while no folder is chosen, or it is not known yet.
    ReadOnlyObjectProperty<Map<Forecast.Fate, Long>> forecastProperty() { return forecast.getReadOnlyProperty(); }

    /// Looks at the folder packed into, once all of the list is known.
    void foresee() {
        int mine = ++foreseeing;
        Optional<Path> into = job.get().into();
        PackingList now = list.get();
        if (into.isEmpty() || !overview.isSettled() || now.items().isEmpty()) {
            forecast.set(Map.of());
            return;
        }
        background.run(() -> Forecast.of(now, into.get()), fates -> {
            if (mine != foreseeing) return;
            Map<Forecast.Fate, Long> counts = new EnumMap<>(Forecast.Fate.class);
            fates.stream().filter(f -> f != Forecast.Fate.NONE).forEach(f -> counts.merge(f, 1L, Long::sum));
            forecast.set(counts);
        }, _ -> forecast.set(Map.of()));
    }

    /// Plans the job anew, as far as its files are read.
    void plan() {
        int mine = ++planning;
        lookWhetherKnown();
        Job now = job.get();
        DestinationSheet to = sheet.get();
        List<Gathered> items = files.listed(now);
        background.run(() -> new Overview(Planner.plan(items, to, now.options(), now.edits(), book::find, card(now.into(), to))), made -> {
            if (mine != planning) return;
            overview = made;
            list.set(made.list());
            planned = mine;
            planOthers(mine, now, items);
            lookWhetherKnown();
            listen();
            if (!files.isReading() && listening.toHearProperty().get() == 0) foresee();
        }, e -> {
            if (mine == planning) failed.accept(e);
        });
    }

    /// The destinations that are not looked at come after the one that is.
    private void planOthers(int mine, Job now, List<Gathered> items) {
        DeliveryPlan own = new DeliveryPlan(now.delivery(), sheet.get().name(), Optional.of(overview), Optional.empty());
        if (now.deliveries().size() == 1) {
            plans.set(List.of(own));
            allPlanned = mine;
            return;
        }
        background.run(() -> {
            List<DeliveryPlan> all = new ArrayList<>();
            for (Delivery d : now.deliveries())
                all.add(all.size() == now.shown() ? own : planned(d, now, items));
            return all;
        }, made -> {
            if (mine != planning) return;
            plans.set(made);
            allPlanned = mine;
            lookWhetherKnown();
            listen();
        }, failed);
    }

    /// What keeps one destination from being planned keeps no other.
    private DeliveryPlan planned(Delivery to, Job now, List<Gathered> items) {
        try {
            DestinationSheet taking = sheets.find(to.destination());
            PackingList made = Planner.plan(items, taking, to.options(), now.edits(), book::find, card(to.into(), taking));
            return new DeliveryPlan(to, taking.name(), Optional.of(new Overview(made)), Optional.empty());
        } catch (Json.JsonFault | OptionConflict e) {
            return new DeliveryPlan(to, Path.of(to.destination()).getFileName().toString(), Optional.empty(), Optional.of(e.getMessage()));
        } catch (IOException e) {
            return new DeliveryPlan(to, Path.of(to.destination()).getFileName().toString(), Optional.empty(), Optional.of(DiskFault.text(e)));
        }
    }

    private static Card card(Optional<Path> into, DestinationSheet to) throws IOException, Json.JsonFault {
        return into.isPresent() ? Cards.of(into.get(), to) : Card.EMPTY;
    }

    /// Has further sounds listened to, after those that the plan asks for.
    void alsoListen(List<Measurement.Request> requests) {
        alsoWanted = requests;
        listen();
    }

    /// Listens for a moment, shows what was found, goes on.
    private void listen() {
        List<Measurement.Request> wanted = Stream
                .of(overview.wanted(), plans.get().stream().flatMap(p -> p.overview().stream()).flatMap(o -> o.wanted().stream()).toList(), alsoWanted)
                .flatMap(List::stream).distinct().filter(r -> book.find(r).isEmpty()).toList();
        listening.listen(wanted, this::plan, failed);
    }
}
