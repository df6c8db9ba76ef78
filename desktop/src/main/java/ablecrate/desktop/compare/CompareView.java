package ablecrate.desktop.compare;

import ablecrate.desktop.Tips;
import ablecrate.desktop.bench.BenchHead;
import ablecrate.desktop.Headings;
import ablecrate.desktop.bench.Bench;
import ablecrate.desktop.bench.BenchSide;
import ablecrate.desktop.hearing.Hearable;
import ablecrate.dsp.SpectrumMeter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import javafx.geometry.HPos;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Text;

/// The face of the bench that lays a result over its source: what is heard, the null test, spectra, and the facts of both side by side.
public final class CompareView extends BorderPane implements Bench {
    private static final double LEFT = 46, RIGHT = 12, TOP = 12, BOTTOM = 20, LOWEST_HZ = 20, TOP_DB = 0, BOTTOM_DB = -180;

    private final CompareModel model;
    private final Pane chart = new Pane() {
        @Override protected void layoutChildren() {
            draw();
            super.layoutChildren();
        }
    };
    private final GridPane facts = new GridPane();
    private final VBox side;
    private final Label sentence = new Label(), state = new Label();
    private final ToggleButton packed = new ToggleButton("Packed file");

    public CompareView(CompareModel model) {
        this.model = model;
        getStyleClass().add("beside");
        setId("beside");
        List<Node> controls = new ArrayList<>();
        for (CompareModel.Heard heard : CompareModel.Heard.values()) {
            ToggleButton button = new ToggleButton(heard.label());
            button.setId("hear-" + heard.name().toLowerCase(Locale.ROOT));
            button.setMinWidth(Region.USE_PREF_SIZE);
            Tips.on(button, "Space plays; A goes from one to the next, without a gap");
            button.setGraphic(sample(heard));
            button.setOnAction(_ -> {
                model.heardProperty().set(heard);
                button.setSelected(true);
            });
            model.heardProperty().subscribe(h -> button.setSelected(h == heard));
            controls.add(button);
        }
        CheckBox matched = new CheckBox("level-matched");
        matched.setMinWidth(Region.USE_PREF_SIZE);
        matched.setId("beside-matched");
        matched.selectedProperty().bindBidirectional(model.matchedProperty());
        Tips.on(matched, "The result is heard after the gain that brings it nearest to the source");
        packed.setId("beside-packed");
        packed.setMinWidth(Region.USE_PREF_SIZE);
        Tips.on(packed, "Look at the file that was packed instead of a preview");
        packed.selectedProperty().bindBidirectional(model.packedProperty());
        controls.addAll(List.of(matched, packed));
        BenchHead head = new BenchHead(controls.toArray(Node[]::new));
        sentence.getStyleClass().add("beside-sentence");
        sentence.setId("beside-sentence");
        sentence.setWrapText(true);
        state.getStyleClass().add("placeholder");
        state.setId("beside-state");
        chart.setMinSize(0, 0);
        chart.getStyleClass().add("levels-chart");
        chart.setFocusTraversable(true);
        chart.setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        facts.getStyleClass().add("facts");
        facts.setHgap(14);
        side = new VBox(Headings.subheading("Null test"), sentence, Headings.subheading("Side by side"), facts);
        BorderPane picture = new BorderPane(chart);
        picture.setTop(head);
        setCenter(picture);
        setRight(new BenchSide(side, 356, this));
        model.comparedProperty().subscribe(_ -> renew());
        model.stateProperty().subscribe(_ -> renew());
        renew();
    }

    @Override public String id() { return "result"; }

    @Override public String title() { return "Result"; }

    @Override public Node node() { return this; }

    @Override public boolean namesLine() { return true; }

    @Override public void focus() { chart.requestFocus(); }

    @Override public void shown(boolean isShown) { model.shownProperty().set(isShown); }

    @Override public Optional<Hearable> hearable() { return Optional.of(model); }

    /// A piece of the line that is meant.
    private static Line sample(CompareModel.Heard heard) {
        Line line = new Line(0, 0, 18, 0);
        line.getStyleClass().addAll("beside-line", "beside-" + heard.name().toLowerCase(Locale.ROOT));
        return line;
    }

    private void renew() {
        Optional<CompareModel.Compared> now = model.comparedProperty().get();
        packed.setDisable(model.packedFile().isEmpty());
        state.setText(model.stateProperty().get());
        // What is waited for, or missing, is told once, on the chart.
        side.setVisible(now.isPresent());
        sentence.setText(now.map(c -> CompareModel.nullText(c) + (CompareModel.liftDb(c) > 0
                ? String.format(Locale.ROOT, " It is heard raised by %.0f dB.", CompareModel.liftDb(c))
                : "")).orElse(model.stateProperty().get()));
        facts.getChildren().clear();
        int row = 0;
        if (now.isPresent()) {
            facts.addRow(row++, cell("", "fact-name"), right(cell("Source", "fact-name")),
                    right(cell(now.get().isPacked() ? "Packed" : "Preview", "fact-name")));
            for (CompareModel.Row r : CompareModel.rows(now.get()))
                facts.addRow(row++, cell(r.name(), "fact-name"), right(cell(r.source(), "beside-value")),
                        right(cell(r.result(), r.result().equals(r.source()) ? "beside-value" : "beside-changed")));
        }
        chart.setAccessibleText(sentence.getText());
        chart.requestLayout();
    }

    private static Label cell(String text, String style) {
        Label label = new Label(text);
        label.getStyleClass().add(style);
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private static Label right(Label label) {
        GridPane.setHalignment(label, HPos.RIGHT);
        return label;
    }

    private double x(double hz, double highest) {
        return LEFT + Math.log(Math.max(hz, LOWEST_HZ) / LOWEST_HZ) / Math.log(highest / LOWEST_HZ) * (chart.getWidth() - LEFT - RIGHT);
    }

    private double y(double db) { return TOP + (TOP_DB - Math.clamp(db, BOTTOM_DB, TOP_DB)) / (TOP_DB - BOTTOM_DB) * (chart.getHeight() - TOP - BOTTOM); }

    private void draw() {
        chart.getChildren().clear();
        Optional<CompareModel.Compared> now = model.comparedProperty().get();
        if (now.isEmpty()) {
            state.relocate(LEFT, TOP + 8);
            state.autosize();
            chart.getChildren().add(state);
            return;
        }
        double highest = Math.max(1000, Math.max(now.get().output().source().rateHz(), now.get().result().rateHz()) / 2.0),
                step = chart.getHeight() > 260 ? 20 : 60;
        for (double db = TOP_DB; db >= BOTTOM_DB; db -= step) {
            Line line = new Line(LEFT, y(db), chart.getWidth() - RIGHT, y(db));
            line.getStyleClass().add("levels-grid");
            Text text = new Text(8, y(db) + 4, String.format(Locale.ROOT, "%4.0f", db));
            text.getStyleClass().add("levels-figure");
            chart.getChildren().addAll(line, text);
        }
        for (double hz : List.of(20.0, 50.0, 100.0, 200.0, 500.0, 1000.0, 2000.0, 5000.0, 10_000.0, 20_000.0, 50_000.0)) {
            if (hz > highest) break;
            Line line = new Line(x(hz, highest), TOP, x(hz, highest), chart.getHeight() - BOTTOM);
            line.getStyleClass().add("levels-grid");
            Text text = new Text(x(hz, highest) - 8, chart.getHeight() - 5,
                    hz < 1000 ? String.format(Locale.ROOT, "%.0f", hz) : String.format(Locale.ROOT, "%.0fk", hz / 1000));
            text.getStyleClass().add("levels-figure");
            chart.getChildren().addAll(line, text);
        }
        Rectangle clip = new Rectangle(LEFT, TOP, Math.max(0, chart.getWidth() - LEFT - RIGHT), Math.max(0, chart.getHeight() - TOP - BOTTOM));
        curve(now.get().found().difference(), "difference", highest, clip);
        curve(now.get().found().source(), "source", highest, clip);
        curve(now.get().found().result(), "result", highest, clip);
        cut(now.get().found().source().cutoffHz(), "source ends", highest, 44);
        if (!now.get().found().source().cutoffHz().equals(now.get().found().result().cutoffHz()))
            cut(now.get().found().result().cutoffHz(), "result ends", highest, 30);
        Text unit = new Text(LEFT + 4, TOP + 12, "dB against a sine at full scale, by frequency in Hz");
        unit.getStyleClass().add("levels-figure");
        chart.getChildren().add(unit);
    }

    private void curve(SpectrumMeter.Spectrum spectrum, String style, double highest, Rectangle clip) {
        Polyline line = new Polyline();
        for (int i = 0; i < spectrum.hz().size(); i++)
            line.getPoints().addAll(x(spectrum.hz().get(i), highest), y(spectrum.db().get(i)));
        line.getStyleClass().addAll("beside-line", "beside-" + style);
        line.setClip(new Rectangle(clip.getX(), clip.getY(), clip.getWidth(), clip.getHeight()));
        line.setManaged(false);
        chart.getChildren().add(line);
    }

    /// @param at pixels above the axis
    private void cut(OptionalDouble hz, String words, double highest, double at) {
        if (hz.isEmpty()) return;
        double x = x(hz.getAsDouble(), highest);
        Line line = new Line(x, TOP, x, chart.getHeight() - BOTTOM);
        line.getStyleClass().add("beside-cut");
        Text text = new Text(String.format(Locale.ROOT, "%s at %.1f kHz", words, hz.getAsDouble() / 1000));
        text.getStyleClass().add("levels-figure");
        text.relocate(x - text.getLayoutBounds().getWidth() - 6, chart.getHeight() - BOTTOM - at);
        chart.getChildren().addAll(line, text);
    }
}
