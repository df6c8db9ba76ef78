package ablecrate.desktop;

import ablecrate.audio.Figures;
import ablecrate.desktop.asking.Asking;
import ablecrate.desktop.asking.KeptWork;
import ablecrate.desktop.bench.BenchModel;
import ablecrate.desktop.bench.BenchView;
import ablecrate.desktop.bench.WaveEdits;
import ablecrate.desktop.bench.WaveView;
import ablecrate.desktop.beside.BesideModel;
import ablecrate.desktop.beside.BesideView;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.destination.DestinationModel;
import ablecrate.desktop.destination.DestinationView;
import ablecrate.desktop.gathered.GatheredView;
import ablecrate.desktop.hearing.HearingBar;
import ablecrate.desktop.hearing.HearingModel;
import ablecrate.desktop.help.Action;
import ablecrate.desktop.help.FormatsView;
import ablecrate.desktop.help.KeysView;
import ablecrate.desktop.keys.KeyBenchView;
import ablecrate.desktop.keys.KeysHearing;
import ablecrate.desktop.keys.KeysModel;
import ablecrate.desktop.levels.LevelsModel;
import ablecrate.desktop.levels.LevelsView;
import ablecrate.desktop.levels.TreatmentForm;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.list.PackingListView;
import ablecrate.desktop.list.Sketches;
import ablecrate.desktop.presets.PresetsModel;
import ablecrate.desktop.presets.PresetsView;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.desktop.slip.RunBar;
import ablecrate.desktop.slip.SlipView;
import ablecrate.job.Presets;
import ablecrate.job.Recovery;
import ablecrate.library.Catalogue;
import ablecrate.plan.PackingItem;
import ablecrate.change.Verdict;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.stream.Stream;
import javafx.beans.binding.Bindings;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.Tooltip;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.text.Font;
import javafx.util.Subscription;

/// The window: makes models and views, wires them, and holds the actions. The one place where all of them meet.
public final class AppWindow {
    private static final List<String> FONTS = List.of("Barlow_400Regular", "Barlow_500Medium", "Barlow_600SemiBold", "BarlowCondensed_600SemiBold",
            "IBMPlexMono_400Regular",
            "IBMPlexMono_500Medium");

    /// What a text field does with its text.
    private static final List<KeyCombination> TEXT_KEYS = Stream.of("Z", "Shift+Z", "Y", "X", "C", "V", "A").map(k -> KeyCombination.valueOf("Shortcut+" + k))
            .toList();

    private final CrateModel crate;
    private final PackingListModel list;
    private final PackRunModel run;
    private final HearingModel hearing;
    private final WaveView wave;
    private final WaveEdits edits;
    private final BenchView benchView;
    private final LevelsModel levels;
    private final TreatmentModel treatments;
    private final KeysModel keys;
    private final KeysHearing keysHearing;
    private final KeyBenchView keysView;
    private final PresetsModel presets;
    private final BesideModel beside;
    private final BesideView besideView;
    private final Sketches sketches;
    private final PackingListView listView;
    private final GatheredView gatheredView;
    private final DestinationView destinationView;
    private final SplitPane work = new SplitPane();
    private final StackPane layers = new StackPane();
    private final SlipView slipView;
    private final MenuButton more = new MenuButton("More");
    private final List<Action> actions = new ArrayList<>();
    private final Scene scene;
    private final Asking asking;
    private Choosers choosers;
    private Optional<Node> focusBelow = Optional.empty();
    private Settings settings;
    private double benchShare;

    /// @param catalogue of what is known of files from earlier runs
    public AppWindow(Background background, Executor fx, Settings settings, Catalogue catalogue, Presets saved) {
        FONTS.forEach(f -> Font.loadFont(AppWindow.class.getResourceAsStream("fonts/" + f + ".ttf"), 12));
        this.settings = settings;
        crate = new CrateModel(background, catalogue);
        catalogue.knowContents(settings.knowsContents());
        presets = new PresetsModel(crate, saved);
        list = new PackingListModel(crate);
        run = new PackRunModel(background, crate::tell);
        hearing = new HearingModel(list, crate.path(), fx, crate::tell);
        BenchModel bench = new BenchModel(background, list, crate.book());
        edits = new WaveEdits(crate, list, background);
        wave = new WaveView(bench, hearing::playFrom, edits);
        treatments = new TreatmentModel(crate, list);
        levels = new LevelsModel(crate, list, treatments, fx);
        LevelsView levelsView = new LevelsView(levels, new TreatmentForm(treatments), hearing::toggle);
        keys = new KeysModel(crate, list);
        keysHearing = new KeysHearing(keys, crate.path(), hearing.resultProperty(), fx, () -> fx.execute(() -> crate.tell("no sound device: running silent")));
        keysView = new KeyBenchView(keys, keysHearing);
        beside = new BesideModel(crate, list, run.slipProperty(), background, fx);
        besideView = new BesideView(beside);
        benchView = new BenchView(bench, wave, keysView, levelsView, besideView);
        benchView.faceProperty().subscribe(f -> {
            levels.shownProperty().set(f == BenchView.Face.LEVELS);
            keysHearing.shown(f == BenchView.Face.KEYS);
            beside.shownProperty().set(f == BenchView.Face.RESULT);
        });
        sketches = new Sketches(background, crate.catalogue());
        listView = new PackingListView(list, sketches);
        listView.show(settings.columns());
        listView.onOpen(hearing::toggle, () -> {
            // Sounds that are dragged can be put on the keys of the instrument that was looked at last.
            if (!keys.zones().isEmpty()) benchView.show(BenchView.Face.KEYS);
        });
        gatheredView = new GatheredView(list, this::gatherFolder, this::gatherFiles);
        destinationView = new DestinationView(new DestinationModel(crate), list, this::chooseSheet, this::chooseInto, this::pack);
        slipView = new SlipView(run, this::closeOverlays, p -> choosers.reveal(p).ifPresent(crate::tell), this::showPacked);
        asking = new Asking(crate, this::overlay, this::closeOverlays, () -> choosers);
        makeActions(levelsView);
        SplitPane top = new SplitPane(gatheredView, listView);
        top.setMinHeight(0);
        top.setDividerPositions(0.19);
        SplitPane.setResizableWithParent(gatheredView, false);
        work.setOrientation(Orientation.VERTICAL);
        work.getItems().addAll(top, benchView);
        benchShare = settings.benchShare();
        work.setDividerPositions(benchShare);
        BorderPane board = new BorderPane(work, header(), destinationView, foot(), null);
        board.getStyleClass().add("board");
        layers.getChildren().add(board);
        scene = new Scene(layers, settings.width(), settings.height());
        scene.getStylesheets().add(AppWindow.class.getResource("theme.css").toExternalForm());
        scene.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        layers.addEventHandler(DragEvent.DRAG_OVER, e -> {
            if (e.getDragboard().hasFiles()) e.acceptTransferModes(TransferMode.COPY);
        });
        layers.addEventHandler(DragEvent.DRAG_DROPPED, e -> {
            dropped(e.getDragboard().getFiles());
            e.setDropCompleted(true);
        });
        run.slipProperty().subscribe(s -> s.ifPresent(_ -> {
            overlay(slipView);
            crate.foresee();
        }));
        crate.jobProperty().subscribe(_ -> renewMenu());
        crate.fileProperty().subscribe(f -> f.ifPresent(path -> {
            this.settings = this.settings.withJob(path);
            renewMenu();
        }));
        setDark(settings.dark());
        listView.table().setContextMenu(contextMenu());
    }

    /// Keeps what is open as it changes, and offers what was left.
    public void keepWork(Recovery recovery, Background background) {
        new KeptWork(crate, background, recovery);
        recovery.left().stream().findFirst().ifPresent(left -> asking.offer(left, l -> background.run(() -> {
            recovery.forget(l);
            return true;
        }, _ -> {}, e -> crate.tell("what was left cannot be taken away: " + e.getMessage()))));
    }

    /// Ends once nothing would be lost.
    public void beforeClosing(Runnable then) { asking.beforeLosing(then); }

    /// @param choosers can only be made once there is a stage
    public void useChoosers(Choosers answering) { choosers = answering; }

    public Scene scene() { return scene; }

    public CrateModel crate() { return crate; }

    public PackingListModel list() { return list; }

    Sketches sketches() { return sketches; }

    TreatmentModel treatments() { return treatments; }

    public PackRunModel run() { return run; }

    public HearingModel hearing() { return hearing; }

    public WaveView wave() { return wave; }

    public List<Action> actions() { return List.copyOf(actions); }

    /// As they are now, window's place aside.
    public Settings settings() { return settings.withSize(scene.getWidth(), scene.getHeight(), benchShare).withColumns(listView.columns()); }

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
            return toHear > 0 ? "listening to " + toHear + (toHear == 1 ? " sound …" : " sounds …") : crate.messageProperty().get();
        }, crate.readingProperty(), crate.toReadProperty(), crate.toHearProperty(), crate.messageProperty()));
        message.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(message, Priority.ALWAYS);
        Button undo = button("Undo", "undo", "Ctrl+Z", crate::undo), redo = button("Redo", "redo", "Ctrl+Shift+Z", crate::redo);
        undo.disableProperty().bind(crate.canUndoProperty().not());
        redo.disableProperty().bind(crate.canRedoProperty().not());
        crate.jobProperty().subscribe(_ -> {
            undo.getTooltip().setText(crate.undoLabel().isEmpty() ? "Ctrl+Z" : "Undo: " + crate.undoLabel() + " (Ctrl+Z)");
            redo.getTooltip().setText(crate.redoLabel().isEmpty() ? "Ctrl+Shift+Z" : "Redo: " + crate.redoLabel() + " (Ctrl+Shift+Z)");
        });
        more.setId("more");
        HBox header = new HBox(12, mark, job, message, undo, redo, button("Open…", "open", "Ctrl+O", this::openJob),
                button("Save", "save", "Ctrl+S", this::save),
                button("Keys", "keys-button", "F1", this::showKeys), more);
        header.setAlignment(Pos.CENTER_LEFT);
        header.getStyleClass().add("header");
        return header;
    }

    private static Button button(String text, String id, String keys, Runnable action) {
        Button button = new Button(text);
        button.setId(id);
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.setTooltip(new Tooltip(keys));
        button.setOnAction(_ -> action.run());
        return button;
    }

    private HearingBar.Controls hearingControls() {
        var playing = Bindings.createBooleanBinding(() -> hearing.playingProperty().get() || beside.playingProperty().get(), hearing.playingProperty(),
                beside.playingProperty());
        var side = Bindings.createStringBinding(
                () -> showsResult() ? beside.heardProperty().get().label() : hearing.resultProperty().get() ? "Result" : "Source",
                benchView.faceProperty(), beside.heardProperty(), hearing.resultProperty());
        return new HearingBar.Controls(this::playOrStop, this::otherSide, playing, side, () -> showsResult() ? beside.heard() : hearing.heard());
    }

    private HBox foot() {
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox foot = new HBox(16, new HearingBar(hearing, hearingControls(), wave.playedFrameProperty()::set), gap, new RunBar(run));
        foot.setAlignment(Pos.CENTER_LEFT);
        foot.getStyleClass().add("foot");
        return foot;
    }

    private void makeActions(LevelsView levelsView) {
        actions.addAll(List.of(Action.of("Gather", "Gather a folder", "Shortcut+G", this::gatherFolder),
                Action.of("Gather", "Gather files", "Shortcut+Shift+G", this::gatherFiles),
                Action.of("Gather", "Look at all files again", "F5", crate::rescan),
                Action.plain("Gather", "Take the chosen out of the job", "Delete", list::removeChosen).or("Backspace"),
                Action.of("Gather", "Show the file in its folder", "Shortcut+R", this::reveal),

                Action.told("Check", "Unfold an instrument, fold it", "→ ←"),
                Action.of("Check", "Filter by name", "Shortcut+F", listView::focusFilter).or("Slash"),
                Action.plain("Check", "Only kept", "1", () -> list.toggle(Verdict.KEPT)),
                Action.plain("Check", "Only converted", "2", () -> list.toggle(Verdict.CONVERTED)),
                Action.plain("Check", "Only adjusted", "3", () -> list.toggle(Verdict.ADJUSTED)),
                Action.plain("Check", "Only reduced", "4", () -> list.toggle(Verdict.REDUCED)),
                Action.plain("Check", "Only blocked", "5", () -> list.toggle(Verdict.BLOCKED)),
                Action.plain("Check", "Show all lines", "0", list::showAll), Action.plain("Check", "The worst first, or as before", "W", listView::worstFirst),

                Action.plain("Hear", "Play or stop", "Space", this::playOrStop),
                Action.plain("Hear", "Source or result", "A", this::otherSide),
                Action.plain("Hear", "Source beside result, or back", "R", this::turnToResult).forCards(),

                Action.plain("Prepare", "Start the sound at the cursor", "S", () -> edits.cutStart(wave.playedFrameProperty().get())),
                Action.plain("Prepare", "End it at the cursor", "E", () -> edits.cutEnd(wave.playedFrameProperty().get())),
                Action.plain("Prepare", "Fade in up to the cursor", "Shift+S", () -> edits.fadeIn(wave.playedFrameProperty().get())),
                Action.plain("Prepare", "Fade out from the cursor", "Shift+E", () -> edits.fadeOut(wave.playedFrameProperty().get())),
                Action.plain("Prepare", "Whole and as all the others again", "Shift+Backspace", edits::undoAll),
                Action.of("Prepare", "Line the chosen up by their first onset", "Shortcut+U", edits::lineUp),
                Action.of("Prepare", "Level the chosen together", "Shortcut+J", edits::group),
                Action.of("Prepare", "Put the chosen sounds on keys of the last instrument", "Shortcut+K", this::putOnKeys),
                Action.of("Prepare", "Loop crossfade of the chosen on or off", "Shortcut+B", edits::crossfade),
                Action.of("Prepare", "Stereo to mono of the chosen: middle, left, right", "Shortcut+M", edits::nextMonoLaw),

                Action.told("On the bench", "Zoom the wave", "+ −"), Action.told("On the bench", "Move along the wave", "← →"),
                Action.told("On the bench", "Show all of the wave", "Home"), Action.told("On the bench", "Target of the levels", "↑ ↓"),
                Action.told("On the bench", "From sound to sound in the levels", "← →"),

                Action.told("On the keys", "From zone to zone", "← → ↑ ↓"), Action.told("On the keys", "Move the chosen zones", "Ctrl+← → ↑ ↓"),
                Action.told("On the keys", "Stretch the upper edge", "Shift+← → ↑ ↓"), Action.told("On the keys", "Stretch the lower edge", "Alt+← → ↑ ↓"),
                Action.told("On the keys", "Root key down, up", "[ ]"), Action.told("On the keys", "Split, merge, take out", "X M O"),
                Action.told("On the keys", "Play the chosen zone; letters play", "P K"),

                Action.of("Pack", "Choose the destination", "Shortcut+D", destinationView::focusDestination),
                Action.of("Pack", "Choose the folder to pack into", "Shortcut+I", this::chooseInto),
                Action.of("Pack", "Pack", "Shortcut+Enter", this::pack), Action.of("Pack", "Show the last packing slip", "Shortcut+L", this::showSlip),
                Action.of("Pack", "Stop packing; close what lies over the list", "Esc", this::escape).forCards()));
        actions.addAll(List.of(Action.of("Job", "New job", "Shortcut+N", () -> asking.beforeLosing(crate::newJob)),
                Action.of("Job", "Open a job", "Shortcut+O", this::openJob),
                Action.of("Job", "Save the job", "Shortcut+S", this::save),
                Action.of("Job", "Save under another name", "Shortcut+Shift+S", this::saveAs), Action.of("Job", "Undo", "Shortcut+Z", crate::undo),
                Action.of("Job", "Redo", "Shortcut+Shift+Z", crate::redo).or("Shortcut+Y"),

                Action.of("Window", "To the folders", "Alt+1", gatheredView::focusTree),
                Action.of("Window", "To the packing list", "Alt+2", listView::focusTable),
                Action.of("Window", "To the bench", "Alt+3", () -> {
                    switch (benchView.faceProperty().get()) {
                        case WAVE -> wave.requestFocus();
                        case KEYS -> keysView.focusChart();
                        case LEVELS -> levelsView.focusChart();
                        case RESULT -> besideView.focusChart();
                    }
                }), Action.plain("Window", "Wave, keys or levels on the bench", "V", this::turnBench),
                Action.plain("Window", "Bench large or small", "B", this::toggleBench),
                Action.of("Window", "Light or dark", "Shortcut+T", () -> setDark(!settings.dark())).forCards(),
                Action.of("Job", "Presets", "Shortcut+E", this::showPresets),
                Action.of("Job", "Know moved files by their content, or not", "Shortcut+Shift+K", () -> knowContents(!settings.knowsContents())),
                Action.of("Window", "What survives where", "Shortcut+H", this::showFormats),
                Action.of("Window", "These keys", "F1", this::showKeys).forCards()));
    }

    private void key(KeyEvent event) {
        Node focus = scene.getFocusOwner();
        boolean typing = focus instanceof TextInputControl, pressing = focus instanceof ButtonBase || focus instanceof ComboBoxBase<?>;
        boolean bareCharacter = !event.isShortcutDown() && !event.isAltDown();
        // A menu or list that is open gets its keys first.
        if (focus instanceof ComboBoxBase<?> combo && combo.isShowing()) return;
        if (bareCharacter && keysView.takesLetters() && (event.getCode().isLetterKey() || event.getCode().isDigitKey())) return;
        if (typing && TEXT_KEYS.stream().anyMatch(k -> k.match(event))) return;
        for (Action action : actions)
            if (action.answers(event)) {
                if (isCovered() && !action.isForCards()) return;
                if (typing && bareCharacter && event.getCode() != KeyCode.ESCAPE && !event.getCode().isFunctionKey()) return;
                if (pressing && action.plain() && event.getCode() == KeyCode.SPACE) return;
                action.run().run();
                event.consume();
                return;
            }
    }

    private ContextMenu contextMenu() {
        ContextMenu menu = new ContextMenu();
        for (String label : List.of("Play or stop", "Line the chosen up by their first onset", "Level the chosen together",
                "Loop crossfade of the chosen on or off",
                "Stereo to mono of the chosen: middle, left, right", "Whole and as all the others again", "Show the file in its folder",
                "Take the chosen out of the job"))
            actions.stream().filter(a -> a.label().equals(label)).findFirst().ifPresent(a -> menu.getItems().add(item(a)));
        return menu;
    }

    private static MenuItem item(Action action) {
        MenuItem item = new MenuItem(action.label() + "   " + action.keyText());
        item.setOnAction(_ -> action.run().run());
        return item;
    }

    private void renewMenu() {
        more.getItems().clear();
        for (String label : List.of("New job", "Save under another name", "Presets", "Show the last packing slip", "Know moved files by their content, or not",
                "What survives where", "Light or dark",
                "These keys"))
            actions.stream().filter(a -> a.label().equals(label)).findFirst().ifPresent(a -> more.getItems().add(item(a)));
        if (!settings.recentJobs().isEmpty()) more.getItems().add(new SeparatorMenuItem());
        for (String recent : settings.recentJobs()) {
            MenuItem item = new MenuItem(Path.of(recent).getFileName().toString());
            item.setOnAction(_ -> asking.beforeLosing(() -> crate.open(Path.of(recent))));
            more.getItems().add(item);
        }
    }

    /// What a drop brings; the event itself is the toolkit's business.
    public void dropped(List<File> files) {
        List<Path> paths = files.stream().map(File::toPath).toList();
        if (paths.size() == 1 && paths.getFirst().toString().endsWith(ablecrate.job.Jobs.EXTENSION))
            asking.beforeLosing(() -> crate.open(paths.getFirst()));
        else
            crate.gather(paths);
    }

    private void knowContents(boolean isWanted) {
        settings = settings.withContents(isWanted);
        crate.catalogue().knowContents(isWanted);
        crate.tell(isWanted ? "files that were moved, renamed or copied are known by their content" : "files are known by their path, size and date");
    }

    private void putOnKeys() {
        List<Path> sounds = list.chosenSounds();
        if (keys.zones().isEmpty() || sounds.isEmpty()) {
            crate.tell(sounds.isEmpty() ? "choose sounds of the list first" : "choose an instrument's line first, then the sounds");
            return;
        }
        benchView.show(BenchView.Face.KEYS);
        keys.putSoundsBeside(sounds);
        keysView.focusChart();
    }

    private void gatherFolder() { choosers.folder("Gather a folder").ifPresent(f -> crate.gather(List.of(f))); }

    private void gatherFiles() { crate.gather(choosers.files("Gather files")); }

    private void chooseSheet() { choosers.sheetToOpen().ifPresent(s -> crate.aim(s.toString())); }

    private void chooseInto() { choosers.folder("Pack into").ifPresent(crate::packInto); }

    private void pack() {
        if (run.runningProperty().get() || crate.listProperty().get().items().isEmpty()) return;
        if (crate.job().into().isEmpty()) chooseInto();
        crate.job().into().ifPresent(into -> {
            closeOverlays();
            packWhenKnown(into);
        });
    }

    /// What depends on listening is packed once it is known.
    private void packWhenKnown(Path into) {
        if (crate.isKnownProperty().get()) {
            run.pack(crate.listProperty().get(), crate.path(), into);
            return;
        }
        crate.tell((crate.readingProperty().get() ? "reading the files" : "listening to the sounds") + " first; packing starts by itself");
        Subscription[] waiting = new Subscription[1];
        waiting[0] = crate.isKnownProperty().subscribe((_, isKnown) -> {
            if (!isKnown) return;
            waiting[0].unsubscribe();
            run.pack(crate.listProperty().get(), crate.path(), into);
        });
    }

    private void openJob() { asking.beforeLosing(() -> choosers.jobToOpen().ifPresent(crate::open)); }

    private void save() { crate.fileProperty().get().ifPresentOrElse(crate::save, this::saveAs); }

    private void saveAs() { choosers.jobToSave("crate" + ablecrate.job.Jobs.EXTENSION).ifPresent(crate::save); }

    private void reveal() { list.currentProperty().get().ifPresent(i -> choosers.reveal(i.source().path()).ifPresent(crate::tell)); }

    private void escape() {
        if (run.runningProperty().get())
            run.stop();
        else
            if (isCovered())
                closeOverlays();
            else
                listView.focusTable();
    }

    /// From what one line has, a wave or keys, to the levels of all, and back.
    public void turnBench() {
        benchView.show(benchView.faceProperty().get() == BenchView.Face.LEVELS ? ownFace() : BenchView.Face.LEVELS);
    }

    private boolean showsResult() { return benchView.faceProperty().get() == BenchView.Face.RESULT; }

    private void playOrStop() {
        if (!showsResult())
            hearing.toggle();
        else {
            hearing.stop();
            beside.toggle();
        }
    }

    private void otherSide() {
        if (showsResult())
            beside.hearNext();
        else
            hearing.resultProperty().set(!hearing.resultProperty().get());
    }

    /// To the result beside its source, and back to what the line itself has.
    public void turnToResult() {
        if (layers.getChildren().contains(slipView))
            slipView.compareChosen();
        else
            benchView.show(showsResult() ? ownFace() : BenchView.Face.RESULT);
    }

    /// What was packed of a source, laid over it.
    private void showPacked(Path source) {
        closeOverlays();
        list.showAll();
        chooseLine(list.all().stream().filter(i -> i.source().path().equals(source)).map(i -> i.source().relative().toString()).findFirst()
                .orElse(source.toString()));
        beside.packedProperty().set(true);
        benchView.show(BenchView.Face.RESULT);
        besideView.focusChart();
    }

    public BesideModel beside() { return beside; }

    private BenchView.Face ownFace() {
        return list.currentProperty().get().filter(PackingItem::isInstruments).isPresent() ? BenchView.Face.KEYS : BenchView.Face.WAVE;
    }

    public void showBench(BenchView.Face face) { benchView.show(face); }

    public KeysModel keys() { return keys; }

    private void toggleBench() {
        double now = work.getDividerPositions()[0];
        if (now > 0.2) {
            benchShare = now;
            work.setDividerPositions(0);
        } else
            work.setDividerPositions(benchShare);
    }

    public void setDark(boolean dark) {
        settings = settings.withDark(dark);
        scene.getRoot().getStyleClass().remove("dark");
        if (dark) scene.getRoot().getStyleClass().add("dark");
    }

    public void showKeys() { overlay(new KeysView(actions, this::closeOverlays)); }

    public void showPresets() { overlay(new PresetsView(presets, this::closeOverlays)); }

    public void showFormats() { overlay(new FormatsView(this::closeOverlays)); }

    public void showSlip() {
        if (run.slipProperty().get().isPresent())
            overlay(slipView);
        else
            crate.tell("nothing was packed yet");
    }

    private void overlay(Node node) {
        closeOverlays();
        // Neither keys nor the mouse reach what lies below.
        focusBelow = Optional.ofNullable(scene.getFocusOwner());
        layers.getChildren().getFirst().setDisable(true);
        layers.getChildren().add(node);
        node.requestFocus();
    }

    private boolean isCovered() { return layers.getChildren().size() > 1; }

    public void closeOverlays() {
        if (!isCovered()) return;
        while (isCovered())
            layers.getChildren().removeLast();
        layers.getChildren().getFirst().setDisable(false);
        focusBelow.ifPresent(Node::requestFocus);
    }

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
