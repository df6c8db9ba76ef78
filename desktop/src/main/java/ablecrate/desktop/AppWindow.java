package ablecrate.desktop;

import ablecrate.desktop.action.Actions;
import ablecrate.desktop.asking.Asking;
import ablecrate.desktop.asking.KeptWork;
import ablecrate.desktop.bench.LoopEdits;
import ablecrate.desktop.bench.WaveView;
import ablecrate.desktop.compare.CompareModel;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.device.DeviceModel;
import ablecrate.desktop.hearing.HearingBar;
import ablecrate.desktop.hearing.HearingModel;
import ablecrate.desktop.keys.KeysModel;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.desktop.library.LibraryModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.desktop.list.Sketches;
import ablecrate.desktop.slip.PackRunModel;
import ablecrate.desktop.slip.RunBar;
import ablecrate.job.Presets;
import ablecrate.job.Recovery;
import ablecrate.library.Catalogue;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executor;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.SplitPane;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.text.Font;

/// The window: its models, its views, what lies over them, its actions and what it remembers, laid out in one scene.
public final class AppWindow {
    private static final List<String> FONTS = List.of("Barlow_400Regular", "Barlow_500Medium", "Barlow_600SemiBold", "BarlowCondensed_600SemiBold",
            "IBMPlexMono_400Regular",
            "IBMPlexMono_500Medium");

    private final Models models;
    private final Views views;
    private final Commands commands;
    private final Cards cards;
    private final WindowActions actions;
    private final Remembered remembered;
    private final MenuButton more = new MenuButton("More");
    private final Scene scene;
    private final Asking asking;
    private Choosers choosers;

    /// @param catalogue of what is known of files from earlier runs
    public AppWindow(Background background, Executor fx, Settings settings, Catalogue catalogue, Presets saved) {
        FONTS.forEach(f -> Font.loadFont(AppWindow.class.getResourceAsStream("/ablecrate/fonts/" + f + ".ttf"), 12));
        models = new Models(background, fx, catalogue, saved);
        BorderPane board = new BorderPane();
        Overlays overlays = new Overlays(board);
        asking = new Asking(models.crate, overlays::show, overlays::close, () -> choosers);
        commands = new Commands(models, asking, () -> choosers, overlays::close);
        cards = new Cards(models, background, overlays, commands, () -> choosers, this::showPacked);
        views = new Views(models, background, commands, cards, () -> choosers);
        SplitPane work = new SplitPane(views.top, views.bench);
        work.setOrientation(Orientation.VERTICAL);
        work.setMinWidth(0);
        board.setCenter(work);
        board.setTop(new Header(models.crate, commands, views.top.turnButton(), this::showActions, more));
        board.setRight(views.destination);
        board.setBottom(foot());
        board.getStyleClass().add("board");
        board.setMinSize(0, 0);
        board.widthProperty().subscribe(w -> views.top.fit(w.doubleValue()));
        TextSize textSize = new TextSize(overlays.layers());
        scene = new Scene(textSize, settings.place().width(), settings.place().height());
        scene.getStylesheets().add(AppWindow.class.getResource("theme.css").toExternalForm());
        remembered = new Remembered(settings, models, views.list, views.gathered, work, textSize);
        actions = new WindowActions(models, views, commands, cards, remembered);
        scene.addEventFilter(KeyEvent.KEY_PRESSED, actions::key);
        takeDrops(overlays.layers());
        giveMenus();
    }

    private void takeDrops(StackPane layers) {
        layers.addEventHandler(DragEvent.DRAG_OVER, e -> {
            if (e.getDragboard().hasFiles()) e.acceptTransferModes(TransferMode.COPY);
        });
        layers.addEventHandler(DragEvent.DRAG_DROPPED, e -> {
            commands.dropped(e.getDragboard().getFiles());
            e.setDropCompleted(true);
        });
    }

    private void giveMenus() {
        models.crate.jobProperty().subscribe(_ -> renewMenu());
        models.crate.fileProperty().subscribe(_ -> renewMenu());
        views.list.table().setContextMenu(
                menu("play", "line-up", "level-together", "clicks-out", "join-order", "loop-crossfade", "mono", "undo-edits", "reveal", "remove"));
        ContextMenu ofWave = menu("play", "start", "end", "fade-in", "fade-out", "cut", "cut-remove", "part-add", "part-remove", "downbeat", "loop-add",
                "loop-find", "loop-crossfade", "undo-edits", "bench-size");
        views.wave.setOnContextMenuRequested(e -> ofWave.show(views.wave, e.getScreenX(), e.getScreenY()));
        views.gathered.useMenu(menu("all-lines", "choose-shown", "level-shown", "remove-shown"));
    }

    private ContextMenu menu(String... ids) {
        ContextMenu menu = new ContextMenu();
        menu.getItems().addAll(actions().menu(ids));
        return menu;
    }

    private void renewMenu() {
        more.getItems()
                .setAll(actions().menu("new", "save-as", "presets", "slip", "dumps", "contents", "formats", "text-larger", "text-smaller", "dark", "guide",
                        "report", "actions"));
        List<String> jobs = remembered.settings().recent().jobs();
        if (!jobs.isEmpty()) more.getItems().add(new SeparatorMenuItem());
        for (String recent : jobs) {
            MenuItem item = new MenuItem(Path.of(recent).getFileName().toString());
            item.setOnAction(_ -> commands.openJob(Path.of(recent)));
            more.getItems().add(item);
        }
    }

    private Node foot() {
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox foot = new HBox(16, new HearingBar(models.hearing, views.heard, views.wave.playedFrameProperty()::set), gap, new RunBar(models.run));
        foot.setAlignment(Pos.CENTER_LEFT);
        foot.getStyleClass().add("foot");
        return foot;
    }

    /// Keeps what is open as it changes, and offers what was left.
    public void keepWork(Recovery recovery, Background background) {
        new KeptWork(models.crate, background, recovery);
        recovery.left().stream().findFirst().ifPresent(left -> asking.offer(left, l -> background.run(() -> {
            recovery.forget(l);
            return true;
        }, _ -> {}, e -> models.crate.fail("what was left cannot be taken away: " + e.getMessage()))));
    }

    /// Ends once nothing would be lost.
    public void beforeClosing(Runnable then) { asking.beforeLosing(then); }

    /// @param choosers can only be made once there is a stage
    public void useChoosers(Choosers answering) { choosers = answering; }

    public Scene scene() { return scene; }

    public CrateModel crate() { return models.crate; }

    public PackingListModel list() { return models.list; }

    /// What can lie over the window.
    Cards cards() { return cards; }

    Sketches sketches() { return models.sketches; }

    TreatmentModel treatments() { return models.treatments; }

    public PackRunModel run() { return models.run; }

    public HearingModel hearing() { return models.hearing; }

    public CompareModel beside() { return models.beside; }

    public KeysModel keys() { return models.keys; }

    LoopEdits loops() { return models.loops; }

    public LibraryModel library() { return models.library; }

    public DeviceModel device() { return models.device; }

    public WaveView wave() { return views.wave; }

    public Actions actions() { return actions.all(); }

    /// As they are now, but for the window's place.
    public Settings settings() { return remembered.settings(); }

    public void remember(Settings changed) { remembered.remember(changed); }

    public void setDark(boolean isDark) { remembered.setDark(isDark); }

    /// @param percent one of [TextSize#STEPS]
    public void setTextSize(int percent) { remembered.setTextSize(percent); }

    public void showBench(String id) { views.bench.show(id); }

    /// From what one line has, a wave or keys, to the levels of all, and back.
    public void turnBench() { actions.turnBench(); }

    /// To the result beside its source, and back to what the line itself has.
    public void turnToResult() { actions.turnToResult(); }

    /// What was packed of a source, laid over it.
    private void showPacked(Path source) {
        cards.close();
        models.list.showAll();
        models.list.turnTo(source);
        models.beside.packedProperty().set(true);
        views.bench.show("result");
        views.beside.focus();
    }

    private void showActions() { cards.showActions(actions()); }

    /// What a drop of files from outside brings.
    public void dropped(List<File> files) { commands.dropped(files); }

    /// Chooses a line by part of its path, as a click would.
    public Optional<Path> chooseLine(String part) {
        return models.list.shown().stream().filter(i -> i.source().relative().toString().contains(part)).findFirst().map(i -> {
            int line = models.list.shown().indexOf(i);
            views.list.table().getSelectionModel().clearAndSelect(line);
            views.list.table().scrollTo(Math.max(0, line - 2));
            return i.source().path();
        });
    }

    /// Chooses the first line of each of these names.
    void chooseLines(String... parts) {
        var choice = views.list.table().getSelectionModel();
        choice.clearSelection();
        for (String part : parts)
            models.list.shown().stream().filter(i -> i.source().relative().toString().contains(part)).findFirst()
                    .ifPresent(i -> choice.select(models.list.shown().indexOf(i)));
    }
}
