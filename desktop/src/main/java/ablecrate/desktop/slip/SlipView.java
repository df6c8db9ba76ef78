package ablecrate.desktop.slip;

import ablecrate.change.Told;
import ablecrate.audio.Figures;
import ablecrate.change.Verdict;
import ablecrate.desktop.Headings;
import ablecrate.desktop.Tips;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.pack.PackingSlip;
import ablecrate.verify.Check;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/// The packing slip: what was written, what was not and why.
public final class SlipView extends VBox {
    /// Not written in this run.
    private static final Set<String> STAYED = Set.of("skipped", "left");
    private static final int MOST_DETAILS = 6;

    private final TableView<PackingSlip.Item> table = new TableView<>();
    private final Label summary = new Label();
    private final HBox figures = new HBox(12), destinations = new HBox(8);
    private final Label detail = new Label();
    private final Button goOn = new Button("Continue");
    private final List<ToggleButton> filters = new ArrayList<>();
    private Path root = Path.of("");
    private final Consumer<Path> compare;
    private PackingSlip slip;

    /// @param look turns to what went into a folder, where a run packed into several
    /// @param reveal opens a folder or the slip's page
    /// @param compare lays what was written of a source over it
    /// @param packAgain packs what is left
    public SlipView(PackRunModel model, Runnable back, Consumer<Path> look, Consumer<Path> reveal, Consumer<Path> compare, Runnable packAgain) {
        this.compare = compare;
        getStyleClass().add("slip");
        Label title = Headings.title("Packing slip");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button open = new Button("Open folder"), page = new Button("Open slip"), list = new Button("Back to the list");
        open.setId("open-folder");
        open.setOnAction(_ -> reveal.accept(Path.of(slip.into())));
        page.setOnAction(_ -> reveal.accept(Path.of(slip.into()).resolve(ablecrate.pack.Packer.SLIP_HTML)));
        list.setId("slip-back");
        Tips.on(list, "Esc");
        list.getStyleClass().add("loud");
        list.setOnAction(_ -> back.run());
        Button beside = new Button("Compare with source");
        beside.setId("slip-beside");
        Tips.on(beside, "Hear and measure what was written against its source (R, Enter or double click)");
        beside.disableProperty().bind(table.getSelectionModel().selectedItemProperty().map(i -> i.outputs().isEmpty()).orElse(true));
        beside.setOnAction(_ -> compareChosen());
        table.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) compareChosen();
        });
        table.addEventHandler(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() != KeyCode.ENTER || e.isShortcutDown()) return;
            compareChosen();
            e.consume();
        });
        goOn.setId("slip-continue");
        Tips.on(goOn, "Pack what was not reached or failed; what is written stays");
        goOn.setOnAction(_ -> packAgain.run());
        goOn.managedProperty().bind(goOn.visibleProperty());
        detail.setId("slip-detail");
        detail.getStyleClass().add("slip-detail");
        detail.setWrapText(true);
        detail.setMinHeight(Region.USE_PREF_SIZE);
        detail.managedProperty().bind(detail.textProperty().isNotEmpty());
        table.getSelectionModel().selectedItemProperty().subscribe(i -> detail.setText(i == null ? "" : detail(i)));
        HBox head = new HBox(10, title, gap, goOn, beside, open, page, list);
        head.setAlignment(Pos.CENTER_LEFT);
        summary.setId("slip-summary");
        summary.getStyleClass().add("about");
        figures.getStyleClass().add("figures");
        table.setId("slip-table");
        table.setAccessibleText("Packing slip");
        table.setColumnResizePolicy(TableView.CONSTRAINED_RESIZE_POLICY_LAST_COLUMN);
        table.setFixedCellSize(30);
        table.getColumns()
                .addAll(List.of(column("Outcome", 120, Outcome::new), column("Source", 330, () -> new Words(this::below)),
                        column("Written", 340, () -> new Words(SlipView::written)), column("Checks", 380, () -> new Words(SlipView::checks))));
        VBox.setVgrow(table, Priority.ALWAYS);
        destinations.setId("slip-destinations");
        destinations.managedProperty().bind(destinations.visibleProperty());
        getChildren().addAll(head, destinations, summary, figures, table, detail);
        model.slipProperty().subscribe(s -> s.ifPresent(now -> {
            show(now);
            showDestinations(model.slipsProperty().get(), now, look);
        }));
    }

    /// Lays what was written of the chosen line over its source.
    public void compareChosen() {
        Optional.ofNullable(table.getSelectionModel().getSelectedItem()).filter(i -> !i.outputs().isEmpty())
                .ifPresent(i -> compare.accept(Path.of(i.source())));
    }

    /// Which folder the slip is of, where there are several.
    private void showDestinations(List<PackingSlip> all, PackingSlip now, Consumer<Path> look) {
        destinations.setVisible(all.size() > 1);
        destinations.getChildren().clear();
        for (PackingSlip each : all) {
            long lost = each.ofThisRun().stream().filter(i -> i.error().isPresent()).count();
            ToggleButton button = new ToggleButton((all.indexOf(each) + 1) + "  " + each.destinationName() + (lost > 0 ? ", " + lost + " not packed" : ""));
            button.setId("slip-destination-" + (all.indexOf(each) + 1));
            button.setSelected(each == now);
            Tips.on(button, each.into());
            button.setOnAction(_ -> {
                button.setSelected(true);
                look.accept(Path.of(each.into()));
            });
            destinations.getChildren().add(button);
        }
    }

    private void show(PackingSlip shown) {
        slip = shown;
        summary.setText(shown.destinationName() + (shown.isStopped() ? ", stopped before the end, into " : ", packed into ") + shown.into());
        long files = shown.ofThisRun().stream().flatMap(i -> i.files().stream()).filter(f -> !STAYED.contains(f.state())).count();
        long bytes = shown.items().stream().mapToLong(PackingSlip.Item::bytes).sum();
        figures.getChildren().clear();
        filters.clear();
        root = shown.root();
        goOn.setVisible(shown.outcomes().getOrDefault("pending", 0) + shown.outcomes().getOrDefault("failed", 0) > 0);
        shown.outcomes().forEach((outcome, n) -> filter(String.format(Locale.ROOT, "%,d", n), outcome,
                i -> i.packedAt().isEmpty() && i.outcome().equals(outcome)));
        if (shown.misses() > 0) filter(Figures.grouped(shown.misses()), shown.missed(), i -> !i.misses().isEmpty());
        if (shown.damaged() > 0) plain(String.format(Locale.ROOT, "%,d", shown.damaged()), "with damage");
        plain(String.format(Locale.ROOT, "%,d", files), "files written");
        plain(Figures.bytes(bytes), "in the folder");
        plain(Told.duration(shown.seconds()), "time");
        show(_ -> true);
    }

    /// What did not go comes first: it is what someone has to look at.
    private void show(Predicate<PackingSlip.Item> which) {
        table.setItems(FXCollections.observableArrayList(slip.items().stream().filter(which)
                .sorted(Comparator.comparing((PackingSlip.Item i) -> i.packedAt().isPresent()).thenComparing(i -> i.error().isEmpty())
                        .thenComparing(i -> i.misses().isEmpty()))
                .toList()));
    }

    /// A figure that shows just the lines that it counts.
    private void filter(String number, String word, Predicate<PackingSlip.Item> which) {
        ToggleButton button = new ToggleButton();
        button.setGraphic(figure(number, word));
        button.setId("slip-" + word.replace(' ', '-'));
        button.setAccessibleText(number + " " + word);
        Tips.on(button, "Show only these");
        button.getStyleClass().add("figure-toggle");
        button.setOnAction(_ -> {
            filters.stream().filter(f -> f != button).forEach(f -> f.setSelected(false));
            show(button.isSelected() ? which : _ -> true);
        });
        filters.add(button);
        figures.getChildren().add(button);
    }

    private void plain(String number, String word) {
        VBox figure = figure(number, word);
        figure.getStyleClass().add("figure-plain");
        figures.getChildren().add(figure);
    }

    private static VBox figure(String number, String word) {
        Label n = new Label(number), w = new Label(word);
        n.getStyleClass().add("figure");
        w.getStyleClass().add("figure-word");
        return new VBox(n, w);
    }

    /// The path below the folder that was gathered.
    private String below(PackingSlip.Item item) {
        Path source = Path.of(item.source());
        return source.startsWith(root) && !source.equals(root) ? root.relativize(source).toString() : item.source();
    }

    /// All that there is to say of a line.
    private static String detail(PackingSlip.Item item) {
        List<String> lines = new ArrayList<>(List.of(item.source()));
        item.error().ifPresent(lines::add);
        item.checks().stream().filter(c -> !c.ok()).forEach(c -> lines.add("✗ " + words(c.name()) + ": " + c.measured()));
        return String.join("\n", lines.subList(0, Math.min(lines.size(), MOST_DETAILS)));
    }

    private static String written(PackingSlip.Item item) {
        if (item.error().isEmpty() && !item.maps().isEmpty()) {
            PackingSlip.MapFile first = item.maps().getFirst();
            List<String> more = new ArrayList<>();
            if (item.maps().size() > 1) more.add((item.maps().size() - 1) + " more");
            if (!item.outputs().isEmpty()) more.add(Told.count(item.outputs().size(), "sound"));
            item.sidecars().forEach(s -> more.add(s.path().substring(s.path().lastIndexOf('/') + 1)));
            return first.path() + (more.isEmpty() ? "" : " and " + String.join(", ", more))
                    + (first.state().equals("written") ? "" : " (" + first.state() + ")");
        }
        return item.error().orElseGet(() -> item.files().stream().map(f -> f.path() + (f.state().equals("written") ? "" : " (" + f.state() + ")"))
                .collect(Collectors.joining(", ")));
    }

    /// What failed, or how many held.
    private static String checks(PackingSlip.Item item) {
        List<PackingSlip.Check> all = item.checks();
        if (all.isEmpty()) return "";
        String failed = all.stream().filter(c -> !c.ok()).map(c -> "✗ " + words(c.name()) + ": " + c.measured()).collect(Collectors.joining("   "));
        Optional<PackingSlip.Check> copied = all.stream().filter(c -> c.name().equals(Check.AUDIO.id()) && c.measured().startsWith("bit for bit")).findFirst();
        if (failed.isEmpty() && copied.isPresent() && item.outputs().size() == 1) return "✓ " + copied.get().measured();
        return failed.isEmpty() ? "✓ " + all.stream().map(c -> words(c.name())).distinct().collect(Collectors.joining(", ")) : failed;
    }

    private static String words(String check) {
        return Arrays.stream(Check.values()).filter(c -> c.id().equals(check)).findFirst().map(Check::label).orElse(check);
    }

    private static TableColumn<PackingSlip.Item, PackingSlip.Item> column(String title, double width,
            java.util.function.Supplier<TableCell<PackingSlip.Item, PackingSlip.Item>> cell) {
        TableColumn<PackingSlip.Item, PackingSlip.Item> column = new TableColumn<>(title);
        column.setPrefWidth(width);
        column.setReorderable(false);
        column.setSortable(false);
        column.setCellValueFactory(v -> new ReadOnlyObjectWrapper<>(v.getValue()));
        column.setCellFactory(_ -> cell.get());
        return column;
    }

    private static final class Outcome extends TableCell<PackingSlip.Item, PackingSlip.Item> {
        private final VerdictStamp stamp = new VerdictStamp(Verdict.KEPT);
        private final Label word = new Label();
        private final HBox box = new HBox(8, stamp, word);

        Outcome() { box.setAlignment(Pos.CENTER_LEFT); }

        @Override protected void updateItem(PackingSlip.Item item, boolean empty) {
            super.updateItem(item, empty);
            setGraphic(empty || item == null ? null : box);
            if (empty || item == null) return;
            // A verdict is of what was written; what failed is as much missing as what was blocked.
            boolean isThere = item.error().isEmpty() && !item.outcome().equals("pending");
            stamp.show(isThere ? Verdict.valueOf(item.verdict().toUpperCase(Locale.ROOT)) : Verdict.BLOCKED);
            stamp.setVisible(!item.outcome().equals("pending"));
            word.setText(item.packedAt().isPresent() ? "before" : item.outcome());
        }
    }

    private static final class Words extends TableCell<PackingSlip.Item, PackingSlip.Item> {
        private final java.util.function.Function<PackingSlip.Item, String> text;

        Words(java.util.function.Function<PackingSlip.Item, String> text) { this.text = text; }

        @Override protected void updateItem(PackingSlip.Item item, boolean empty) {
            super.updateItem(item, empty);
            String words = empty || item == null ? "" : text.apply(item);
            setText(words);
            Tips.on(this, words);
        }
    }
}
