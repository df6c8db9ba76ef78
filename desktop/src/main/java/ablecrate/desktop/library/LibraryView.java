package ablecrate.desktop.library;

import javafx.scene.layout.HBox;
import javafx.scene.control.Button;
import javafx.geometry.Pos;
import ablecrate.desktop.Tips;
import ablecrate.option.TempoTarget;
import ablecrate.desktop.Typed;
import ablecrate.audio.Figures;
import ablecrate.change.Told;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Columns;
import ablecrate.desktop.action.Action;
import ablecrate.desktop.bench.Bench;
import ablecrate.desktop.bench.BenchHead;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.desktop.list.SketchPane;
import ablecrate.desktop.list.Sketches;
import ablecrate.library.Gathered;
import ablecrate.library.Stated;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.beans.binding.Bindings;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.ListChangeListener;
import javafx.collections.transformation.SortedList;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;

/// The face of the bench for a folder that is walked through by ear: a line for each sound, heard as it is chosen, taken by one key.
public final class LibraryView extends BorderPane implements Bench {
    private static final double LEAST_NAME = 140, LEAST_FOLDER = 120, LEAST_SHARE = 0.88, LEAST_FOR_WIDTH = 200;

    private final LibraryModel model;
    private final Supplier<Optional<Path>> chooser;
    private final TableView<Gathered> table = new TableView<>();
    private final TextField filter = new TextField();

    /// @param chooser asks for a folder
    public LibraryView(LibraryModel model, Sketches sketches, Supplier<Optional<Path>> chooser) {
        this.model = model;
        this.chooser = chooser;
        setId("library");
        getStyleClass().add("levels");
        filter.setId("library-filter");
        filter.setPromptText("Filter by name or folder");
        filter.setAccessibleText("Filter by name or folder");
        filter.textProperty().subscribe(model::filter);
        CheckBox plays = new CheckBox("Play as I go"), matched = new CheckBox("One level");
        plays.setId("library-plays");
        Tips.on(plays, "Each sound is heard as soon as it is chosen");
        plays.selectedProperty().bindBidirectional(model.playsOnChoiceProperty());
        matched.setId("library-matched");
        Tips.on(matched, "Hear all sounds equally loud, by the loudest 400 ms of their first 3 s (A)");
        matched.selectedProperty().bindBidirectional(model.matchedProperty());
        CheckBox inTime = new CheckBox("In time with"), watch = new CheckBox("Watch");
        TextField bpm = new TextField();
        inTime.setId("library-in-time");
        Tips.on(inTime, "Hear clips whose tempo is known at this tempo, half of it or twice; their pitch goes along");
        inTime.selectedProperty().bindBidirectional(model.inTimeProperty());
        bpm.setId("library-bpm");
        bpm.setAccessibleText("Tempo to hear clips at, in beats a minute");
        Tips.on(bpm, "Beats a minute; that of the session, until another is typed");
        bpm.setPrefColumnCount(4);
        model.bpmProperty().subscribe(n -> bpm.setText(Told.bpm(n.doubleValue())));
        bpm.setOnAction(_ -> typed(bpm));
        bpm.focusedProperty().subscribe(isFocused -> {
            if (!isFocused) typed(bpm);
        });
        HBox time = new HBox(6, inTime, bpm, new Label("bpm"));
        time.setAlignment(Pos.CENTER_LEFT);
        watch.setId("library-watch");
        Tips.on(watch, "Be told of sounds that land in this folder from now on, also at the next start");
        watch.setOnAction(_ -> model.folderProperty().get().ifPresent(f -> model.watch(f, watch.isSelected())));
        Runnable renewWatch = () -> {
            watch.setDisable(model.folderProperty().get().isEmpty());
            watch.setSelected(model.folderProperty().get().filter(model.watchedProperty().get()::contains).isPresent());
        };
        model.folderProperty().subscribe(renewWatch);
        model.watchedProperty().subscribe(renewWatch);
        Button landed = Buttons.of("library-new", "New", "Show the sounds that have landed in watched folders", () -> {
            filter.clear();
            model.showLanded();
            focus();
        });
        landed.textProperty().bind(Bindings.createStringBinding(() -> "New: " + model.landed().size(), model.landed()));
        landed.visibleProperty().bind(Bindings.isNotEmpty(model.landed()));
        landed.managedProperty().bind(landed.visibleProperty());
        Label count = new Label();
        count.setId("library-count");
        Runnable counted = () -> count.setText(model.folderProperty().get().isEmpty() && model.count() == 0
                ? "Nothing is gathered by listening"
                : Told.count(model.sounds().size(), "sound")
                        + (model.toReadProperty().get() > 0 ? ", " + Figures.grouped(model.toReadProperty().get()) + " files to read" : ""));
        model.sounds().addListener((ListChangeListener<Gathered>) _ -> counted.run());
        model.toReadProperty().subscribe(counted);
        model.folderProperty().subscribe(counted);
        setTop(new BenchHead(count, Buttons.of("library-open", "Folder…", "Walk through a folder with all below it", this::open), watch, landed, filter, plays,
                matched, time,
                Buttons.of("library-take", "Take", "Take the chosen sounds into the job, or out of it again (Enter)", this::take)));
        setCenter(table(sketches));
        WidthPane width = new WidthPane();
        // Where there is little room, sounds have it.
        heightProperty().map(h -> h.doubleValue() >= LEAST_FOR_WIDTH).subscribe(isTall -> setBottom(isTall ? width : null));
        model.widthProperty().subscribe(width::show);
    }

    private TableView<Gathered> table(Sketches sketches) {
        table.setId("library-table");
        table.setAccessibleText("Sounds of the folder");
        Label none = new Label();
        none.getStyleClass().add("placeholder");
        none.setWrapText(true);
        none.textProperty().bind(Bindings.createStringBinding(() -> model.folderProperty().get().isEmpty()
                ? "Open a folder to walk through its sounds by ear. Nothing is gathered before it is taken."
                : model.toReadProperty().get() > 0 ? "Looking into files …" : "No sound of this folder has that in its name.", model.folderProperty(),
                model.toReadProperty()));
        table.setPlaceholder(none);
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        SortedList<Gathered> sorted = new SortedList<>(model.sounds());
        sorted.comparatorProperty().bind(table.comparatorProperty());
        table.setItems(sorted);
        TableColumn<Gathered, Gathered> wave = column("Wave", 92, g -> g);
        wave.setSortable(false);
        wave.setCellFactory(_ -> new WaveCell(sketches));
        TableColumn<Gathered, String> taken = new TableColumn<>("Job");
        taken.setPrefWidth(58);
        taken.setCellValueFactory(f -> model.taken(f.getValue().path()).map(t -> t ? "taken" : ""));
        TableColumn<Gathered, String> sound = column("Sound", 210, Gathered::stem), folder = column("Folder", 150, LibraryView::folder);
        table.getColumns().setAll(List.of(taken, wave, sound, folder,
                column("Type", 74, g -> sound(g).container()), number("Length s", 78, g -> sound(g).durationSeconds(), "%,.3f"),
                number("Rate Hz", 74, g -> (double) sound(g).rateHz(), "%,.0f"),
                column("Bits", 70, g -> sound(g).depthLabel()), number("Chan.", 56, g -> (double) sound(g).channels(), "%.0f"),
                number("Tempo", 64, g -> Stated.tempo(g).orElse(0.0), "%.1f"), column("Key", 50, g -> Stated.key(g).orElse("")),
                column("Loop", 54, g -> sound(g).metadata().loops().isEmpty() ? "" : "loop"),
                number("Size kB", 78, g -> sound(g).fileBytes() / 1e3, "%,.0f")));
        table.getColumns().forEach(c -> c.setMinWidth(c == sound ? LEAST_NAME : c == folder ? LEAST_FOLDER : LEAST_SHARE * c.getPrefWidth()));
        Columns.share(table);
        table.getSelectionModel().selectedItemProperty().subscribe(g -> model.choose(Optional.ofNullable(g)));
        table.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() == KeyCode.ENTER) {
                take();
                e.consume();
            }
        });
        table.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) take();
        });
        return table;
    }

    /// Takes a tempo over, or shows the one that holds.
    private void typed(TextField field) {
        try {
            Optional<Double> bpm = TempoTarget.read(Typed.number(field.getText()).strip()).filter(TempoTarget.Bpm.class::isInstance)
                    .map(t -> ((TempoTarget.Bpm) t).bpm());
            bpm.ifPresent(model.bpmProperty()::set);
            Typed.mark(field, bpm.isEmpty());
        } catch (IllegalArgumentException e) {
            Typed.mark(field, Optional.of(e.getMessage()));
        }
    }

    private static SoundFile sound(Gathered g) { return g.sound().orElseThrow(); }

    /// Below the one that is walked through.
    private static String folder(Gathered g) {
        Path relative = g.relative();
        return relative.getNameCount() < 3 ? "" : relative.subpath(1, relative.getNameCount() - 1).toString();
    }

    private static <T> TableColumn<Gathered, T> column(String title, double width, Function<Gathered, T> value) {
        TableColumn<Gathered, T> column = new TableColumn<>(title);
        column.setPrefWidth(width);
        column.setCellValueFactory(f -> new ReadOnlyObjectWrapper<>(value.apply(f.getValue())));
        return column;
    }

    /// @param format of what is above 0; the rest stays empty
    private static TableColumn<Gathered, Double> number(String title, double width, Function<Gathered, Double> value, String format) {
        TableColumn<Gathered, Double> column = column(title, width, value);
        column.setCellFactory(_ -> new TableCell<>() {
            {
                getStyleClass().add("number-cell");
            }

            @Override protected void updateItem(Double n, boolean empty) {
                super.updateItem(n, empty);
                setText(empty || n == null || n <= 0 ? "" : String.format(Locale.ROOT, format, n));
            }
        });
        column.getStyleClass().add("number-column");
        return column;
    }

    private static final class WaveCell extends TableCell<Gathered, Gathered> {
        private final SketchPane sketch;

        WaveCell(Sketches sketches) { sketch = new SketchPane(sketches); }

        @Override protected void updateItem(Gathered g, boolean empty) {
            super.updateItem(g, empty);
            setGraphic(empty || g == null ? null : sketch);
            if (empty || g == null)
                sketch.clear();
            else
                sketch.show(sound(g));
        }
    }

    private void open() {
        chooser.get().ifPresent(f -> {
            filter.clear();
            model.open(f);
            focus();
        });
    }

    private void take() { model.take(List.copyOf(table.getSelectionModel().getSelectedItems())); }

    @Override public String id() { return "library"; }

    @Override public String title() { return "Library"; }

    @Override public Node node() { return this; }

    @Override public void focus() {
        if (table.getSelectionModel().isEmpty() && !table.getItems().isEmpty()) table.getSelectionModel().select(0);
        table.requestFocus();
    }

    @Override public String hint() { return "arrows walk and play · Enter takes"; }

    @Override public void shown(boolean isShown) {
        if (!isShown) model.stop();
    }

    @Override public Optional<Hearable> hearable() { return Optional.of(model); }

    @Override public List<Action> keys() {
        return List.of(Action.told("library-walk", "Library", "Walk through the sounds of a folder and hear them", "↑ ↓"),
                Action.told("library-enter", "Library", "Take the chosen into the job, or out of it again", "Enter"));
    }
}
