package ablecrate.desktop.list;

import ablecrate.change.Change;
import ablecrate.change.Property;
import ablecrate.change.Told;
import ablecrate.change.Verdict;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Tips;
import ablecrate.desktop.keys.KeyStrip;
import ablecrate.library.Gathered;
import ablecrate.plan.PackingItem;
import ablecrate.pack.PackingSlip;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import javafx.beans.value.ChangeListener;
import javafx.beans.value.ObservableValue;
import javafx.beans.value.WeakChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.TableCell;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/// The cells of the packing list. Each is made once for a visible row and then only filled anew.
final class Cells {
    private Cells() {}

    /// The stamp and its word; a tick once the line is packed, a cross where that failed.
    static final class Stamp extends TableCell<PackingItem, PackingItem> {
        private final VerdictStamp stamp = new VerdictStamp(Verdict.KEPT);
        private final Label word = new Label();
        private final HBox box = new HBox(8, stamp, word);
        private final Function<PackingItem, Optional<PackingSlip.Item>> packed;
        /// Held by the cell alone: a table makes new ones now and then.
        private final ChangeListener<Number> renew = (_, _, _) -> {
            if (getItem() != null) tell(getItem());
        };

        /// @param packed what became of a line in the run that goes on
        /// @param done changes with each line that is done
        Stamp(Function<PackingItem, Optional<PackingSlip.Item>> packed, ObservableValue<Number> done) {
            this.packed = packed;
            done.addListener(new WeakChangeListener<>(renew));
            box.setAlignment(Pos.CENTER_LEFT);
            word.getStyleClass().add("verdict-word");
        }

        @Override protected void updateItem(PackingItem item, boolean empty) {
            super.updateItem(item, empty);
            setGraphic(empty || item == null ? null : box);
            if (empty || item == null) return;
            stamp.show(item.verdict());
            VerdictStamp.mark(word, item.verdict());
            tell(item);
        }

        private void tell(PackingItem item) {
            word.setText(packed.apply(item).map(p -> switch (p.outcome()) {
                case "packed" -> "✓ " + item.verdict().id();
                case "failed" -> "✗ failed";
                case "blocked", "pending" -> item.verdict().id();
                default -> "✓ there";
            }).orElse(item.verdict().id()));
        }
    }

    /// The verdict of the same line at a destination that is not looked at.
    static final class Other extends TableCell<PackingItem, PackingItem> {
        private final VerdictStamp stamp = new VerdictStamp(Verdict.KEPT);
        private final String destination;
        private final Function<PackingItem, Optional<PackingItem>> same;
        Other(String destination, Function<PackingItem, Optional<PackingItem>> same) {
            this.destination = destination;
            this.same = same;
            setAlignment(Pos.CENTER);
        }

        @Override protected void updateItem(PackingItem item, boolean empty) {
            super.updateItem(item, empty);
            Optional<PackingItem> there = empty || item == null ? Optional.empty() : same.apply(item);
            setGraphic(there.isPresent() ? stamp : null);
            Tips.on(this, there.map(i -> destination + ": " + i.verdict().id() + (i.reason().isEmpty() ? "" : ", " + i.reason())).orElse(""));
            there.ifPresent(i -> stamp.show(i.verdict()));
        }
    }

    /// The wave with its loops.
    static final class Wave extends TableCell<PackingItem, PackingItem> {
        private final SketchPane sketch;
        private final KeyStrip keys = new KeyStrip();

        Wave(Sketches sketches) { sketch = new SketchPane(sketches); }

        @Override protected void updateItem(PackingItem item, boolean empty) {
            super.updateItem(item, empty);
            Optional<SoundFile> file = empty || item == null ? Optional.empty() : item.source().clip();
            boolean hasKeys = !empty && item != null && item.isInstruments();
            if (hasKeys) keys.show(item.source().instruments().orElseThrow().instruments());
            setGraphic(file.isPresent() ? sketch : hasKeys ? keys : null);
            file.ifPresentOrElse(sketch::show, sketch::clear);
        }
    }

    /// The name, and below it what happens to the sound, in one line below the figures of the other columns up to the row's end; a tooltip has both in full.
    static final class Name extends TableCell<PackingItem, PackingItem> {
        private static final double MARGIN = 14;

        private final Label name = new Label(), reason = new Label();
        private final PackingListModel model;
        private final Label fold = new Label();
        private final VBox words = new VBox(name, reason) {
            @Override protected void layoutChildren() {
                super.layoutChildren();
                // A row may be wider than what is seen of it.
                double end = Math.min(getTableRow().getWidth(), getTableView().getWidth()) - MARGIN,
                        from = Name.this.getLayoutX() + box.getLayoutX() + getLayoutX();
                reason.resizeRelocate(0, name.getLayoutY() + name.getHeight(), Math.max(0, end - from), reason.prefHeight(-1));
            }
        };
        private final HBox box = new HBox(6, fold, words);
        Name(PackingListModel model) {
            this.model = model;
            getStyleClass().add("upper-line");
            // A table cuts what reaches beyond a cell.
            skinProperty().subscribe(_ -> setClip(null));
            box.setAlignment(Pos.TOP_LEFT);
            reason.setManaged(false);
            reason.setMouseTransparent(true);
            HBox.setHgrow(words, Priority.ALWAYS);
            words.setMinWidth(0);
            fold.getStyleClass().add("fold");
            fold.setMinWidth(14);
            fold.setOnMouseClicked(e -> {
                if (getItem() != null) model.unfold(getItem(), !model.isOpen(getItem()));
                e.consume();
            });
            name.getStyleClass().add("row-name");
            reason.getStyleClass().add("row-reason");
            // Names of one folder differ at their ends.
            name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
        }

        @Override protected void updateItem(PackingItem item, boolean empty) {
            super.updateItem(item, empty);
            setGraphic(empty || item == null ? null : box);
            if (empty || item == null) {
                Tips.on(this, "");
                return;
            }
            boolean isPart = model.parentOf(item).isPresent();
            fold.setText(item.parts().isEmpty() ? "" : model.isOpen(item) ? "▾" : "▸");
            fold.setVisible(isPart || !item.parts().isEmpty());
            fold.setManaged(fold.isVisible());
            fold.setAccessibleText(item.parts().isEmpty() ? "" : Told.count(item.parts().size(), "sound"));
            name.setText(item.source().fileName());
            String told = counted(item) + (item.reason().isEmpty() ? summary(item) : item.reason());
            reason.setText(told);
            Tips.on(this, item.source().relative() + "\n" + told);
        }

        /// What a line of several things has, before what becomes of them.
        private static String counted(PackingItem item) {
            List<Gathered.Piece> pieces = item.source().pieces();
            if (!pieces.isEmpty()) return Told.count(pieces.size(), "piece") + "  ·  ";
            return item.source().instruments()
                    .map(f -> (f.instruments().size() > 1 ? Told.count(f.instruments().size(), "instrument") : Told.count(f.zoneCount(), "zone")) + "  ·  ")
                    .orElse("");
        }

        private static String summary(PackingItem item) {
            return item.verdict() == Verdict.KEPT
                    ? "bit for bit"
                    : item.changes().stream().filter(c -> c.verdict() == item.verdict()).map(c -> c.before() + " → " + c.after()).distinct()
                            .collect(java.util.stream.Collectors.joining("; "));
        }
    }

    /// A number, before and, if it changes, after: right-aligned, the unit stands in the column's head.
    static final class BeforeAfter extends TableCell<PackingItem, PackingItem> {
        private static final String VARIOUS = "mixed", NONE = "–";

        private final Property property;
        private final Function<SoundFile, String> was;
        private final Function<PackingItem, String> becomes;
        private final Label before = new Label(), arrow = new Label("→"), after = new Label();
        private final HBox box = new HBox(4, before);

        /// @param was as the source has it
        /// @param becomes as the outputs have it; not asked where there are none
        BeforeAfter(Property property, Function<SoundFile, String> was, Function<PackingItem, String> becomes) {
            this.property = property;
            this.was = was;
            this.becomes = becomes;
            getStyleClass().add("upper-line");
            box.setAlignment(Pos.TOP_RIGHT);
            before.getStyleClass().add("number-before");
            arrow.getStyleClass().add("number-arrow");
            after.getStyleClass().add("number-after");
            before.setMinWidth(USE_PREF_SIZE);
            after.setMinWidth(USE_PREF_SIZE);
        }

        @Override protected void updateItem(PackingItem item, boolean empty) {
            super.updateItem(item, empty);
            List<PackingItem> sounds = empty || item == null ? List.of() : item.isInstruments() ? item.parts() : List.of(item);
            List<String> all = distinct(sounds, i -> i.source().sound().map(was)), left = distinct(sounds, i -> Optional.of(after(i)));
            setGraphic(all.isEmpty() ? null : box);
            if (all.isEmpty()) return;
            Optional<Verdict> worst = sounds.stream().flatMap(i -> verdict(i).stream()).reduce(Verdict::worse);
            // The sounds of an instrument may be of several kinds.
            before.setText(told(all));
            after.setText(told(left));
            // Of several kinds that become several others there is only room for what they become; the sounds of the instrument have both.
            boolean isOnlyAfter = before.getText().equals(after.getText()) || all.size() > 1 && left.size() > 1;
            // Most numbers stay: what nobody sees is not styled and laid out in each of hundreds of cells.
            List<Label> seen = worst.isEmpty() ? List.of(before) : isOnlyAfter ? List.of(after) : List.of(before, arrow, after);
            if (!box.getChildren().equals(seen)) box.getChildren().setAll(seen);
            worst.ifPresent(v -> VerdictStamp.mark(after, v));
        }

        private Optional<Verdict> verdict(PackingItem item) {
            Optional<Verdict> told = item.change(property).map(Change::verdict).filter(v -> v != Verdict.KEPT);
            // A sound that is trimmed has another length, whatever its destination says of lengths.
            return told.isEmpty() && property == Property.LENGTH && isOfOtherLength(item) ? Optional.of(Verdict.ADJUSTED) : told;
        }

        private String after(PackingItem item) {
            return item.outputs().isEmpty() ? NONE : verdict(item).isPresent() ? becomes.apply(item) : item.source().sound().map(was).orElse("");
        }

        /// Two short ones are told as such: `1–2` channels.
        private static String told(List<String> values) {
            if (values.size() == 1) return values.getFirst();
            return values.size() == 2 && values.stream().allMatch(v -> v.length() <= 2) ? String.join("–", values.stream().sorted().toList()) : VARIOUS;
        }

        /// Of an instrument of which some sounds are left out, what the others have.
        private static List<String> distinct(List<PackingItem> items, Function<PackingItem, Optional<String>> text) {
            List<String> all = items.stream().flatMap(i -> text.apply(i).stream()).distinct().limit(4).toList();
            return all.size() == 1 ? all : all.stream().filter(t -> !t.equals(NONE)).limit(3).toList();
        }
    }

    /// One text.
    static final class Plain extends TableCell<PackingItem, PackingItem> {
        private final Function<PackingItem, String> text;
        private final Label label = new Label();
        private final HBox box = new HBox(label);

        Plain(Function<PackingItem, String> text) {
            this.text = text;
            getStyleClass().add("upper-line");
            box.setAlignment(Pos.TOP_RIGHT);
            label.getStyleClass().add("number-before");
        }

        @Override protected void updateItem(PackingItem item, boolean empty) {
            super.updateItem(item, empty);
            setGraphic(empty || item == null ? null : box);
            if (!empty && item != null) label.setText(text.apply(item));
        }
    }

    /// Megabytes of the file, and of the audio that becomes of it.
    static final class Size extends TableCell<PackingItem, PackingItem> {
        private final Label before = new Label(), arrow = new Label("→"), after = new Label();
        private final HBox box = new HBox(4, before, arrow, after);

        Size() {
            getStyleClass().add("upper-line");
            box.setAlignment(Pos.TOP_RIGHT);
            before.getStyleClass().add("number-before");
            arrow.getStyleClass().add("number-arrow");
            after.getStyleClass().add("number-before");
        }

        @Override protected void updateItem(PackingItem item, boolean empty) {
            super.updateItem(item, empty);
            boolean goes = !empty && item != null && !item.outputs().isEmpty();
            setGraphic(goes ? box : null);
            if (!goes) return;
            before.setText(Totals.megabytes(Totals.bytesBefore(item)));
            after.setText(Totals.megabytes(Totals.bytesAfter(item)));
        }
    }

    private static boolean isOfOtherLength(PackingItem item) {
        return item.source().sound().isPresent() && !item.outputs().isEmpty()
                && Math.abs(item.source().sound().get().durationSeconds() - secondsAfter(item)) >= SHORTEST_STEP;
    }

    private static double secondsAfter(PackingItem item) {
        OutputShape shape = item.outputs().getFirst().shape();
        return shape.frames() / (double) shape.rateHz();
    }

    static String lengthAfter(PackingItem item) { return seconds(secondsAfter(item)); }

    /// As finely as lengths are told.
    private static final double SHORTEST_STEP = 0.005;

    static String seconds(SoundFile file) { return seconds(file.durationSeconds()); }

    private static String seconds(double s) {
        return s < 60 ? String.format(Locale.ROOT, "%.2f", s) : String.format(Locale.ROOT, "%d:%05.2f", (int) (s / 60), s % 60);
    }
}
