package ablecrate.desktop;

import ablecrate.desktop.bench.BenchView;
import ablecrate.desktop.bench.WaveBench;
import ablecrate.desktop.bench.WaveView;
import ablecrate.desktop.compare.CompareView;
import ablecrate.desktop.crate.DeliveryPlan;
import ablecrate.desktop.destination.DestinationView;
import ablecrate.desktop.device.DeviceView;
import ablecrate.desktop.fit.FitView;
import ablecrate.desktop.gathered.GatheredView;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.keys.KeyBenchView;
import ablecrate.desktop.levels.LevelsView;
import ablecrate.desktop.levels.TreatmentForm;
import ablecrate.desktop.library.LibraryView;
import ablecrate.desktop.list.PackingListView;
import ablecrate.desktop.session.SessionView;
import java.util.List;
import java.util.function.Supplier;
import javafx.beans.value.ObservableValue;

/// What is seen: the parts of the window, made of what it knows. The benches are listed here.
final class Views {
    private static final double LEAST_BENCH = 210;

    final WaveView wave;
    final KeyBenchView keys;
    final CompareView beside;
    final BenchView bench;
    final PackingListView list;
    final GatheredView gathered;
    final DestinationView destination;
    final FoldersAndList top;
    /// What the bar at the foot plays: the chosen line, or what the open bench has.
    final ObservableValue<Hearable> heard;
    private final Models models;

    Views(Models models, Background background, Commands commands, Cards cards, Supplier<Choosers> choosers) {
        this.models = models;
        wave = new WaveView(models.bench, models.hearing::playFrom, models.hearing::playPart, models.edits, models.loops, models.tempo, background);
        wave.markProperty().bindBidirectional(models.hearing.markProperty());
        keys = new KeyBenchView(models.keys, models.keysHearing);
        beside = new CompareView(models.beside);
        bench = new BenchView(models.bench,
                List.of(new WaveBench(models.bench, wave, models.edits, models.loops, models.tempo, background), keys,
                        new LevelsView(models.levels, new TreatmentForm(models.treatments), models.hearing::toggle),
                        beside, new FitView(models.fit, models.keys, models.keysHearing),
                        new SessionView(models.session, models.sketches, commands::openSession, () -> choosers.get().folder("Look for offline files")),
                        new DeviceView(models.device, () -> choosers.get().folder("Load a card"), () -> choosers.get().midiToPlay(), cards::showDumps),
                        new LibraryView(models.library, models.sketches, () -> choosers.get().folder("Walk through a folder"))));
        bench.setMinWidth(0);
        bench.setMinHeight(LEAST_BENCH);
        heard = bench.openProperty().map(b -> b.hearable().orElse(models.hearing));
        heard.subscribe((before, _) -> before.stop());
        list = new PackingListView(models.list, models.sketches, models.ends, i -> models.run.done(i.source().path()), models.run.doneProperty());
        list.onOpen(models.hearing::toggle, () -> {
            // Sounds that are dragged can be put on the keys of the instrument that was looked at last.
            if (!models.keys.zones().isEmpty()) bench.show("keys");
        });
        models.crate.onPlans(this::showOthers);
        models.crate.jobProperty().subscribe(_ -> showOthers());
        gathered = new GatheredView(models.list, commands::gatherFolder, commands::gatherFiles, folder -> models.crate.gather(List.of(folder)));
        destination = new DestinationView(models.destination, models.list, models.fit.takenProperty(), commands::chooseSheet, commands::chooseFurtherSheet,
                cards::editSheet, commands::chooseInto, commands::pack);
        top = new FoldersAndList(gathered, list);
    }

    private void showOthers() {
        List<DeliveryPlan> plans = models.crate.plans();
        int wanted = models.crate.job().deliveries().size();
        // What is planned anew is shown once it is there.
        if (plans.size() == wanted || wanted == 1) list.showOthers(plans, models.crate.job().shown(), models.crate::showDelivery);
    }
}
