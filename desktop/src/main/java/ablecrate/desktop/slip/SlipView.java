package ablecrate.desktop.slip;

import ablecrate.desktop.Headings;
import ablecrate.desktop.list.VerdictStamp;
import ablecrate.pack.PackingSlip;
import ablecrate.change.Verdict;
import ablecrate.verify.Check;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.Tooltip;
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

    private final TableView<PackingSlip.Item> table = new TableView<>();
    private final Label summary = new Label();
    private final HBox figures = new HBox(36);
    private final Consumer<Path> compare;
    private PackingSlip slip;

    /// @param reveal opens a folder or the slip's page
    /// @param compare lays what was written of a source over it
    public SlipView(PackRunModel model, Runnable back, Consumer<Path> reveal, Consumer<Path> compare) {
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
        list.setTooltip(new Tooltip("Esc"));
        list.getStyleClass().add("loud");
        list.setOnAction(_ -> back.run());
        Button beside = new Button("Compare with source");
        beside.setId("slip-beside");
        beside.setTooltip(new Tooltip("Hear and measure what was written against its source (R, Enter or double click)"));
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
        HBox head = new HBox(10, title, gap, beside, open, page, list);
        head.setAlignment(Pos.CENTER_LEFT);
        summary.setId("slip-summary");
        summary.getStyleClass().add("about");
        figures.getStyleClass().add("figures");
        table.setId("slip-table");
        table.setAccessibleText("Packing slip");
        table.setColumnResizePolicy(TableView.CONSTRAINED_RESIZE_POLICY_LAST_COLUMN);
        table.setFixedCellSize(30);
        table.getColumns()
                .addAll(List.of(column("Outcome", 120, Outcome::new), column("Source", 250, () -> new Words(i -> Path.of(i.source()).getFileName().toString())),
                        column("Written", 380, () -> new Words(SlipView::written)), column("Checks", 420, () -> new Words(SlipView::checks))));
        VBox.setVgrow(table, Priority.ALWAYS);
        getChildren().addAll(head, summary, figures, table);
        model.slipProperty().subscribe(s -> s.ifPresent(this::show));
    }

    /// Lays what was written of the chosen line over its source.
    public void compareChosen() {
        Optional.ofNullable(table.getSelectionModel().getSelectedItem()).filter(i -> !i.outputs().isEmpty())
                .ifPresent(i -> compare.accept(Path.of(i.source())));
    }

    private void show(PackingSlip shown) {
        slip = shown;
        summary.setText(shown.destinationName() + (shown.isStopped() ? ", stopped before the end, into " : ", packed into ") + shown.into());
        long files = shown.ofThisRun().stream().flatMap(i -> i.outputs().stream()).filter(o -> !STAYED.contains(o.state())).count()
                + shown.ofThisRun().stream().flatMap(i -> i.maps().stream()).filter(m -> !STAYED.contains(m.state())).count();
        long bytes = shown.items().stream().flatMap(i -> i.outputs().stream()).mapToLong(PackingSlip.Output::bytes).sum()
                + shown.items().stream().flatMap(i -> i.maps().stream()).mapToLong(PackingSlip.MapFile::bytes).sum();
        figures.getChildren().clear();
        shown.outcomes().forEach((outcome, n) -> figure(String.format(Locale.ROOT, "%,d", n), outcome));
        if (shown.misses() > 0) figure(String.format(Locale.ROOT, "%,d", shown.misses()), "not reached");
        if (shown.damaged() > 0) figure(String.format(Locale.ROOT, "%,d", shown.damaged()), "with damage");
        figure(String.format(Locale.ROOT, "%,d", files), "files written");
        figure(String.format(Locale.ROOT, "%.1f MB", bytes / 1e6), "in the folder");
        figure(String.format(Locale.ROOT, "%.1f s", shown.seconds()), "time");
        table.setItems(FXCollections.observableArrayList(shown.items()));
        // What did not go comes first: it is what someone has to look at.
        table.getItems().sort(Comparator.comparing((PackingSlip.Item i) -> i.packedAt().isPresent()).thenComparing(i -> i.error().isEmpty())
                .thenComparing(i -> i.misses().isEmpty()));
    }

    private void figure(String number, String word) {
        Label n = new Label(number), w = new Label(word);
        n.getStyleClass().add("figure");
        w.getStyleClass().add("figure-word");
        figures.getChildren().add(new VBox(n, w));
    }

    private static String written(PackingSlip.Item item) {
        if (item.error().isEmpty() && !item.maps().isEmpty()) {
            PackingSlip.MapFile first = item.maps().getFirst();
            List<String> more = new ArrayList<>();
            if (item.maps().size() > 1) more.add((item.maps().size() - 1) + " more");
            if (!item.outputs().isEmpty()) more.add(item.outputs().size() + " sounds");
            return first.path() + (more.isEmpty() ? "" : " and " + String.join(", ", more))
                    + (first.state().equals("written") ? "" : " (" + first.state() + ")");
        }
        return item.error().orElseGet(() -> item.outputs().stream().map(o -> o.path() + (o.state().equals("written") ? "" : " (" + o.state() + ")"))
                .collect(Collectors.joining(", ")));
    }

    /// What failed, or how many held.
    private static String checks(PackingSlip.Item item) {
        List<PackingSlip.Check> all = Stream
                .concat(item.maps().stream().flatMap(m -> m.checks().stream()), item.outputs().stream().flatMap(o -> o.checks().stream())).toList();
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
            Verdict verdict = Verdict.valueOf(item.verdict().toUpperCase(Locale.ROOT));
            stamp.show(verdict);
            word.setText(item.packedAt().isPresent() ? "before" : item.outcome());
        }
    }

    private static final class Words extends TableCell<PackingSlip.Item, PackingSlip.Item> {
        private final java.util.function.Function<PackingSlip.Item, String> text;
        private final Tooltip full = new Tooltip();

        Words(java.util.function.Function<PackingSlip.Item, String> text) {
            this.text = text;
            full.setWrapText(true);
            full.setMaxWidth(520);
        }

        @Override protected void updateItem(PackingSlip.Item item, boolean empty) {
            super.updateItem(item, empty);
            String words = empty || item == null ? "" : text.apply(item);
            setText(words);
            full.setText(words);
            setTooltip(words.isEmpty() ? null : full);
        }
    }
}
