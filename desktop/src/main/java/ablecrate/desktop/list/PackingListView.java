package ablecrate.desktop.list;

import ablecrate.desktop.Columns;
import ablecrate.desktop.Tips;
import ablecrate.desktop.crate.DeliveryPlan;
import ablecrate.audio.Figures;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Buttons;
import ablecrate.desktop.Headings;
import ablecrate.desktop.crate.Overview;
import ablecrate.library.NaturalOrder;
import ablecrate.library.Stated;
import ablecrate.plan.PackingItem;
import java.io.File;
import java.nio.file.Path;
import ablecrate.pack.PackingSlip;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.IntConsumer;
import java.util.function.Supplier;
import java.util.function.ToDoubleFunction;
import java.util.stream.IntStream;
import javafx.beans.binding.Bindings;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.BooleanProperty;
import javafx.beans.value.ObservableValue;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableRow;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// The heart of the window: rows are sounds, cells say before → after.
public final class PackingListView extends VBox {
    /// That are seen above a line which comes into sight.
    private static final int ROWS_ABOVE = 2;
    private static final double ROW_HEIGHT = 38, WIDEST = 1.5, LEAST_NAME = 160, LEAST_NAME_AMONG_OTHERS = 110;

    private final PackingListModel model;
    private final BooleanProperty stepsShown = new SimpleBooleanProperty(true);
    private Runnable hideSteps = () -> {};
    private final TableView<PackingItem> table = new TableView<>();
    private final TextField filter = new TextField();
    private static final Set<String> HIDDEN_AT_FIRST = Set.of("Tempo", "Bars", "Key", "Gap ms", "Clicks dB");
    private final TableColumn<PackingItem, PackingItem> verdictColumn = column("Verdict", 116, () -> new Cells.Stamp(packed(), done()),
            Comparator.comparing(PackingItem::verdict));
    private final Function<PackingItem, Optional<PackingSlip.Item>> packed;
    private final ObservableValue<Number> done;
    private final Label totals = new Label();
    private final TableColumn<PackingItem, PackingItem> soundColumn;
    private boolean selecting;

    /// @param packed what became of a line in the run that goes on
    /// @param done changes with each line that is done
    public PackingListView(PackingListModel model, Sketches sketches, EndsHeard ends, Function<PackingItem, Optional<PackingSlip.Item>> packed,
            ObservableValue<Number> done) {
        this.model = model;
        this.packed = packed;
        this.done = done;
        getStyleClass().add("packing-list");
        totals.setId("chosen-totals");
        totals.getStyleClass().add("totals");
        totals.managedProperty().bind(totals.visibleProperty());
        getChildren().addAll(head(), table, totals);
        model.chosen().addListener((ListChangeListener<PackingItem>) _ -> tellTotals());
        tellTotals();
        VBox.setVgrow(table, Priority.ALWAYS);
        table.setId("packing-list");
        table.setAccessibleText("Packing list");
        table.setFixedCellSize(ROW_HEIGHT);
        table.setItems(model.shown());
        model.shown().comparatorProperty()
                .bind(Bindings.createObjectBinding(() -> model.keepingParts(order()), table.comparatorProperty()));
        // The sorted list follows by itself; the table's own way wants to be its only order.
        table.setSortPolicy(_ -> true);
        table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        Label nothing = new Label();
        nothing.getStyleClass().add("placeholder");
        nothing.textProperty()
                .bind(Bindings.createStringBinding(() -> model.all().isEmpty()
                        ? "Nothing gathered yet"
                        : "No line fits the filter. Press 0 to see all.", model.all(), model.shown()));
        VBox placeholder = new VBox(14, nothing, steps());
        placeholder.setAlignment(Pos.CENTER);
        table.setPlaceholder(placeholder);
        Comparator<PackingItem> byName = Comparator.comparing(i -> i.source().relative().toString(), NaturalOrder.INSTANCE);
        TableColumn<PackingItem, PackingItem> sound = column("Sound", 280, () -> new Cells.Name(model), byName);
        soundColumn = sound;
        // What is left of the width is for the words.
        sound.setMinWidth(LEAST_NAME);
        // A table makes no widths of a bound that is beyond all of them.
        sound.setMaxWidth(5000);
        TableColumn<PackingItem, PackingItem> size = column("Size MB", 118, Cells.Size::new, Comparator.comparingLong(Totals::bytesAfter));
        size.getStyleClass().add("number-column");
        size.setVisible(false);
        TableColumn<PackingItem, PackingItem> tempo = musical("Tempo", 70, i -> Stated.tempo(i.source())),
                bars = musical("Bars", 64, i -> Stated.bars(i.source())),
                key = column("Key", 64, () -> new Cells.Plain(i -> Stated.key(i.source()).orElse("")),
                        Comparator.comparing(i -> Stated.key(i.source()).orElse("")));
        key.setVisible(false);
        List<TableColumn<PackingItem, PackingItem>> ofEnds = ends(ends);
        table.getColumns().addAll(List.of(verdictColumn, column("Wave", Sketches.COLUMNS + 18, () -> new Cells.Wave(sketches), null), sound,
                number("Rate Hz", 124, Property.RATE, f -> Figures.grouped(f.rateHz()), i -> Figures.grouped(shape(i).rateHz()), SoundFile::rateHz),
                number("Bits", 84, Property.DEPTH, PackingListView::depth, i -> shape(i).depth().id(), f -> f.encoding().depth().ordinal()),
                number("Chan.", 62, Property.CHANNELS, f -> Integer.toString(f.channels()), PackingListView::channels, SoundFile::channels),
                number("Length s", 104, Property.LENGTH, Cells::seconds, Cells::lengthAfter, SoundFile::durationSeconds), tempo, bars, key, size));
        table.getColumns().addAll(ofEnds);
        table.getColumns().forEach(c -> c.setContextMenu(columnMenu()));
        Columns.share(table);
        table.getSelectionModel().getSelectedItems().addListener((ListChangeListener<PackingItem>) _ -> tellSelection());
        table.getFocusModel().focusedItemProperty().subscribe(_ -> tellSelection());
        model.onRenewed(this::restoreSelection);
        model.onTurned(this::turnTo);
        table.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            Optional<PackingItem> current = model.currentProperty().get();
            if (e.getCode() != KeyCode.RIGHT && e.getCode() != KeyCode.LEFT || e.isShortcutDown() || e.isAltDown() || current.isEmpty()) return;
            model.unfold(model.parentOf(current.get()).orElse(current.get()), e.getCode() == KeyCode.RIGHT);
            e.consume();
        });
    }

    /// The way from an empty window to a packed folder.
    private GridPane steps() {
        GridPane steps = new GridPane(14, 8);
        steps.setId("first-steps");
        steps.setMaxWidth(Region.USE_PREF_SIZE);
        List<List<String>> all = List.of(List.of("1", "Gather", "Drop files or folders here, or press Ctrl+G. They are not changed."),
                List.of("2", "Choose where it goes", "The list tells what becomes of each sound, and why."),
                List.of("3", "Pack", "Ctrl+Enter writes everything anew, reads it again and compares."), List.of("", "", "F1 opens the guide."));
        for (int row = 0; row < all.size(); row++) {
            Label number = new Label(all.get(row).get(0)), what = new Label(all.get(row).get(1)), how = new Label(all.get(row).get(2));
            number.getStyleClass().add("figure");
            what.getStyleClass().add("row-name");
            how.getStyleClass().add("hint");
            steps.addRow(row, number, what, how);
        }
        steps.add(
                Buttons.of("hide-steps", "Do not show again", "F1 opens the guide at any time; the actions (F2) bring these steps back", () -> hideSteps.run()),
                2, all.size());
        steps.visibleProperty().bind(Bindings.createBooleanBinding(() -> model.all().isEmpty() && stepsShown.get(), model.all(), stepsShown));
        steps.managedProperty().bind(steps.visibleProperty());
        return steps;
    }

    /// @param hide is asked to keep the steps away for good
    public void onHideSteps(Runnable hide) { hideSteps = hide; }

    public void showSteps(boolean areShown) { stepsShown.set(areShown); }

    private HBox head() {
        Label title = Headings.heading("Packing list");
        filter.setId("filter");
        filter.setPromptText("Filter");
        filter.setAccessibleText("Filter the packing list by name");
        Tips.on(filter, "Show lines whose name or folder contains this (Ctrl+F).\n'fits 120' shows sounds whose tempo goes along with 120 bpm");
        filter.textProperty().bindBidirectional(model.textProperty());
        filter.setPrefColumnCount(13);
        filter.addEventHandler(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() != KeyCode.DOWN && e.getCode() != KeyCode.ENTER) return;
            focusTable();
            e.consume();
        });
        filter.setMinWidth(40);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox verdicts = new HBox(4);
        verdicts.setAlignment(Pos.CENTER_RIGHT);
        Map<Verdict, ToggleButton> toggles = new EnumMap<>(Verdict.class);
        for (Verdict verdict : Verdict.values()) {
            ToggleButton toggle = new ToggleButton("0", new VerdictStamp(verdict));
            toggle.setMinWidth(USE_PREF_SIZE);
            toggle.setId("verdict-" + verdict.id());
            toggle.getStyleClass().add("verdict-toggle");
            Tips.on(toggle, "Only " + verdict.id() + " (" + (verdict.ordinal() + 1) + ")");
            toggle.setOnAction(_ -> model.toggle(verdict));
            toggles.put(verdict, toggle);
            verdicts.getChildren().add(toggle);
        }
        model.verdictsProperty().subscribe(chosen -> toggles.forEach((v, t) -> t.setSelected(chosen.contains(v))));
        model.onOverview(o -> count(o, toggles));
        Button worst = new Button("Worst first");
        worst.setId("worst-first");
        worst.setMinWidth(USE_PREF_SIZE);
        Tips.on(worst, "Sort by verdict, the worst on top (W)");
        worst.setOnAction(_ -> worstFirst());
        Button all = new Button("Show all");
        all.setId("show-all");
        Tips.on(all, "Take all filters away (0)");
        all.setOnAction(_ -> model.showAll());
        all.visibleProperty().bind(
                Bindings.createBooleanBinding(model::isFiltered, model.textProperty(), model.verdictsProperty(), model.ruleProperty(), model.folderProperty()));
        all.managedProperty().bind(all.visibleProperty());
        HBox head = new HBox(8, title, filter, all, gap, verdicts, worst);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("pane-head");
        return head;
    }

    private static void count(Overview overview, Map<Verdict, ToggleButton> toggles) {
        toggles.forEach((verdict, toggle) -> {
            int n = overview.totals().get(verdict);
            toggle.setText(String.format(Locale.ROOT, "%,d", n));
            toggle.setAccessibleText(n + " " + verdict.id());
        });
    }

    /// The worst verdicts on top, or as before if they are already.
    public void worstFirst() {
        boolean isOn = table.getSortOrder().contains(verdictColumn) && verdictColumn.getSortType() == TableColumn.SortType.DESCENDING;
        table.getSortOrder().clear();
        if (isOn) return;
        verdictColumn.setSortType(TableColumn.SortType.DESCENDING);
        table.getSortOrder().add(verdictColumn);
        if (!table.getItems().isEmpty()) table.scrollTo(0);
    }

    /// That of the columns by which the table is sorted; null for none. The table's own one asks columns for their cells' values, millions of times with as many lines as a library has.
    @SuppressWarnings("unchecked") private Comparator<PackingItem> order() {
        return table.getSortOrder().stream().map(c -> {
            Comparator<PackingItem> order = ((TableColumn<PackingItem, PackingItem>) c).getComparator();
            return c.getSortType() == TableColumn.SortType.DESCENDING ? order.reversed() : order;
        }).reduce(Comparator::thenComparing).orElse(null);
    }

    private Function<PackingItem, Optional<PackingSlip.Item>> packed() { return packed; }

    private ObservableValue<Number> done() { return done; }

    public void focusFilter() { filter.requestFocus(); }

    public void focusTable() {
        table.requestFocus();
        if (table.getItems().isEmpty()) return;
        // A row that a filter has given another line tells nothing by itself.
        int row = Math.clamp(table.getSelectionModel().getSelectedIndex(), 0, table.getItems().size() - 1);
        if (!table.getSelectionModel().getSelectedItems().contains(table.getItems().get(row))) table.getSelectionModel().clearAndSelect(row);
        tellSelection();
    }

    /// Which columns are shown.
    private ContextMenu columnMenu() {
        ContextMenu menu = new ContextMenu();
        for (TableColumn<PackingItem, ?> column : table.getColumns().filtered(c -> !isOther(c))) {
            CheckMenuItem item = new CheckMenuItem(column.getText());
            item.selectedProperty().bindBidirectional(column.visibleProperty());
            menu.getItems().add(item);
        }
        return menu;
    }

    /// Whose verdicts a column has: those of a destination that is not looked at.
    private record OtherDestination(int number, String name, Optional<Overview> overview) {
        static OtherDestination of(int number, DeliveryPlan plan) { return new OtherDestination(number, plan.name(), plan.overview()); }

        boolean isSame(OtherDestination other) { return number == other.number && name.equals(other.name); }

        Optional<PackingItem> line(PackingItem item) { return overview.flatMap(o -> o.line(item.source().path())); }
    }

    /// A column with the verdicts of each destination that is not looked at.
    /// @param look turns to one, by its number
    public void showOthers(List<DeliveryPlan> plans, int shown, IntConsumer look) {
        List<OtherDestination> now = IntStream.range(0, plans.size() < 2 ? 0 : plans.size()).filter(i -> i != shown)
                .mapToObj(i -> OtherDestination.of(i, plans.get(i))).toList();
        List<TableColumn<PackingItem, ?>> there = List.copyOf(table.getColumns().filtered(PackingListView::isOther));
        boolean areSame = now.size() == there.size()
                && IntStream.range(0, now.size()).allMatch(i -> now.get(i).isSame((OtherDestination) there.get(i).getUserData()));
        for (int i = 0; i < now.size() && areSame; i++)
            there.get(i).setUserData(now.get(i));
        if (!areSame) {
            soundColumn.setMinWidth(now.isEmpty() ? LEAST_NAME : LEAST_NAME_AMONG_OTHERS);
            table.getColumns().removeAll(there);
            table.getColumns().addAll(1, now.stream().map(o -> other(o, look)).toList());
        } else
            if (!now.isEmpty())
                table.refresh();
    }

    private static boolean isOther(TableColumn<?, ?> column) { return column.getUserData() instanceof OtherDestination; }

    private static TableColumn<PackingItem, PackingItem> other(OtherDestination of, IntConsumer look) {
        List<TableColumn<PackingItem, PackingItem>> made = new ArrayList<>();
        Function<PackingItem, Optional<PackingItem>> same = i -> ((OtherDestination) made.getFirst().getUserData()).line(i);
        made.add(column("", 32, () -> new Cells.Other(of.name(), same),
                Comparator.comparing(i -> same.apply(i).map(PackingItem::verdict).orElse(Verdict.KEPT))));
        Label title = new Label(Integer.toString(of.number() + 1));
        Tips.on(title, "Destination " + (of.number() + 1) + ": " + of.name() + "\nDouble click to look at it");
        title.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) look.accept(of.number());
        });
        made.getFirst().setGraphic(title);
        made.getFirst().setUserData(of);
        return made.getFirst();
    }

    private void tellTotals() {
        totals.setVisible(model.chosen().size() > 1);
        if (totals.isVisible()) totals.setText(Totals.of(model.chosen()).text());
    }

    /// Which columns are not shown, and by which the lines are sorted, as [#show] takes it.
    public List<String> columns() {
        List<String> out = new ArrayList<>();
        table.getColumns().stream().filter(c -> !c.isVisible() && !isOther(c) && !HIDDEN_AT_FIRST.contains(c.getText()))
                .forEach(c -> out.add("-" + c.getText()));
        table.getColumns().stream().filter(c -> c.isVisible() && HIDDEN_AT_FIRST.contains(c.getText())).forEach(c -> out.add("+" + c.getText()));
        table.getSortOrder().stream().filter(c -> !isOther(c))
                .forEach(c -> out.add((c.getSortType() == TableColumn.SortType.ASCENDING ? "<" : ">") + c.getText()));
        return out;
    }

    /// @param columns as [#columns] told them; none leaves it as it is
    public void show(List<String> columns) {
        if (columns.isEmpty()) return;
        table.getSortOrder().clear();
        for (TableColumn<PackingItem, ?> column : table.getColumns())
            column.setVisible(
                    HIDDEN_AT_FIRST.contains(column.getText()) ? columns.contains("+" + column.getText()) : !columns.contains("-" + column.getText()));
        for (String told : columns)
            table.getColumns().stream().filter(c -> c.isSortable() && told.equals("<" + c.getText()) || told.equals(">" + c.getText())).findFirst()
                    .ifPresent(c -> {
                        c.setSortType(told.startsWith("<") ? TableColumn.SortType.ASCENDING : TableColumn.SortType.DESCENDING);
                        table.getSortOrder().add(c);
                    });
    }

    private void tellSelection() {
        if (selecting) return;
        List<PackingItem> items = table.getSelectionModel().getSelectedItems().stream().filter(java.util.Objects::nonNull).toList();
        Optional<PackingItem> focused = Optional.ofNullable(table.getSelectionModel().getSelectedItem());
        model.choose(items, focused);
    }

    /// After the list was renewed the same files are chosen as before.
    private void restoreSelection() {
        selecting = true;
        table.getSelectionModel().clearSelection();
        if (!model.chosen().isEmpty()) select(List.copyOf(model.chosen()));
        selecting = false;
    }

    private void turnTo(PackingItem line) {
        restoreSelection();
        int row = IntStream.range(0, table.getItems().size()).filter(r -> table.getItems().get(r) == line).findFirst().orElse(-1);
        boolean isInSight = table.lookupAll(".table-row-cell").stream().anyMatch(r -> r.isVisible() && ((TableRow<?>) r).getIndex() == row);
        if (row >= 0 && !isInSight) table.scrollTo(Math.max(0, row - ROWS_ABOVE));
    }

    private void select(List<PackingItem> chosen) {
        Map<PackingItem, Integer> rows = new IdentityHashMap<>();
        for (int row = 0; row < table.getItems().size(); row++)
            rows.put(table.getItems().get(row), row);
        int[] chosenRows = chosen.stream().filter(rows::containsKey).mapToInt(rows::get).toArray();
        if (chosenRows.length > 0) table.getSelectionModel().selectIndices(chosenRows[0], chosenRows);
    }

    private static OutputShape shape(PackingItem item) { return item.outputs().getFirst().shape(); }

    private static String channels(PackingItem item) {
        int files = item.outputs().size();
        return (files > 1 ? files + "×" : "") + shape(item).channels();
    }

    private static String depth(SoundFile file) {
        List<String> each = file.files().stream().map(f -> f.isLossy() ? "lossy" : f.encoding().depth().id()).distinct().toList();
        return each.size() == 1 ? each.getFirst() : "mixed";
    }

    private static TableColumn<PackingItem, PackingItem> column(String title, double width, Supplier<TableCell<PackingItem, PackingItem>> cell,
            Comparator<PackingItem> order) {
        TableColumn<PackingItem, PackingItem> column = new TableColumn<>(title);
        column.setPrefWidth(width);
        // Figures are never cut; the name gives way.
        column.setMinWidth(width);
        column.setMaxWidth(width * WIDEST);
        column.setReorderable(false);
        column.setCellValueFactory(v -> new ReadOnlyObjectWrapper<>(v.getValue()));
        column.setCellFactory(_ -> cell.get());
        column.setSortable(order != null);
        if (order != null) column.setComparator(order);
        return column;
    }

    private static TableColumn<PackingItem, PackingItem> number(String title, double width, Property property,
            Function<SoundFile, String> was, Function<PackingItem, String> becomes, ToDoubleFunction<SoundFile> order) {
        TableColumn<PackingItem, PackingItem> column = column(title, width, () -> new Cells.BeforeAfter(property, was, becomes),
                Comparator.comparingDouble(i -> i.source().sound().map(order::applyAsDouble).orElse(-1.0)));
        column.getStyleClass().add("number-column");
        return column;
    }

    /// What names and texts say; there for those who work with loops, and hidden at first.
    private static TableColumn<PackingItem, PackingItem> musical(String title, double width, Function<PackingItem, Optional<Double>> value) {
        TableColumn<PackingItem, PackingItem> column = column(title, width,
                () -> new Cells.Plain(i -> value.apply(i).map(v -> String.format(Locale.ROOT, v == Math.rint(v) ? "%.0f" : "%.2f", v)).orElse("")),
                Comparator.comparingDouble(i -> value.apply(i).orElse(-1.0)));
        column.getStyleClass().add("number-column");
        column.setVisible(false);
        return column;
    }

    /// How long each sound waits before its first attack, and how its ends click; hidden at first, as it has to be listened to.
    private List<TableColumn<PackingItem, PackingItem>> ends(EndsHeard ends) {
        TableColumn<PackingItem, PackingItem> gap = column("Gap ms", 76,
                () -> new Cells.Plain(i -> ends.of(i).map(EndsHeard.Heard::gap).orElse(ends.isAwaited(i) ? "…" : "")),
                Comparator.comparingDouble(i -> ends.of(i).map(h -> h.gapMs().orElse(-1)).orElse(-2.0))),
                clicks = column("Clicks dB", 156, () -> new Cells.Plain(i -> ends.of(i).map(EndsHeard.Heard::clicks).orElse(ends.isAwaited(i) ? "…" : "")),
                        Comparator.comparingDouble(i -> ends.of(i).map(EndsHeard.Heard::worstStep).orElse(-1.0)));
        for (TableColumn<PackingItem, PackingItem> column : List.of(gap, clicks)) {
            column.getStyleClass().add("number-column");
            column.setVisible(false);
            column.visibleProperty().subscribe(() -> ends.show(gap.isVisible() || clicks.isVisible()));
        }
        ends.onHeard(table::refresh);
        return List.of(gap, clicks);
    }

    /// Chooses every line that is shown.
    public void chooseShown() {
        table.getSelectionModel().selectAll();
        table.requestFocus();
    }

    /// The table itself, for its context menu and keys.
    public TableView<PackingItem> table() { return table; }

    /// Rows answer to a double click or Enter, and can be dragged where files can be dropped.
    /// @param dragging told when sounds are taken up
    public void onOpen(Runnable open, Runnable dragging) {
        table.setRowFactory(_ -> {
            TableRow<PackingItem> row = new TableRow<>();
            row.setOnDragDetected(e -> {
                List<File> files = model.chosenSounds().stream().map(Path::toFile).toList();
                if (files.isEmpty() || row.isEmpty()) return;
                ClipboardContent content = new ClipboardContent();
                content.putFiles(files);
                row.startDragAndDrop(TransferMode.COPY).setContent(content);
                dragging.run();
                e.consume();
            });
            row.setOnMouseClicked(e -> {
                if (e.getClickCount() == 2 && !row.isEmpty()) open.run();
            });
            return row;
        });
    }
}
