package ablecrate.desktop.session;

import ablecrate.session.SessionDocument;
import ablecrate.desktop.list.Sketches;
import ablecrate.session.TempoMap;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.DoubleConsumer;
import javafx.geometry.BoundingBox;
import javafx.geometry.Bounds;
import javafx.scene.AccessibleRole;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Text;

/// Bars above, a row for each track, clips with their waves. As wide as it is given room, times a zoom. Only what is in view is drawn, so that sessions of very
/// many clips stay quick.
final class TimeLine extends Pane {
    static final double ROW = 46, RULER = 32;
    private static final double EDGE = 6, LEAST_BAR = 44, MIDDLE = 0.68, SWING = 0.29, LEAST_CLIP = 3, LEAST_NAMED = 12;

    private final Sketches sketches;
    private final Line head = new Line();
    /// By the file's path, as it comes.
    private final Map<String, float[]> waves = new HashMap<>();
    private Optional<SessionModel.Shown> shown = Optional.empty();
    private Bounds view = new BoundingBox(0, 0, 0, 0);

    /// @param play from a frame of the time line
    TimeLine(Sketches sketches, DoubleConsumer play) {
        this.sketches = sketches;
        setId("time-line");
        getStyleClass().add("time-line");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.NODE);
        head.getStyleClass().add("time-line-head");
        head.setManaged(false);
        head.setVisible(false);
        setOnMouseClicked(e -> {
            requestFocus();
            shown.ifPresent(s -> play.accept(Math.max(0, (e.getX() - EDGE) / perFrame(s))));
        });
    }

    void show(Optional<SessionModel.Shown> now) {
        shown = now;
        setMinHeight(RULER + now.map(s -> s.lanes().size()).orElse(0) * ROW);
        setPrefHeight(getMinHeight());
        setAccessibleText(now.map(s -> s.lanes().size() + " tracks").orElse("no tracks"));
        requestLayout();
    }

    /// @param now what of it can be seen, in its own coordinates
    void look(Bounds now) {
        if (now.equals(view)) return;
        view = now;
        requestLayout();
    }

    /// @param frame below 0 for none
    void showHead(double frame) {
        head.setVisible(frame >= 0 && shown.isPresent());
        shown.ifPresent(s -> {
            head.setStartX(EDGE + frame * perFrame(s));
            head.setEndX(head.getStartX());
            head.setEndY(getHeight());
        });
    }

    private double perFrame(SessionModel.Shown s) { return (getWidth() - 2 * EDGE) / Math.max(1, s.endFrame()); }

    @Override protected void layoutChildren() {
        getChildren().clear();
        shown.ifPresent(this::draw);
        getChildren().add(head);
        super.layoutChildren();
    }

    private void draw(SessionModel.Shown s) {
        double perFrame = perFrame(s);
        ruler(s, perFrame);
        s.document().markers().forEach(m -> marker(m, perFrame));
        for (int lane = 0; lane < s.lanes().size(); lane++) {
            double top = RULER + lane * ROW;
            if (top > view.getMaxY() || top + ROW < view.getMinY()) continue;
            add(new Line(0, top + ROW - 0.5, getWidth(), top + ROW - 0.5), "time-line-rule");
            // Whatever their order: what cannot play is not hidden by what can.
            BitSet played = new BitSet(), silent = new BitSet();
            for (SessionModel.Box box : s.lanes().get(lane).boxes()) {
                double x = EDGE + box.start() * perFrame, width = Math.max(LEAST_CLIP, box.length() * perFrame);
                if (x > view.getMaxX() || x + width < view.getMinX()) continue;
                // Clips that are narrower than a pen are one where they lie on each other.
                int column = (int) Math.max(0, (x - view.getMinX()) / LEAST_CLIP);
                BitSet drawn = box.isSilent() ? silent : played;
                if (width <= LEAST_CLIP && drawn.get(column)) continue;
                drawn.set(column);
                box(box, s.lanes().get(lane).isNew(), x, top + 3, width, ROW - 7);
            }
        }
    }

    /// A line a bar; where bars are narrow, a number every second, fourth… one.
    private void ruler(SessionModel.Shown s, double perFrame) {
        TempoMap bars = s.bars();
        double last = bars.bar(s.endFrame());
        int every = 1;
        while (bars.frame(1 + every) * perFrame < LEAST_BAR && every < 1 << 16)
            every *= 2;
        for (int bar = 1; bar <= last; bar += every) {
            double x = EDGE + bars.frame(bar) * perFrame;
            if (x > view.getMaxX() || x < view.getMinX() - LEAST_BAR) continue;
            add(new Line(x, bar % 4 == 1 || every > 1 ? 4 : 12, x, getHeight()), "time-line-bar");
            Text number = add(new Text(Integer.toString(bar)), "time-line-number");
            number.relocate(x + 4, 3);
        }
    }

    /// A line through all tracks, with its name below the bar's number.
    private void marker(SessionDocument.Marker marker, double perFrame) {
        double x = EDGE + marker.frame() * perFrame;
        add(new Line(x, RULER / 2, x, getHeight()), "time-line-marker");
        Text name = add(new Text(marker.name()), "time-line-marker-name");
        name.relocate(x + 4, RULER / 2 - 1);
    }

    private void box(SessionModel.Box box, boolean isNew, double x, double y, double width, double height) {
        Rectangle frame = add(new Rectangle(x, y, width, height), "time-line-clip");
        if (isNew) frame.getStyleClass().add("new");
        if (box.isSilent()) frame.getStyleClass().add("silent");
        if (width < LEAST_NAMED) return;
        box.sound().ifPresent(sound -> {
            float[] wave = waves.get(sound.path().toString());
            if (wave == null)
                sketches.request(sound, made -> {
                    waves.put(sound.path().toString(), made);
                    requestLayout();
                });
            else
                wave(wave, box, x, y, width, height);
        });
        String name = box.file().substring(box.file().lastIndexOf('/') + 1);
        Text text = add(new Text(box.isSilent() ? (box.sound().isEmpty() ? "offline: " : "cannot play: ") + name : isNew ? "new: " + name : name),
                "time-line-name");
        if (box.isSilent()) text.getStyleClass().add("silent");
        text.relocate(x + 5, y + 1);
        Rectangle clip = new Rectangle(x - text.getLayoutX(), -20, Math.max(0, width - 4), 60);
        text.setClip(clip);
    }

    private void wave(float[] wave, SessionModel.Box box, double x, double y, double width, double height) {
        Polygon shape = add(new Polygon(), "time-line-wave");
        int columns = wave.length / 2, first = (int) (box.from() * columns), last = Math.clamp((int) Math.ceil(box.to() * columns), first + 1, columns);
        for (int c = first; c < last; c++)
            shape.getPoints().addAll(x + width * (c + 0.5 - first) / (last - first), y + height * (MIDDLE - SWING * wave[2 * c + 1]));
        for (int c = last - 1; c >= first; c--)
            shape.getPoints().addAll(x + width * (c + 0.5 - first) / (last - first), y + height * (MIDDLE - SWING * wave[2 * c]));
    }

    private <T extends javafx.scene.Node> T add(T node, String style) {
        node.getStyleClass().add(style);
        node.setManaged(false);
        node.setMouseTransparent(true);
        getChildren().add(node);
        return node;
    }
}
