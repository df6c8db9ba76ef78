package ablecrate.desktop;

import ablecrate.desktop.bench.BenchModel;
import ablecrate.desktop.bench.LoopEdits;
import ablecrate.desktop.bench.TempoModel;
import ablecrate.desktop.bench.WaveEdits;
import ablecrate.desktop.compare.CompareModel;
import ablecrate.desktop.crate.ClickTracks;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.destination.DestinationModel;
import ablecrate.desktop.device.CardChanges;
import ablecrate.desktop.device.DeviceCard;
import ablecrate.desktop.device.DeviceModel;
import ablecrate.desktop.dump.DumpModel;
import ablecrate.desktop.fit.FitModel;
import ablecrate.desktop.hearing.HearingModel;
import ablecrate.desktop.join.JoinOrderModel;
import ablecrate.desktop.keys.KeysHearing;
import ablecrate.desktop.keys.KeysModel;
import ablecrate.desktop.levels.LevelsModel;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.desktop.library.LibraryModel;
import ablecrate.desktop.list.EndsHeard;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.list.Sketches;
import ablecrate.desktop.presets.PresetsModel;
import ablecrate.desktop.session.SessionModel;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.job.Presets;
import ablecrate.library.Catalogue;
import ablecrate.plan.PackingItem;
import java.nio.file.Path;
import java.util.concurrent.Executor;

/// What the window knows: its models, made and connected. The one place where all of them meet.
final class Models {
    final CrateModel crate;
    final PackingListModel list;
    final PackRunModel run;
    final HearingModel hearing;
    final BenchModel bench;
    final WaveEdits edits;
    final LoopEdits loops;
    final TempoModel tempo;
    final JoinOrderModel joinOrder;
    final TreatmentModel treatments;
    final LevelsModel levels;
    final KeysModel keys;
    final KeysHearing keysHearing;
    final FitModel fit;
    final CompareModel beside;
    final SessionModel session;
    final DeviceModel device;
    final DumpModel dumps;
    final LibraryModel library;
    final ClickTracks clickTracks;
    final DestinationModel destination;
    final PresetsModel presets;
    final Sketches sketches;
    final EndsHeard ends;

    /// @param fx runs what belongs to the window's thread
    /// @param catalogue of what is known of files from earlier runs
    Models(Background background, Executor fx, Catalogue catalogue, Presets saved) {
        crate = new CrateModel(background, catalogue);
        list = new PackingListModel(crate);
        run = new PackRunModel(background, crate::fail);
        hearing = new HearingModel(list, crate.path(), fx, crate::tell, crate::fail);
        bench = new BenchModel(background, list, crate.book());
        edits = new WaveEdits(crate, list, background);
        loops = new LoopEdits(crate, list, background);
        tempo = new TempoModel(crate, list, background);
        joinOrder = new JoinOrderModel(crate);
        treatments = new TreatmentModel(crate, list);
        levels = new LevelsModel(crate, list, treatments, fx);
        keys = new KeysModel(crate, list);
        keysHearing = new KeysHearing(keys, crate.path(), hearing.resultProperty(), fx, () -> fx.execute(() -> crate.tell("no sound device: running silent")));
        fit = new FitModel(crate, list);
        beside = new CompareModel(crate, list, run, background, fx);
        session = new SessionModel(crate, run, background, fx);
        DeviceCard card = new DeviceCard(crate, run, background);
        device = new DeviceModel(card, new CardChanges(card, crate, background), crate, new ListSide(), fx);
        dumps = new DumpModel(crate, background);
        library = new LibraryModel(crate, background, fx);
        clickTracks = new ClickTracks(crate, background);
        destination = new DestinationModel(crate, clickTracks);
        presets = new PresetsModel(crate, saved);
        sketches = new Sketches(background, crate.catalogue());
        ends = new EndsHeard(crate, background);
        crate.jobProperty().subscribe(job -> run.lookAt(job.into()));
    }

    /// What the device's keys play of the list instead.
    private final class ListSide implements DeviceModel.ListSide {
        @Override public void on(PackingItem line, String instrument, boolean isResult, int key, int velocity) {
            Path path = line.source().path();
            if (list.shown().stream().noneMatch(i -> i.source().path().equals(path))) {
                crate.tell("the line of this sound is filtered away: show all lines (0) to hear it");
                return;
            }
            list.turnTo(path);
            hearing.resultProperty().set(isResult);
            if (line.isInstruments()) {
                keys.showInstrument(instrument);
                keysHearing.on(key, velocity);
            } else
                hearing.playFrom(0);
        }

        @Override public void off(int key) { keysHearing.off(key); }
    }
}
