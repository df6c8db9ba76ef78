package ablecrate.desktop;

import ablecrate.change.Told;
import ablecrate.audio.Figures;
import ablecrate.change.Verdict;
import ablecrate.desktop.action.Action;
import ablecrate.desktop.action.Actions;
import ablecrate.desktop.action.ActionsView;
import ablecrate.desktop.asking.Asking;
import ablecrate.desktop.asking.KeptWork;
import ablecrate.desktop.bench.BenchModel;
import ablecrate.desktop.bench.BenchView;
import ablecrate.desktop.bench.LoopEdits;
import ablecrate.desktop.bench.TempoModel;
import ablecrate.desktop.bench.WaveBench;
import ablecrate.desktop.bench.WaveEdits;
import ablecrate.desktop.bench.WaveView;
import ablecrate.desktop.compare.CompareModel;
import ablecrate.desktop.compare.CompareView;
import ablecrate.desktop.crate.ClickTracks;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.crate.DeliveryPlan;
import ablecrate.desktop.destination.DestinationModel;
import ablecrate.desktop.destination.DestinationView;
import ablecrate.desktop.device.CardChanges;
import ablecrate.desktop.device.DeviceCard;
import ablecrate.desktop.device.DeviceModel;
import ablecrate.desktop.device.DeviceView;
import ablecrate.desktop.dump.DumpModel;
import ablecrate.desktop.dump.DumpView;
import ablecrate.desktop.fit.FitModel;
import ablecrate.desktop.fit.FitView;
import ablecrate.desktop.session.SessionModel;
import ablecrate.desktop.session.SessionView;
import ablecrate.desktop.gathered.GatheredView;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.hearing.HearingBar;
import ablecrate.desktop.hearing.HearingModel;
import ablecrate.desktop.help.FormatsView;
import ablecrate.desktop.help.Guide;
import ablecrate.desktop.help.GuideView;
import ablecrate.desktop.help.Report;
import ablecrate.desktop.keys.KeyBenchView;
import ablecrate.desktop.keys.KeysHearing;
import ablecrate.desktop.keys.KeysModel;
import ablecrate.desktop.levels.LevelsModel;
import ablecrate.desktop.levels.LevelsView;
import ablecrate.desktop.levels.TreatmentForm;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.desktop.list.EndsHeard;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.list.PackingListView;
import ablecrate.desktop.join.JoinOrderModel;
import ablecrate.desktop.join.JoinOrderView;
import ablecrate.desktop.library.LibraryModel;
import ablecrate.desktop.library.LibraryView;
import ablecrate.desktop.list.Sketches;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.desktop.presets.PresetsModel;
import ablecrate.desktop.presets.PresetsView;
import ablecrate.desktop.sheet.SheetModel;
import ablecrate.desktop.sheet.SheetView;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.desktop.slip.RunBar;
import ablecrate.desktop.slip.SlipView;
import ablecrate.job.Delivery;
import ablecrate.job.Presets;
import ablecrate.plan.PackingItem;
import ablecrate.job.Recovery;
import ablecrate.library.Catalogue;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Executor;
import javafx.beans.binding.Bindings;
import javafx.beans.value.ObservableValue;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.SplitPane;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.text.Font;

/// The window: makes models and views, wires them, and holds the actions. The one place where all of them meet.
public final class AppWindow {
    private static final List<String> FONTS = List.of("Barlow_400Regular", "Barlow_500Medium", "Barlow_600SemiBold", "BarlowCondensed_600SemiBold",
            "IBMPlexMono_400Regular",
            "IBMPlexMono_500Medium");

    private static final double LEAST_BENCH = 210;

    private final CrateModel crate;
    private final Background background;
    private final PackingListModel list;
    private final PackRunModel run;
    private final HearingModel hearing;
    private final WaveView wave;
    private final TempoModel tempo;
    private final JoinOrderModel joinOrder;
    private final WaveEdits edits;
    private final LoopEdits loops;
    private final BenchView benchView;
    private final LevelsModel levels;
    private final TreatmentModel treatments;
    private final KeysModel keys;
    private final KeysHearing keysHearing;
    private final KeyBenchView keysView;
    private final PresetsModel presets;
    private final CompareModel beside;
    private final CompareView besideView;
    private final LibraryModel library;
    private final ClickTracks clickTracks;
    private final DeviceModel device;
    private final DumpModel dumps;
    private final Sketches sketches;
    private final PackingListView listView;
    private final GatheredView gatheredView;
    private final DestinationView destinationView;
    private final SplitPane work = new SplitPane();
    private final FoldersAndList top;
    private final Overlays overlays;
    private final TextSize textSize;
    private final Commands commands;
    private final ObservableValue<Hearable> heard;
    private final SlipView slipView;
    private final MenuButton more = new MenuButton("More");
    private final Actions actions = new Actions();
    private final Scene scene;
    private final Asking asking;
    private Choosers choosers;
    private Settings settings;
    private double benchShare;

    /// @param catalogue of what is known of files from earlier runs
    public AppWindow(Background background, Executor fx, Settings settings, Catalogue catalogue, Presets saved) {
        FONTS.forEach(f -> Font.loadFont(AppWindow.class.getResourceAsStream("/ablecrate/fonts/" + f + ".ttf"), 12));
        this.settings = settings;
        this.background = background;
        crate = new CrateModel(background, catalogue);
        catalogue.knowContents(settings.isContentKnown());
        presets = new PresetsModel(crate, saved);
        list = new PackingListModel(crate);
        run = new PackRunModel(background, crate::fail);
        hearing = new HearingModel(list, crate.path(), fx, crate::tell, crate::fail);
        BenchModel bench = new BenchModel(background, list, crate.book());
        edits = new WaveEdits(crate, list, background);
        loops = new LoopEdits(crate, list, background);
        joinOrder = new JoinOrderModel(crate);
        tempo = new TempoModel(crate, list, background);
        wave = new WaveView(bench, hearing::playFrom, hearing::playPart, edits, loops, tempo, background);
        wave.markProperty().bindBidirectional(hearing.markProperty());
        treatments = new TreatmentModel(crate, list);
        levels = new LevelsModel(crate, list, treatments, fx);
        keys = new KeysModel(crate, list);
        keysHearing = new KeysHearing(keys, crate.path(), hearing.resultProperty(), fx, () -> fx.execute(() -> crate.tell("no sound device: running silent")));
        keysView = new KeyBenchView(keys, keysHearing);
        beside = new CompareModel(crate, list, run, background, fx);
        besideView = new CompareView(beside);
        sketches = new Sketches(background, crate.catalogue());
        library = new LibraryModel(crate, background, fx);
        clickTracks = new ClickTracks(crate, background);
        DeviceCard card = new DeviceCard(crate, run, background);
        device = new DeviceModel(card, new CardChanges(card, crate, background), crate, new ListSide(), fx);
        dumps = new DumpModel(crate, background);
        FitModel fit = new FitModel(crate, list);
        benchView = new BenchView(bench,
                List.of(new WaveBench(bench, wave, edits, loops, tempo, background), keysView,
                        new LevelsView(levels, new TreatmentForm(treatments), hearing::toggle),
                        besideView, new FitView(fit, keys, keysHearing),
                        new SessionView(new SessionModel(crate, run, background, fx), sketches, () -> commands().openSession(),
                                () -> choosers.folder("Look for offline files")),
                        new DeviceView(device, () -> choosers.folder("Load a card"), () -> choosers.midiToPlay(), this::showDumps),
                        new LibraryView(library, sketches, () -> choosers.folder("Walk through a folder"))));
        heard = benchView.openProperty().map(b -> b.hearable().orElse(hearing));
        heard.subscribe((before, _) -> before.stop());
        listView = new PackingListView(list, sketches, new EndsHeard(crate, background), i -> run.done(i.source().path()), run.doneProperty());
        listView.show(settings.look().columns());
        listView.showSteps(!settings.look().areStepsHidden());
        listView.onHideSteps(() -> showSteps(false));
        crate.onPlans(this::showOthers);
        crate.jobProperty().subscribe(_ -> showOthers());
        listView.onOpen(hearing::toggle, () -> {
            // Sounds that are dragged can be put on the keys of the instrument that was looked at last.
            if (!keys.zones().isEmpty()) benchView.show("keys");
        });
        BorderPane board = new BorderPane();
        overlays = new Overlays(board);
        asking = new Asking(crate, overlays::show, overlays::close, () -> choosers);
        commands = new Commands(crate, list, run, asking, () -> choosers);
        gatheredView = new GatheredView(list, commands::gatherFolder, commands::gatherFiles, folder -> crate.gather(List.of(folder)));
        destinationView = new DestinationView(new DestinationModel(crate, clickTracks), list, fit.takenProperty(), commands::chooseSheet,
                commands::chooseFurtherSheet,
                this::editSheet,
                commands::chooseInto, this::pack);
        slipView = new SlipView(run, overlays::close, this::lookAt, commands::reveal, this::showPacked, this::pack);
        top = new FoldersAndList(gatheredView, listView);
        makeActions();
        work.setOrientation(Orientation.VERTICAL);
        work.getItems().addAll(top, benchView);
        benchShare = settings.look().benchShare();
        work.setDividerPositions(settings.look().isBenchLarge() ? 0 : benchShare);
        board.setCenter(work);
        board.setTop(new VBox(header(), error()));
        board.setRight(destinationView);
        board.setBottom(foot());
        board.getStyleClass().add("board");
        board.setMinSize(0, 0);
        work.setMinWidth(0);
        benchView.setMinWidth(0);
        benchView.setMinHeight(LEAST_BENCH);
        board.widthProperty().subscribe(w -> top.fit(w.doubleValue()));
        StackPane layers = overlays.layers();
        textSize = new TextSize(layers);
        scene = new Scene(textSize, settings.place().width(), settings.place().height());
        scene.getStylesheets().add(AppWindow.class.getResource("theme.css").toExternalForm());
        scene.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        layers.addEventHandler(DragEvent.DRAG_OVER, e -> {
            if (e.getDragboard().hasFiles()) e.acceptTransferModes(TransferMode.COPY);
        });
        layers.addEventHandler(DragEvent.DRAG_DROPPED, e -> {
            commands.dropped(e.getDragboard().getFiles());
            e.setDropCompleted(true);
        });
        run.slipsProperty().subscribe(s -> {
            if (s.isEmpty()) return;
            overlays.show(slipView);
            crate.foresee();
        });
        crate.jobProperty().subscribe(job -> run.lookAt(job.into()));
        crate.jobProperty().subscribe(_ -> renewMenu());
        crate.jobProperty().subscribe((before, now) -> {
            if (before != null)
                now.sources().stream().filter(f -> !before.sources().contains(f) && Files.isDirectory(f))
                        .forEach(f -> this.settings = this.settings.withGathered(f));
            gatheredView.showRecent(this.settings.recent().folders().stream().map(Path::of).filter(f -> !now.sources().contains(f)).toList());
        });
        crate.fileProperty().subscribe(f -> f.ifPresent(path -> {
            this.settings = this.settings.withJob(path);
            renewMenu();
        }));
        settings.watched().stream().map(Path::of).filter(Files::isDirectory).forEach(f -> library.watch(f, true));
        library.watchedProperty().subscribe((before, now) -> {
            if (before != null) this.settings = this.settings.withWatched(now);
        });
        setDark(settings.look().isDark());
        setTextSize(settings.look().textPercent());
        listView.table().setContextMenu(
                menu("play", "line-up", "level-together", "clicks-out", "join-order", "loop-crossfade", "mono", "undo-edits", "reveal", "remove"));
        ContextMenu ofWave = menu("play", "start", "end", "fade-in", "fade-out", "cut", "cut-remove", "part-add", "part-remove", "downbeat", "loop-add",
                "loop-find",
                "loop-crossfade",
                "undo-edits", "bench-size");
        wave.setOnContextMenuRequested(e -> ofWave.show(wave, e.getScreenX(), e.getScreenY()));
        gatheredView.useMenu(menu("all-lines", "choose-shown", "level-shown", "remove-shown"));
    }

    /// Keeps what is open as it changes, and offers what was left.
    public void keepWork(Recovery recovery, Background background) {
        new KeptWork(crate, background, recovery);
        recovery.left().stream().findFirst().ifPresent(left -> asking.offer(left, l -> background.run(() -> {
            recovery.forget(l);
            return true;
        }, _ -> {}, e -> crate.fail("what was left cannot be taken away: " + e.getMessage()))));
    }

    /// Ends once nothing would be lost.
    public void beforeClosing(Runnable then) { asking.beforeLosing(then); }

    /// @param choosers can only be made once there is a stage
    public void useChoosers(Choosers answering) { choosers = answering; }

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

    private Commands commands() { return commands; }

    public Scene scene() { return scene; }

    public CrateModel crate() { return crate; }

    public PackingListModel list() { return list; }

    Sketches sketches() { return sketches; }

    TreatmentModel treatments() { return treatments; }

    public PackRunModel run() { return run; }

    public HearingModel hearing() { return hearing; }

    public WaveView wave() { return wave; }

    public Actions actions() { return actions; }

    /// As they are now, but for the window's place.
    public Settings settings() {
        double share = isBenchLarge() ? benchShare : work.getDividerPositions()[0];
        return settings.with(settings.look().withBench(share, isBenchLarge()).withColumns(listView.columns()));
    }

    public void remember(Settings changed) { settings = changed; }

    private HBox header() {
        Label mark = Headings.label("Able Crate", "wordmark"), job = new Label(), message = new Label();
        job.setId("job-name");
        job.getStyleClass().add("job-name");
        job.textProperty()
                .bind(Bindings.createStringBinding(() -> crate.fileProperty().get().map(f -> f.getFileName().toString()).orElse("new job")
                        + (crate.unsavedProperty().get() ? " – not saved" : ""), crate.fileProperty(), crate.unsavedProperty()));
        message.setId("message");
        message.getStyleClass().add("message");
        message.textProperty().bind(Bindings.createStringBinding(() -> {
            if (crate.readingProperty().get())
                return crate.toReadProperty().get() == 0 ? "reading files …" : "reading " + Figures.grouped(crate.toReadProperty().get()) + " more files …";
            int toHear = crate.toHearProperty().get();
            int toFit = crate.toFitProperty().get();
            return toHear == 0
                    ? crate.messageProperty().get()
                    : toFit == toHear
                            ? "making " + Told.count(toFit, "line") + " fit …"
                                    + (toFit == 1 && crate.fitPartProperty().get() > 0
                                            ? String.format(Locale.ROOT, " %.0f %%", 100 * crate.fitPartProperty().get())
                                            : "")
                            : "listening to " + Told.count(toHear - toFit, "sound") + " …";
        }, crate.readingProperty(), crate.toReadProperty(), crate.toHearProperty(), crate.toFitProperty(), crate.fitPartProperty(),
                crate.messageProperty()));
        message.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(message, Priority.ALWAYS);
        Button undo = Buttons.of("undo", "Undo", "Ctrl+Z", crate::undo), redo = Buttons.of("redo", "Redo", "Ctrl+Shift+Z", crate::redo);
        undo.disableProperty().bind(crate.canUndoProperty().not());
        redo.disableProperty().bind(crate.canRedoProperty().not());
        crate.jobProperty().subscribe(_ -> {
            Tips.on(undo, crate.undoLabel().isEmpty() ? "Ctrl+Z" : "Undo: " + crate.undoLabel() + " (Ctrl+Z)");
            Tips.on(redo, crate.redoLabel().isEmpty() ? "Ctrl+Shift+Z" : "Redo: " + crate.redoLabel() + " (Ctrl+Shift+Z)");
        });
        more.setId("more");
        more.setMinWidth(Region.USE_PREF_SIZE);
        mark.setMinWidth(Region.USE_PREF_SIZE);
        message.setMinWidth(0);
        HBox header = new HBox(12, mark, job, message, top.turnButton(), undo, redo, Buttons.of("open", "Open…", "Ctrl+O", commands::openJob),
                Buttons.of("save", "Save", "Ctrl+S", commands::save),
                Buttons.of("actions-button", "Actions", "All actions with their keys (F2)", this::showActions), more);
        header.setAlignment(Pos.CENTER_LEFT);
        header.getStyleClass().add("header");
        return header;
    }

    /// What went wrong stays until somebody has seen it.
    private HBox error() {
        Label text = new Label();
        text.setId("error");
        text.setWrapText(true);
        text.setMaxWidth(Double.MAX_VALUE);
        text.textProperty().bind(crate.errorProperty());
        HBox.setHgrow(text, Priority.ALWAYS);
        HBox strip = new HBox(10, new VerdictStamp(Verdict.BLOCKED), text,
                Buttons.of("dismiss-error", "Dismiss", "It stays until you have seen it", crate::dismissError));
        strip.getStyleClass().add("error-strip");
        strip.setAlignment(Pos.CENTER_LEFT);
        strip.visibleProperty().bind(crate.errorProperty().isNotEmpty());
        strip.managedProperty().bind(strip.visibleProperty());
        return strip;
    }

    private HBox foot() {
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox foot = new HBox(16, new HearingBar(hearing, heard, wave.playedFrameProperty()::set), gap, new RunBar(run));
        foot.setAlignment(Pos.CENTER_LEFT);
        foot.getStyleClass().add("foot");
        return foot;
    }

    private void makeActions() {
        actions.add(List.of(Action.of("gather-folder", "Gather", "Gather a folder", "Shortcut+G", commands::gatherFolder),
                Action.of("gather-files", "Gather", "Gather files", "Shortcut+Shift+G", commands::gatherFiles),
                Action.of("library", "Gather", "Walk through a folder by ear", "Shortcut+Shift+F", this::toLibrary),
                Action.of("rescan", "Gather", "Look at all files again", "F5", crate::rescan),
                Action.plain("remove", "Gather", "Take the chosen out of the job", "Delete", list::removeChosen).or("Backspace"),
                Action.of("remove-shown", "Gather", "Take the lines that are shown out of the job", "Shortcut+Delete", list::removeShown),
                Action.of("reveal", "Gather", "Show the file in its folder", "Shortcut+R", commands::reveal)));
        actions.add(List.of(Action.told("unfold", "Check", "Unfold an instrument, fold it", "→ ←"),
                Action.of("filter", "Check", "Filter by name", "Shortcut+F", listView::focusFilter).or("Slash"),
                only(Verdict.KEPT), only(Verdict.CONVERTED), only(Verdict.ADJUSTED), only(Verdict.REDUCED), only(Verdict.BLOCKED),
                Action.of("choose-shown", "Check", "Choose all lines that are shown", "Shortcut+Shift+A", listView::chooseShown),
                Action.plain("all-lines", "Check", "Show all lines", "0", list::showAll),
                Action.plain("worst-first", "Check", "The worst first, or as before", "W", listView::worstFirst)));
        actions.add(List.of(Action.plain("play", "Hear", "Play or stop", "Space", () -> heard.getValue().toggle()),
                Action.plain("other-side", "Hear", "Source or result", "A", () -> heard.getValue().otherSide()),
                Action.plain("piece-next", "Hear", "The next slice or part of a clip", "N", () -> wave.walk(1)),
                Action.plain("piece-before", "Hear", "The slice or part before", "Shift+N", () -> wave.walk(-1)),
                Action.plain("result", "Hear", "Source beside result, or back", "R", this::turnToResult).forCards()));
        actions.add(List.of(Action.plain("start", "Prepare", "Start the sound at the mark", "S", () -> edits.cutStart(wave.place())),
                Action.plain("end", "Prepare", "End it at the mark", "E", () -> edits.cutEnd(wave.place())),
                Action.plain("fade-in", "Prepare", "Fade in up to the mark", "Shift+S", () -> edits.fadeIn(wave.place())),
                Action.plain("fade-out", "Prepare", "Fade out from the mark", "Shift+E", () -> edits.fadeOut(wave.place())),
                Action.plain("part-add", "Prepare", "Make a part of what lies between start and end", "P", edits::addPart),
                Action.plain("part-remove", "Prepare", "Take away the part at the mark", "Shift+P", () -> edits.removePart(wave.place())),
                Action.plain("cut", "Prepare", "Begin a slice at the mark", "C", () -> edits.cutAt(wave.place())),
                Action.plain("cut-remove", "Prepare", "Take away the beginning of the slice at the mark", "Shift+C", () -> edits.uncutAt(wave.place())),
                Action.plain("downbeat", "Prepare", "Begin bar 1 at the mark", "D", () -> tempo.beginBarAt(wave.place())),
                Action.plain("undo-edits", "Prepare", "Take all edits of the chosen back", "Shift+Backspace", edits::undoAll),
                Action.of("line-up", "Prepare", "Line the chosen up by their first onset", "Shortcut+U", edits::lineUp),
                Action.of("clicks-out", "Prepare", "Find click tracks beside stems, and take them out", "Shortcut+Shift+U", clickTracks::takeOut),
                Action.of("join-order", "Prepare", "Put the joined sounds in order", "Shortcut+Shift+T", this::showJoinOrder),
                Action.of("level-together", "Prepare", "Level the chosen together", "Shortcut+J", edits::group),
                Action.of("level-shown", "Prepare", "Set levels of the lines that are shown", "Shortcut+Shift+J", this::levelShown),
                Action.of("put-on-keys", "Prepare", "Put the chosen sounds on keys of the last instrument", "Shortcut+K", this::putOnKeys),
                Action.plain("loop-add", "Prepare", "Add a loop from the mark to the end", "L", () -> loops.add(wave.place())),
                Action.plain("loop-find", "Prepare", "Look for places to loop", "Shift+L", loops::find),
                Action.of("loop-crossfade", "Prepare", "Loop crossfade of the chosen on or off", "Shortcut+B", edits::crossfade),
                Action.of("mono", "Prepare", "Stereo to mono of the chosen: middle, left, right", "Shortcut+M", edits::nextMonoLaw)));
        benchView.benches().forEach(b -> actions.add(b.keys()));
        actions.add(List.of(Action.of("destination", "Pack", "Choose the destination", "Shortcut+D", destinationView::focusDestination),
                Action.of("destination-add", "Pack", "Pack for another destination as well", "Alt+Shift+D", destinationView::addDestination),
                Action.of("destination-next", "Pack", "Look at the next destination of the job", "Alt+D", crate::showNextDelivery),
                Action.of("destination-remove", "Pack", "Pack for this destination no longer", "Alt+Shift+Delete", crate::notFor),
                Action.of("sheet", "Pack", "Change the destination sheet, or make one", "Shortcut+Shift+D", this::editSheet),
                Action.of("into", "Pack", "Choose the folder to pack into", "Shortcut+I", commands::chooseInto),
                Action.of("pack", "Pack", "Pack", "Shortcut+Enter", this::pack),
                Action.of("dumps", "Pack", "Send samples over MIDI, or ask for them", "Shortcut+Shift+M", this::showDumps),
                Action.of("slip", "Pack", "Show the last packing slip", "Shortcut+L", this::showSlip),
                Action.of("escape", "Pack", "Stop packing; close what lies over the list", "Esc", this::escape).forCards()));
        actions.add(List.of(Action.of("new", "Job", "New job", "Shortcut+N", commands::newJob),
                Action.of("open-session", "Job", "Open a recording session", "Shortcut+Shift+O", commands::openSession),
                Action.of("open", "Job", "Open a job", "Shortcut+O", commands::openJob), Action.of("save", "Job", "Save the job", "Shortcut+S", commands::save),
                Action.of("save-as", "Job", "Save under another name", "Shortcut+Shift+S", commands::saveAs),
                Action.of("undo", "Job", "Undo", "Shortcut+Z", crate::undo), Action.of("redo", "Job", "Redo", "Shortcut+Shift+Z", crate::redo).or("Shortcut+Y"),
                Action.of("presets", "Job", "Presets", "Shortcut+E", this::showPresets),
                Action.of("contents", "Job", "Know moved files by their content", "Shortcut+Shift+K", () -> knowContents(!settings.isContentKnown()))
                        .on(() -> settings.isContentKnown())));
        actions.add(List.of(Action.of("to-folders", "Window", "To the folders", "Alt+1", top::toFolders),
                Action.of("to-list", "Window", "To the packing list", "Alt+2", top::toList),
                Action.of("to-bench", "Window", "To the bench", "Alt+3", () -> benchView.openProperty().get().focus()),
                Action.plain("turn-bench", "Window", "Levels of all on the bench, or back", "V", this::turnBench),
                Action.plain("bench-size", "Window", "Bench large or small", "B", this::toggleBench),
                Action.of("first-steps", "Window", "First steps in an empty list", "Shortcut+F1", () -> showSteps(settings.look().areStepsHidden()))
                        .on(() -> !settings.look().areStepsHidden()),
                Action.of("dark", "Window", "Dark window", "Shortcut+T", () -> setDark(!settings.look().isDark())).forCards()
                        .on(() -> settings.look().isDark()),
                Action.of("text-larger", "Window", "Larger text", "Shortcut+Plus", () -> stepTextSize(1)).or("Shortcut+Equals").forCards(),
                Action.of("text-smaller", "Window", "Smaller text", "Shortcut+Minus", () -> stepTextSize(-1)).forCards(),
                Action.of("text-usual", "Window", "Text at its usual size", "Shortcut+0", () -> setTextSize(TextSize.USUAL)).forCards(),
                Action.of("formats", "Window", "What survives where", "Shortcut+H", this::showFormats),
                Action.of("guide", "Window", "Guide to what is on the screen", "F1", this::showGuide).forCards(),
                Action.of("report", "Window", "Copy a report of faults, without file names", "Shift+F1", this::copyReport).forCards(),
                Action.of("actions", "Window", "Actions and keys", "F2", this::showActions).forCards()));
    }

    private Action only(Verdict verdict) {
        return Action.plain("only-" + verdict.id(), "Check", "Only " + verdict.id(), Integer.toString(verdict.ordinal() + 1), () -> list.toggle(verdict));
    }

    private void key(KeyEvent event) {
        boolean isOfBench = !event.isShortcutDown() && !event.isAltDown() && benchView.openProperty().get().takes(event.getCode());
        if (!isOfBench) actions.answer(event, scene.getFocusOwner(), overlays.isOpen());
    }

    private ContextMenu menu(String... ids) {
        ContextMenu menu = new ContextMenu();
        menu.getItems().addAll(actions.menu(ids));
        return menu;
    }

    private void renewMenu() {
        more.getItems()
                .setAll(actions.menu("new", "save-as", "presets", "slip", "dumps", "contents", "formats", "text-larger", "text-smaller", "dark", "guide",
                        "report",
                        "actions"));
        if (!settings.recent().jobs().isEmpty()) more.getItems().add(new SeparatorMenuItem());
        for (String recent : settings.recent().jobs()) {
            MenuItem item = new MenuItem(Path.of(recent).getFileName().toString());
            item.setOnAction(_ -> commands.openJob(Path.of(recent)));
            more.getItems().add(item);
        }
    }

    /// The form of levels, for just the lines that are shown.
    private void levelShown() {
        listView.chooseShown();
        treatments.scopeProperty().set(TreatmentModel.Scope.CHOSEN);
        benchView.show("levels");
    }

    private void knowContents(boolean isWanted) {
        settings = settings.withContentKnown(isWanted);
        crate.catalogue().knowContents(isWanted);
        crate.tell(isWanted ? "files that were moved, renamed or copied are known by their content" : "files are known by their path, size and date");
    }

    private void showSteps(boolean areShown) {
        settings = settings.withStepsHidden(!areShown);
        listView.showSteps(areShown);
    }

    private void putOnKeys() {
        List<Path> sounds = list.chosenSounds();
        if (keys.zones().isEmpty() || sounds.isEmpty()) {
            crate.tell(sounds.isEmpty() ? "choose sounds of the list first" : "choose an instrument's line first, then the sounds");
            return;
        }
        benchView.show("keys");
        keys.putSoundsBeside(sounds);
        keysView.focus();
    }

    private void pack() { commands.pack(overlays::close); }

    private void escape() {
        if (run.runningProperty().get())
            run.stop();
        else
            if (overlays.isOpen())
                overlays.close();
            else
                top.toList();
    }

    /// From what one line has, a wave or keys, to the levels of all, and back.
    public void turnBench() { turnTo("levels"); }

    /// To the result beside its source, and back to what the line itself has.
    public void turnToResult() {
        if (overlays.shows(slipView))
            slipView.compareChosen();
        else
            turnTo("result");
    }

    private void toLibrary() {
        benchView.show("library");
        if (library.folderProperty().get().isEmpty()) choosers.folder("Walk through a folder").ifPresent(library::open);
        benchView.openProperty().get().focus();
    }

    private void turnTo(String bench) {
        if (benchView.openProperty().get().id().equals(bench))
            benchView.showOwn();
        else
            benchView.show(bench);
    }

    /// What was packed of a source, laid over it.
    private void showPacked(Path source) {
        overlays.close();
        list.showAll();
        list.turnTo(source);
        beside.packedProperty().set(true);
        benchView.show("result");
        besideView.focus();
    }

    public CompareModel beside() { return beside; }

    public void showBench(String id) { benchView.show(id); }

    public KeysModel keys() { return keys; }

    LoopEdits loops() { return loops; }

    public LibraryModel library() { return library; }

    public DeviceModel device() { return device; }

    private boolean isBenchLarge() { return work.getDividerPositions()[0] < 0.2; }

    private void toggleBench() {
        if (isBenchLarge())
            work.setDividerPositions(benchShare);
        else {
            benchShare = work.getDividerPositions()[0];
            work.setDividerPositions(0);
        }
    }

    public void setDark(boolean dark) {
        settings = settings.withDark(dark);
        scene.getRoot().getStyleClass().remove("dark");
        if (dark) scene.getRoot().getStyleClass().add("dark");
    }

    /// @param percent one of `TextSize.STEPS`
    public void setTextSize(int percent) {
        settings = settings.withText(percent);
        textSize.show(scene, percent);
    }

    private void stepTextSize(int direction) {
        setTextSize(TextSize.step(settings.look().textPercent(), direction));
        crate.tell("text at " + settings.look().textPercent() + " %");
    }

    public void showActions() { overlays.show(new ActionsView(actions, overlays::close)); }

    /// The page of the guide for what is on the screen.
    public void showGuide() {
        boolean hasLoop = list.currentProperty().get().flatMap(i -> i.source().sound()).filter(f -> !f.metadata().loops().isEmpty()).isPresent();
        overlays.show(new GuideView(
                Guide.pageFor(benchView.openProperty().get().id(), crate.job().destination(), list.all().isEmpty(), hasLoop), overlays::close));
    }

    private void copyReport() {
        ClipboardContent content = new ClipboardContent();
        content.putString(Report.of(Report.logFile()));
        Clipboard.getSystemClipboard().setContent(content);
        crate.tell("a report is on the clipboard; the whole log is " + Report.logFile());
    }

    /// The sheet of the destination, to be changed.
    public void editSheet() { overlays.show(new SheetView(new SheetModel(crate, background), s -> choosers.sheetToSave(s), overlays::close)); }

    /// Samples to a device over MIDI, and from it.
    public void showDumps() { overlays.show(new DumpView(dumps, () -> choosers.folder("Put the sounds into"), overlays::close)); }

    public void showJoinOrder() { overlays.show(new JoinOrderView(joinOrder, overlays::close)); }

    public void showPresets() { overlays.show(new PresetsView(presets, overlays::close)); }

    public void showFormats() { overlays.show(new FormatsView(overlays::close)); }

    private void showOthers() {
        List<DeliveryPlan> plans = crate.plans();
        // What is planned anew is shown once it is there.
        if (plans.size() == crate.job().deliveries().size() || crate.job().deliveries().size() == 1)
            listView.showOthers(plans, crate.job().shown(), crate::showDelivery);
    }

    /// Turns to the destination that packs into a folder.
    private void lookAt(Path folder) {
        List<Delivery> all = crate.job().deliveries();
        for (int i = 0; i < all.size(); i++)
            if (all.get(i).into().filter(f -> f.toAbsolutePath().normalize().equals(folder)).isPresent()) {
                crate.showDelivery(i);
                return;
            }
        run.lookAt(Optional.of(folder));
    }

    public void showSlip() {
        if (run.slipProperty().get().isPresent())
            overlays.show(slipView);
        else
            crate.tell("nothing was packed yet");
    }

    public void closeOverlays() { overlays.close(); }

    /// What a drop of files from outside brings.
    public void dropped(List<File> files) { commands.dropped(files); }

    /// Chooses a line by part of its path, as a click would.
    public Optional<Path> chooseLine(String part) {
        return list.shown().stream().filter(i -> i.source().relative().toString().contains(part)).findFirst().map(i -> {
            listView.table().getSelectionModel().clearAndSelect(list.shown().indexOf(i));
            listView.table().scrollTo(Math.max(0, list.shown().indexOf(i) - 2));
            return i.source().path();
        });
    }

    /// Chooses the first line of each of these names.
    void chooseLines(String... parts) {
        var choice = listView.table().getSelectionModel();
        choice.clearSelection();
        for (String part : parts)
            list.shown().stream().filter(i -> i.source().relative().toString().contains(part)).findFirst()
                    .ifPresent(i -> choice.select(list.shown().indexOf(i)));
    }
}
