package ablecrate.desktop.levels;

import ablecrate.desktop.Tips;
import ablecrate.desktop.bench.BenchHead;
import ablecrate.desktop.action.Action;
import ablecrate.desktop.Words;
import ablecrate.desktop.bench.Bench;
import ablecrate.desktop.bench.BenchSide;
import ablecrate.dsp.LevelMeasure;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.DoubleConsumer;
import java.util.stream.IntStream;
import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.Group;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Text;

/// The levels face of the bench: each sound a dumbbell, hollow before and solid after, on one axis; target and ceiling are lines to drag.
public final class LevelsView extends BorderPane implements Bench {
    private static final PseudoClass CURRENT = PseudoClass.getPseudoClass("current"), OUTLIER = PseudoClass.getPseudoClass("outlier");
    private static final double LEFT = 52, RIGHT = 96, TOP = 10, BOTTOM = 20, GLYPH = 6.3, LABEL_HEIGHT = 14, ZOOM = 1.25;
    /// More at once would be neither read nor drawn in time; fewer are no picture.
    private static final int MOST_IN_VIEW = 600, LEAST_IN_VIEW = 8;

    private final LevelsModel model;
    private final Runnable play;
    private final Pane chart = new Pane() {
        @Override protected void layoutChildren() {
            if (getWidth() != drawnWidth || getHeight() != drawnHeight) draw();
            super.layoutChildren();
        }
    };
    private final Label told = new Label();
    private final Button aim = new Button("Set a target");
    private double drawnWidth, drawnHeight, top = 0, bottom = -60;
    /// The part of the sounds that is in view: the first, and how many.
    private double first, count = MOST_IN_VIEW;
    private double pressedX;
    private boolean dragging;

    /// @param form where levels and ends are asked for
    /// @param play plays or stops the current sound
    public LevelsView(LevelsModel model, TreatmentForm form, Runnable play) {
        this.model = model;
        this.play = play;
        getStyleClass().add("levels");
        setId("levels");
        chart.getStyleClass().add("levels-chart");
        chart.setFocusTraversable(true);
        chart.setAccessibleRole(AccessibleRole.NODE);
        chart.setMinSize(0, 0);
        ComboBox<LevelMeasure> measures = new ComboBox<>();
        measures.setId("levels-measure");
        measures.setAccessibleText("Measure shown");
        measures.getItems().setAll(LevelMeasure.values());
        measures.setConverter(Words.of(m -> TreatmentForm.brief(m) + ", " + m.unit()));
        measures.valueProperty().bindBidirectional(model.measureProperty());
        ComboBox<LevelsModel.Order> orders = new ComboBox<>();
        orders.setId("levels-order");
        orders.setAccessibleText("Order");
        orders.getItems().setAll(LevelsModel.Order.values());
        orders.setConverter(Words.of(LevelsModel.Order::label));
        orders.valueProperty().bindBidirectional(model.orderProperty());
        aim.setId("levels-aim");
        aim.setMinWidth(USE_PREF_SIZE);
        aim.setOnAction(_ -> model.aimFirst());
        BenchHead head = new BenchHead(told, measures, orders, aim);
        VBox side = new VBox(form);
        BorderPane picture = new BorderPane(chart);
        picture.setTop(head);
        setCenter(picture);
        setRight(new BenchSide(side, 344, this));
        model.dumbbellsProperty().subscribe(_ -> draw());
        model.subscribe(this::draw);
        chart.addEventHandler(KeyEvent.KEY_PRESSED, this::key);
        chart.addEventHandler(MouseEvent.MOUSE_PRESSED, e -> {
            chart.requestFocus();
            pressedX = e.getX();
        });
        chart.addEventHandler(MouseEvent.MOUSE_DRAGGED, e -> {
            move((pressedX - e.getX()) / step());
            pressedX = e.getX();
        });
        chart.addEventHandler(ScrollEvent.SCROLL, e -> {
            if (e.isShiftDown() || Math.abs(e.getDeltaX()) > Math.abs(e.getDeltaY()))
                move(-(e.getDeltaX() + e.getDeltaY()) / step());
            else
                zoom(e.getDeltaY() > 0 ? 1 / ZOOM : ZOOM, e.getX());
            e.consume();
        });
    }

    @Override public String id() { return "levels"; }

    @Override public String title() { return "Levels"; }

    @Override public Node node() { return this; }

    @Override public void focus() { chart.requestFocus(); }

    @Override public void shown(boolean isShown) { model.shownProperty().set(isShown); }

    @Override public List<Action> keys() {
        return List.of(Action.told("levels-target", "On the levels", "Target up, down", "↑ ↓"),
                Action.told("levels-next", "On the levels", "From sound to sound", "← →"),
                Action.told("levels-zoom", "On the levels", "Fewer sounds, larger; all of them", "+ −, Home"));
    }

    private void key(KeyEvent e) {
        double step = e.isShiftDown() ? 0.1 : 0.5;
        switch (e.getCode()) {
            case UP -> model.target().ifPresentOrElse(t -> model.aim(t + step, true), model::aimFirst);
            case DOWN -> model.target().ifPresentOrElse(t -> model.aim(t - step, true), model::aimFirst);
            case LEFT -> walk(-1);
            case RIGHT -> walk(1);
            case PLUS, EQUALS, ADD -> zoom(1 / ZOOM, xOfCurrent());
            case MINUS, SUBTRACT -> zoom(ZOOM, xOfCurrent());
            case HOME -> zoom(MOST_IN_VIEW, LEFT);
            default -> {
                return;
            }
        }
        e.consume();
    }

    private void walk(int by) {
        List<LevelsModel.Dumbbell> all = model.dumbbellsProperty().get();
        if (all.isEmpty()) return;
        int at = 0;
        while (at < all.size() && !isCurrent(all.get(at)))
            at++;
        int next = at == all.size() ? 0 : Math.clamp(at + by, 0, all.size() - 1);
        model.choose(all.get(next));
        if (next < first || next >= first + inView()) first = next - inView() / 2;
        draw();
    }

    private int size() { return model.dumbbellsProperty().get().size(); }

    /// How many sounds are in view.
    private double inView() { return Math.min(size(), Math.clamp(count, LEAST_IN_VIEW, MOST_IN_VIEW)); }

    /// Pixels for a sound.
    private double step() { return size() == 0 ? 1 : Math.min(64, (drawnWidth - LEFT - RIGHT) / inView()); }

    private double x(int sound) { return LEFT + (sound + 0.5 - first) * step(); }

    private double xOfCurrent() {
        List<LevelsModel.Dumbbell> all = model.dumbbellsProperty().get();
        for (int i = 0; i < all.size(); i++)
            if (isCurrent(all.get(i))) return x(i);
        return LEFT + (drawnWidth - LEFT - RIGHT) / 2;
    }

    /// @param factor of the number of sounds in view
    private void zoom(double factor, double x) {
        double sound = first + (x - LEFT) / step();
        count = Math.clamp(inView() * factor, LEAST_IN_VIEW, MOST_IN_VIEW);
        first = sound - (x - LEFT) / step();
        draw();
    }

    private void move(double sounds) {
        first += sounds;
        draw();
    }

    private boolean isCurrent(LevelsModel.Dumbbell d) { return model.current().stream().anyMatch(c -> c.source().path().equals(d.item().source().path())); }

    private double y(double level) { return TOP + (top - level) / (top - bottom) * (drawnHeight - TOP - BOTTOM); }

    private double level(double y) { return top - (y - TOP) / (drawnHeight - TOP - BOTTOM) * (top - bottom); }

    private void draw() {
        drawnWidth = chart.getWidth();
        drawnHeight = chart.getHeight();
        aim.setVisible(model.target().isEmpty());
        aim.setManaged(model.target().isEmpty());
        List<LevelsModel.Dumbbell> all = model.dumbbellsProperty().get();
        told.setText(all.isEmpty()
                ? "choose sounds of the list to see their levels"
                : String.format(Locale.ROOT, "%s%,d sounds · drag lines · wheel zooms",
                        model.isOfChosen() ? "the chosen " : model.isAllShown() ? "all " : "the first ",
                        all.size()));
        chart.setAccessibleText(spoken(all));
        if (drawnWidth < 200 || drawnHeight < 60) return;
        if (!dragging) range(all);
        List<Node> nodes = new ArrayList<>();
        grid(nodes);
        first = Math.clamp(first, 0, Math.max(0, all.size() - inView()));
        double step = step(), radius = Math.clamp(step * 0.3, 1.6, 4.5);
        int from = (int) first, to = Math.min(all.size(), (int) Math.ceil(first + inView()));
        if (model.treatment().together()) steps(all, from, to, nodes);
        for (int i = from; i < to; i++)
            nodes.add(dumbbell(all.get(i), x(i), step, radius));
        names(all, from, to, nodes);
        if (to - from < all.size()) {
            Text part = new Text(drawnWidth - RIGHT + 6, drawnHeight - 5, String.format(Locale.ROOT, "%,d of %,d", to - from, all.size()));
            part.getStyleClass().add("levels-figure");
            nodes.add(part);
        }
        Optional<Double> target = model.target(), ceiling = model.treatment().ceilingDbtp();
        // Words of lines that are near each other move apart.
        double apart = target.isPresent() && ceiling.isPresent() ? y(target.get()) - y(ceiling.get()) : LABEL_HEIGHT,
                push = Math.max(0, LABEL_HEIGHT - Math.abs(apart)) / 2 * (apart < 0 ? -1 : 1);
        target.ifPresent(t -> line(t, push, "target", String.format(Locale.ROOT, "target %.1f", t), v -> model.aim(v, true), nodes));
        ceiling.ifPresent(c -> line(c, -push, "ceiling", String.format(Locale.ROOT, "ceiling %.1f dBTP", c), model::holdAt, nodes));
        chart.getChildren().setAll(nodes);
    }

    private void range(List<LevelsModel.Dumbbell> all) {
        double highest = Math.max(model.treatment().ceilingDbtp().orElse(-6.0), model.target().orElse(-20.0)),
                lowest = Math.min(-30, model.target().orElse(-30.0) - 6);
        for (LevelsModel.Dumbbell d : all)
            for (OptionalDouble v : List.of(d.before(), d.after(), d.peakAfter()))
                if (v.isPresent()) {
                    highest = Math.max(highest, v.getAsDouble());
                    lowest = Math.min(lowest, Math.max(-70, v.getAsDouble()));
                }
        top = Math.ceil((highest + 1) / 3) * 3;
        bottom = Math.floor((lowest - 1) / 3) * 3;
    }

    private void grid(List<Node> nodes) {
        double step = top - bottom > 40 ? 12 : 6;
        for (double v = Math.floor(top / step) * step; v >= bottom; v -= step) {
            Line line = new Line(LEFT, y(v), drawnWidth - RIGHT, y(v));
            line.getStyleClass().add("levels-grid");
            Text text = new Text(8, y(v) + 4, String.format(Locale.ROOT, "%4.0f", v));
            text.getStyleClass().add("levels-figure");
            nodes.addAll(List.of(line, text));
        }
        Text unit = new Text(8, drawnHeight - 5, model.measureProperty().get().unit());
        unit.getStyleClass().add("levels-figure");
        nodes.add(unit);
    }

    /// Sounds of a folder that are levelled together are joined: their steps are what stays.
    private void steps(List<LevelsModel.Dumbbell> all, int from, int to, List<Node> nodes) {
        for (int i = from + 1; i < to; i++) {
            LevelsModel.Dumbbell a = all.get(i - 1), b = all.get(i);
            if (!a.item().source().folderName().equals(b.item().source().folderName()) || a.after().isEmpty() || b.after().isEmpty()) continue;
            Line line = new Line(x(i - 1), y(a.after().getAsDouble()), x(i), y(b.after().getAsDouble()));
            line.getStyleClass().add("levels-step");
            nodes.add(line);
        }
    }

    private Node dumbbell(LevelsModel.Dumbbell d, double x, double step, double radius) {
        Group group = new Group();
        group.getStyleClass().add("dumbbell");
        Rectangle area = new Rectangle(x - step / 2, TOP, step, drawnHeight - TOP - BOTTOM);
        area.getStyleClass().add("dumbbell-area");
        area.pseudoClassStateChanged(CURRENT, isCurrent(d));
        group.getChildren().add(area);
        if (d.before().isPresent() && d.after().isPresent()) {
            Line bar = new Line(x, y(d.before().getAsDouble()), x, y(d.after().getAsDouble()));
            bar.getStyleClass().add("dumbbell-bar");
            group.getChildren().add(bar);
        }
        if (d.before().isPresent()) {
            Circle before = new Circle(x, y(d.before().getAsDouble()), radius);
            before.getStyleClass().add("dumbbell-before");
            group.getChildren().add(before);
        }
        if (d.after().isPresent()) {
            Circle after = new Circle(x, y(d.after().getAsDouble()), radius);
            after.getStyleClass().add("dumbbell-after");
            after.pseudoClassStateChanged(OUTLIER, d.isOutlier());
            group.getChildren().add(after);
        }
        if (d.peakAfter().isPresent() && model.measureProperty().get() != LevelMeasure.TRUE_PEAK) {
            Line peak = new Line(x - radius, y(d.peakAfter().getAsDouble()), x + radius, y(d.peakAfter().getAsDouble()));
            peak.getStyleClass().add("dumbbell-peak");
            peak.pseudoClassStateChanged(OUTLIER, d.isHeld());
            group.getChildren().add(peak);
        }
        Tips.on(group, figures(d));
        group.setOnMouseClicked(e -> {
            if (!e.isStillSincePress()) return;
            model.choose(d);
            draw();
            play.run();
        });
        return group;
    }

    private String figures(LevelsModel.Dumbbell d) {
        String unit = model.measureProperty().get().unit();
        return d.item().source().relative() + "\n" + figure(d.before(), unit) + " → " + figure(d.after(), unit) + ", true peak after "
                + figure(d.peakAfter(), "dBTP")
                + (d.isHeld() ? "\nheld by the ceiling" : "");
    }

    private static String figure(OptionalDouble value, String unit) {
        return value.isPresent() ? String.format(Locale.ROOT, "%.1f %s", value.getAsDouble(), unit) : "not known";
    }

    /// The current sound first, then what is farthest from the middle of all, as far as there is room beside each other.
    private void names(List<LevelsModel.Dumbbell> all, int from, int to, List<Node> nodes) {
        boolean isRoomy = step() > 40;
        List<Integer> wanted = IntStream.range(from, to).filter(i -> isCurrent(all.get(i)) || all.get(i).isOutlier() || isRoomy).boxed()
                .sorted(Comparator.comparing((Integer i) -> !isCurrent(all.get(i))).thenComparing(i -> -all.get(i).fromMiddleDb())).toList();
        List<Text> placed = new ArrayList<>();
        for (int i : wanted) {
            Text text = name(all.get(i), x(i));
            double end = text.getX() + text.getText().length() * GLYPH + 8;
            if (placed.stream().allMatch(p -> end <= p.getX() || text.getX() >= p.getX() + p.getText().length() * GLYPH + 8)) placed.add(text);
        }
        nodes.addAll(placed);
    }

    private Text name(LevelsModel.Dumbbell d, double x) {
        String name = d.name().length() > 18 ? d.name().substring(0, 17) + "…" : d.name();
        double width = name.length() * GLYPH;
        Text text = new Text(Math.clamp(x - width / 2, LEFT, Math.max(LEFT, drawnWidth - RIGHT - width)), drawnHeight - 5, name);
        text.getStyleClass().add(isCurrent(d) ? "levels-name-current" : "levels-name");
        return text;
    }

    /// @param push by how much its words are moved down
    private void line(double at, double push, String style, String words, DoubleConsumer move, List<Node> nodes) {
        double y = y(at);
        Line line = new Line(LEFT, y, drawnWidth - RIGHT, y);
        line.getStyleClass().addAll("levels-line", "levels-" + style);
        Text text = new Text(drawnWidth - RIGHT + 6, y + 4 + push, words.replace(" dBTP", ""));
        text.getStyleClass().addAll("levels-line-text", "levels-" + style);
        Rectangle grip = new Rectangle(LEFT, y - 5, drawnWidth - LEFT, 10);
        grip.setId("levels-" + style + "-grip");
        grip.getStyleClass().add("levels-grip");
        grip.setCursor(Cursor.V_RESIZE);
        grip.setAccessibleText(words);
        grip.setOnMousePressed(e -> {
            dragging = true;
            e.consume();
        });
        grip.setOnMouseDragged(e -> {
            move.accept(level(chart.sceneToLocal(e.getSceneX(), e.getSceneY()).getY()));
            e.consume();
        });
        grip.setOnMouseReleased(e -> {
            dragging = false;
            draw();
            e.consume();
        });
        nodes.addAll(List.of(line, text, grip));
    }

    private String spoken(List<LevelsModel.Dumbbell> all) {
        Optional<LevelsModel.Dumbbell> current = all.stream().filter(this::isCurrent).findFirst();
        return "Levels of " + all.size() + " sounds by " + model.measureProperty().get().label() + current.map(d -> ", " + figures(d)).orElse("");
    }
}
