package ablecrate.desktop.fit;

import ablecrate.audio.Figures;
import ablecrate.desktop.Tips;
import ablecrate.desktop.bench.BenchHead;
import ablecrate.desktop.Headings;
import ablecrate.desktop.Words;
import ablecrate.desktop.keys.KeysHearing;
import ablecrate.desktop.keys.KeysModel;
import ablecrate.desktop.bench.Bench;
import ablecrate.desktop.bench.BenchSide;
import ablecrate.fit.Fit;
import ablecrate.fit.FitStep;
import ablecrate.fit.FitTask;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polyline;
import javafx.scene.text.Text;

/// The face of the bench for instruments that are too much for a device: how difference falls as memory grows, with a handle to drag; what is taken of the device;
/// and the steps, each with its cost, to be forbidden.
public final class FitView extends BorderPane implements Bench {
    private static final double LEFT = 46, RIGHT = 24, TOP = 22, BOTTOM = 22, KEY_STEP = 1.05;

    private final FitModel model;
    private final Pane chart = new Pane() {
        @Override protected void layoutChildren() {
            draw();
            super.layoutChildren();
        }
    };
    private final Label sentence = new Label(), none = new Label(), hint = new Label();
    private final Gauges gauges = new Gauges(120, false);
    private final VBox steps = new VBox(4);
    private final Button all = new Button("All of the memory");
    private final Label noteText = new Label();
    private final Button hear = new Button("Hear both");
    private final NoteMap notes;
    private final ComboBox<FitModel.Changed> instruments = new ComboBox<>();
    private final KeysModel keys;
    private final VBox taken, done, noteByNote;
    private boolean isFilling, isShown;
    private Optional<Long> handle = Optional.empty();
    /// Whose notes were shown last.
    private Optional<FitModel.Changed> noted = Optional.empty();

    /// @param keys the instrument whose notes are shown
    /// @param hearing by which they are heard
    public FitView(FitModel model, KeysModel keys, KeysHearing hearing) {
        this.model = model;
        this.keys = keys;
        notes = new NoteMap(n -> hearing.tapBoth(n.key(), n.velocity()), n -> noteText.setText(NoteMap.told(n)));
        setId("fit");
        getStyleClass().add("levels");
        chart.getStyleClass().add("levels-chart");
        chart.setId("fit-curve");
        chart.setFocusTraversable(true);
        chart.setAccessibleRole(AccessibleRole.SLIDER);
        chart.setMinSize(0, 0);
        chart.addEventHandler(MouseEvent.MOUSE_PRESSED, this::drag);
        chart.addEventHandler(MouseEvent.MOUSE_DRAGGED, this::drag);
        chart.addEventHandler(MouseEvent.MOUSE_RELEASED, _ -> drop());
        chart.addEventHandler(KeyEvent.KEY_PRESSED, this::key);
        none.getStyleClass().add("placeholder");
        sentence.getStyleClass().add("beside-sentence");
        sentence.setId("fit-sentence");
        sentence.setWrapText(true);
        sentence.setMinHeight(Region.USE_PREF_SIZE);
        all.setId("fit-all");
        Tips.on(all, "As much memory as the device has");
        all.setOnAction(_ -> model.giveAll());
        noteText.setId("fit-note");
        hear.setId("fit-hear");
        Tips.on(hear, "The note as the source has it, then as the device will (Enter on the bars)");
        hear.setOnAction(_ -> notes.hearCurrent());
        instruments.setId("fit-instrument");
        instruments.setAccessibleText("Instrument, the most different first");
        instruments.setConverter(Words.of(c -> c.name() + String.format(Locale.ROOT, ", %.1f dB", c.harm().meanDb())));
        instruments.valueProperty().subscribe(c -> {
            if (c != null && !isFilling) showOnKeys(c);
        });

        HBox heard = new HBox(8, noteText, hear);
        heard.setAlignment(Pos.CENTER_LEFT);
        Label explained = Headings.label("A row for each velocity, a bar for each key. Click one to hear the source, then the result.", "hint");
        explained.setWrapText(true);
        noteByNote = new VBox(8, Headings.subheading("Note by note"),
                explained, instruments, notes, heard);
        taken = new VBox(8, Headings.subheading("What it takes of the device"), gauges);
        done = new VBox(8, Headings.subheading("What fitting does"), steps);
        BenchHead head = new BenchHead(hint, all);
        VBox side = new VBox(8, sentence, taken, done, noteByNote);
        BorderPane picture = new BorderPane(chart);
        picture.setTop(head);
        setCenter(picture);
        setRight(new BenchSide(side, 430, this));
        keys.instrumentProperty().subscribe(_ -> showNotes());
        model.shownProperty().subscribe(_ -> renew());
        model.lineProperty().subscribe(_ -> renew());
        model.takenProperty().subscribe(gauges -> {
            this.gauges.show(gauges);
            show(taken, !gauges.isEmpty());
        });
    }

    @Override public String id() { return "fit"; }

    @Override public String title() { return "Fit"; }

    @Override public Node node() { return this; }

    @Override public boolean namesLine() { return true; }

    @Override public void focus() { chart.requestFocus(); }

    @Override public void shown(boolean isShown) {
        this.isShown = isShown;
        if (isShown) showNotes();
    }

    private void renew() {
        handle = Optional.empty();
        Optional<FitModel.Shown> shown = model.shownProperty().get();
        sentence.setText(shown.map(FitModel.Shown::sentence).orElse(hasLine() ? "Nothing has to be made smaller." : ""));
        all.setDisable(!model.isLessGiven());
        show(all, memory().isPresent() || model.isLessGiven());
        chart.setVisible(hasLine());
        hint.setText(memory().isPresent() ? "Drag the line, or press ← and →, to give it less memory" : "");
        steps.getChildren().clear();
        shown.ifPresent(s -> model.kinds().forEach(kind -> steps.getChildren().add(step(kind, s))));
        model.unlooped().ifPresent(u -> steps.getChildren().add(loops(u)));
        show(done, !steps.getChildren().isEmpty());
        chart.setAccessibleText(sentence.getText());
        chart.requestLayout();
        showNotes();
    }

    /// Of the instrument that is on the keys, or else of the one that differs most.
    private void showNotes() {
        List<FitModel.Changed> changed = model.shownProperty().get().map(FitModel.Shown::instruments).orElse(List.of());
        Optional<FitModel.Changed> shown = keys.instrumentProperty().get()
                .flatMap(i -> changed.stream().filter(c -> c.is(keys.indexProperty().get(), i.name())).findFirst());
        if (isShown && shown.isEmpty() && !changed.isEmpty() && keys.names().contains(changed.getFirst().name())) {
            showOnKeys(changed.getFirst());
            return;
        }
        isFilling = true;
        instruments.getItems().setAll(changed);
        instruments.setValue(shown.orElse(null));
        isFilling = false;
        show(instruments, changed.size() > 1);
        show(noteByNote, !changed.isEmpty());
        notes.show(shown.map(c -> c.harm().notes()).orElse(List.of()), shown.filter(c -> noted.filter(c::isSameInstrument).isEmpty()).isPresent());
        noted = shown.or(() -> noted);
        hear.setDisable(shown.isEmpty());
    }

    private void showOnKeys(FitModel.Changed instrument) { keys.showInstrument(instrument.place().orElseGet(() -> keys.names().indexOf(instrument.name()))); }

    private static void show(Node node, boolean isShown) {
        node.setVisible(isShown);
        node.setManaged(isShown);
    }

    private Node step(FitStep.Kind kind, FitModel.Shown shown) {
        Optional<FitModel.Step> taken = shown.steps().stream().filter(s -> s.kind() == kind).findFirst();
        CheckBox box = new CheckBox(
                taken.map(s -> s.text() + ": " + Figures.signed(s.harmDb(), 1) + " dB" + (s.saved().isEmpty() ? "" : ", " + s.saved() + " less"))
                        .orElse(kind.label() + ": not allowed"));
        box.setId("fit-step-" + kind.id());
        box.setWrapText(true);
        box.setSelected(model.isAllowed(kind));
        Tips.on(box, "Clear to fit without it");
        box.setOnAction(_ -> model.allow(kind, box.isSelected()));
        return box;
    }

    private Node loops(FitTask.Unlooped unlooped) {
        CheckBox box = new CheckBox(model.findsLoops()
                ? "loops found for " + unlooped.found() + " of " + unlooped.sounds() + " samples that had none"
                : "find loops for " + unlooped.sounds() + (unlooped.sounds() == 1 ? " sample that has none" : " samples that have none"));
        box.setId("fit-loops");
        box.setWrapText(true);
        box.setSelected(model.findsLoops());
        Tips.on(box, "What lies behind a loop takes no memory; notes die away as their sounds did. Each sample is searched once, which takes about a second");
        box.setOnAction(_ -> model.findLoops(box.isSelected()));
        return box;
    }

    private boolean hasLine() { return model.lineProperty().get().isPresent(); }

    private Optional<FitModel.Memory> memory() { return model.shownProperty().get().flatMap(FitModel.Shown::memory); }

    private double x(FitModel.Memory memory, double bytes) {
        double least = memory.least(), most = memory.most(), span = Math.log(most / least);
        return LEFT + (span == 0 ? 0 : Math.log(Math.clamp(bytes, least, most) / least) / span) * (chart.getWidth() - LEFT - RIGHT);
    }

    private double y(double db, double highest) { return TOP + (1 - db / highest) * (chart.getHeight() - TOP - BOTTOM); }

    private void draw() {
        chart.getChildren().clear();
        Optional<FitModel.Shown> shown = model.shownProperty().get();
        if (memory().isEmpty()) {
            none.setText(shown.isEmpty()
                    ? hasLine() ? "It fits as it is." : ""
                    : shown.get().isWaiting()
                            ? "It is being made to fit …"
                            : shown.get().steps().isEmpty() ? "It does not fit as it is." : "Memory is not what is short here.");
            none.relocate(LEFT, TOP + 8);
            none.autosize();
            chart.getChildren().add(none);
            return;
        }
        FitModel.Memory memory = memory().get();
        List<Fit.Point> curve = memory.curve();
        double highest = Math.max(2, Math.ceil(curve.stream().mapToDouble(Fit.Point::harmDb).max().orElse(1)));
        for (double db = 0; db <= highest; db += highest > 12 ? 5 : highest > 5 ? 2 : 1) {
            chart.getChildren().add(styled(new Line(LEFT, y(db, highest), chart.getWidth() - RIGHT, y(db, highest)), "levels-grid"));
            chart.getChildren().add(styled(new Text(14, y(db, highest) + 4, String.format(Locale.ROOT, "%3.0f", db)), "levels-figure"));
        }
        for (Fit.Point point : List.of(curve.getFirst(), curve.getLast())) {
            Text text = styled(new Text(Figures.bytes(point.bytes())), "levels-figure");
            text.relocate(Math.min(x(memory, point.bytes()), chart.getWidth() - RIGHT - text.getLayoutBounds().getWidth()), chart.getHeight() - 16);
            chart.getChildren().add(text);
        }
        Polyline line = styled(new Polyline(), "beside-line", "beside-result");
        curve.forEach(p -> line.getPoints().addAll(x(memory, p.bytes()), y(p.harmDb(), highest)));
        line.setManaged(false);
        chart.getChildren().add(line);
        Text legend = styled(new Text(LEFT + 4, 14, ""), "levels-figure");
        String what = "difference in dB" + (memory.instruments() > 1 ? ", mean of all " + memory.instruments() : "");
        // Where there is no room for all of it, how it is known is left out.
        for (String text : List.of(what + "; dashed: estimated, dot: measured", what)) {
            legend.setText(text);
            if (legend.getX() + legend.getLayoutBounds().getWidth() < chart.getWidth()) break;
        }
        chart.getChildren().add(legend);
        Circle today = styled(new Circle(x(memory, memory.bytes()), y(Math.min(highest, memory.harmDb()), highest), 5), "fit-today");
        double at = x(memory, handle.orElse(memory.bytes()));
        Line grip = styled(new Line(at, TOP, at, chart.getHeight() - BOTTOM), "fit-handle");
        grip.setCursor(Cursor.H_RESIZE);
        Text text = styled(new Text(handle.map(h -> memory.amount(h) + String.format(Locale.ROOT, ", about %.1f dB", memory.foretold(h)))
                .orElseGet(() -> memory.amount(memory.bytes()) + String.format(Locale.ROOT, ", %.1f dB", memory.harmDb()))), "fit-text");
        double wide = text.getLayoutBounds().getWidth();
        // Beside the handle, where there is room.
        text.relocate(at + 8 + wide <= chart.getWidth() - RIGHT ? at + 8 : Math.max(LEFT, at - 8 - wide), TOP + 4);
        chart.getChildren().addAll(grip, today, text);
    }

    private static <T extends Node> T styled(T node, String... styles) {
        node.getStyleClass().addAll(styles);
        return node;
    }

    private void drag(MouseEvent e) {
        chart.requestFocus();
        memory().ifPresent(memory -> {
            double share = Math.clamp((e.getX() - LEFT) / Math.max(1, chart.getWidth() - LEFT - RIGHT), 0, 1);
            handle = Optional.of(Math.round(memory.least() * Math.pow(memory.most() / memory.least(), share)));
            chart.requestLayout();
        });
    }

    private void drop() { handle.ifPresent(model::giveMemory); }

    private void key(KeyEvent e) {
        double factor = e.getCode() == KeyCode.LEFT ? 1 / KEY_STEP : e.getCode() == KeyCode.RIGHT ? KEY_STEP : 1;
        if (factor == 1) return;
        e.consume();
        memory().ifPresent(m -> model.giveMemory(Math.round(Math.clamp(handle.orElse(m.bytes()) * factor, m.least(), m.most()))));
    }
}
