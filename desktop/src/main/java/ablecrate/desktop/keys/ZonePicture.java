package ablecrate.desktop.keys;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import javafx.css.PseudoClass;
import javafx.geometry.Bounds;
import javafx.scene.Group;
import javafx.scene.Node;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Text;

/// The keyboard, and zones over it: shapes that are kept and moved, as thousands of new ones would be slow to style.
final class ZonePicture {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen"), DOWN = PseudoClass.getPseudoClass("down"),
            ASIDE = PseudoClass.getPseudoClass("aside");
    private static final double NAME_WIDTH = 46, NAME_HEIGHT = 15;
    private static final int SHORTEST_NAME = 5;

    private final KeysModel model;
    private final Group ground = new Group(), zoneLayer = new Group(), over = new Group(), inView = new Group(zoneLayer, over);
    private final Rectangle seen = new Rectangle();
    private final Map<Integer, Rectangle> areas = new HashMap<>(), keyShapes = new HashMap<>();
    /// Of the keyboard as it stands; none at first.
    private KeyScale scale;
    private int onlyGroup = -1;

    ZonePicture(KeysModel model) {
        this.model = model;
        inView.setClip(seen);
    }

    List<Node> nodes() { return List.of(ground, inView); }

    /// The model's zones.
    /// @param group that is open alone, below 0 for all
    void draw(KeyScale next, int group) {
        onlyGroup = group;
        seen.setX(KeyScale.LEFT);
        seen.setWidth(Math.max(0, next.width() - KeyScale.LEFT));
        seen.setHeight(Math.max(0, next.height() - KeyScale.KEYBOARD + 2));
        if (!next.equals(scale)) {
            scale = next;
            ground.getChildren().clear();
            keyShapes.clear();
            grid();
            keyboard();
        }
        over.getChildren().clear();
        zones(model.zones());
        mark();
    }

    private double x(double key) { return scale.x(key); }

    private double y(double velocity) { return scale.y(velocity); }

    private boolean isOpen(int zone) { return onlyGroup < 0 || model.groupOf(zone) == onlyGroup; }

    /// The shape of a zone.
    Rectangle area(int zone) { return areas.get(zone); }

    /// The zones that a frame touches, of those that are open.
    Set<Integer> touched(Bounds frame) {
        Set<Integer> touched = new TreeSet<>();
        areas.forEach((zone, area) -> {
            if (isOpen(zone) && area.intersects(frame)) touched.add(zone);
        });
        return touched;
    }

    private void grid() {
        for (int velocity : new int[]{1, 32, 64, 96, 127}) {
            if (velocity < scale.lowVelocity() || velocity > scale.highVelocity()) continue;
            Line line = new Line(KeyScale.LEFT, y(velocity), scale.width() - KeyScale.RIGHT, y(velocity));
            line.getStyleClass().add("chart-rule");
            Text text = text(Integer.toString(velocity), 4, y(velocity) + 4, "axis-text");
            ground.getChildren().addAll(line, text);
        }
    }

    private void keyboard() {
        double top = scale.height() - KeyScale.KEYBOARD + 4, height = KeyScale.KEYBOARD - 20;
        for (int key = scale.lowestKey(); key <= scale.highestKey(); key++) {
            boolean isBlack = NoteName.of(key).contains("#");
            Rectangle r = new Rectangle(x(key) + 0.5, top, Math.max(1, x(key + 1) - x(key) - 1), height);
            r.getStyleClass().add(isBlack ? "key-black" : "key-white");
            keyShapes.put(key, r);
            ground.getChildren().add(r);
            if (key % 12 == 0) ground.getChildren().add(text(NoteName.of(key), x(key), scale.height() - 4, "axis-text"));
        }
    }

    private void zones(List<Zone> zones) {
        // Zones on one and the same area lie like cards on each other.
        Map<List<Span>, Integer> stacked = new HashMap<>(), total = new HashMap<>();
        zones.forEach(z -> total.merge(List.of(z.get(Parameter.KEYS), z.get(Parameter.VELOCITIES)), 1, Integer::sum));
        List<Node> inOrder = new ArrayList<>();
        areas.keySet().removeIf(z -> z >= zones.size());
        for (int i : largestFirst(zones)) {
            Zone zone = zones.get(i);
            Span keys = zone.get(Parameter.KEYS), velocities = zone.get(Parameter.VELOCITIES);
            int depth = stacked.merge(List.of(keys, velocities), 1, Integer::sum) - 1, cards = total.get(List.of(keys, velocities));
            double left = x(keys.low()), top = y(velocities.high() + 0.5), width = x(keys.high() + 1) - left, height = y(velocities.low() - 0.5) - top;
            double inset = Math.min(depth * 3, Math.min(width, height) / 3);
            boolean isAfter = zone.get(Parameter.TRIGGER) == Trigger.RELEASE, isAside = onlyGroup >= 0 && model.groupOf(i) != onlyGroup;
            Rectangle area = areas.computeIfAbsent(i, _ -> new Rectangle());
            area.setX(left + inset + 0.5);
            area.setY(top + inset + 0.5);
            area.setWidth(Math.max(1.5, width - inset - 1));
            area.setHeight(Math.max(1.5, height - inset - 1));
            List<String> styles = isAfter ? List.of("zone", "zone-" + model.groupOf(i) % 4, "zone-release") : List.of("zone", "zone-" + model.groupOf(i) % 4);
            if (!area.getStyleClass().equals(styles)) area.getStyleClass().setAll(styles);
            area.pseudoClassStateChanged(ASIDE, isAside);
            inOrder.add(area);
            if (isAside || isAfter && onlyGroup < 0) continue;
            fades(zone, left, top, width, height);
            int root = zone.get(Parameter.ROOT_KEY);
            // On a single key the root is no news.
            if (keys.size() > 1 && keys.contains(root)) {
                double middle = (x(root) + x(root + 1)) / 2, foot = top + height - 2;
                Polygon mark = new Polygon(middle - 4, foot, middle + 4, foot, middle, foot - 6);
                mark.getStyleClass().add("zone-root");
                mark.setMouseTransparent(true);
                over.getChildren().add(mark);
            }
            if (model.keepsRoot(zone) && keys.contains(root)) kept((x(root) + x(root + 1)) / 2, top + height - 14);
            if (model.keepsLayer(zone)) kept(left + 9, top + 11);
            if (depth == cards - 1 && width > NAME_WIDTH && height > NAME_HEIGHT)
                over.getChildren().add(label(zone, cards, left + inset + 4, top + height / 2 + 4, width - inset - 8));
        }
        if (!zoneLayer.getChildren().equals(inOrder)) zoneLayer.getChildren().setAll(inOrder);
    }

    /// How a zone fades in or out over keys or velocities, from silence at its edge to its whole level.
    private void fades(Zone zone, double left, double top, double width, double height) {
        double right = left + width, bottom = top + height;
        zone.get(Parameter.KEY_FADE_IN).ifPresent(f -> fade(x(f.low()), bottom, x(f.high() + 1), top));
        zone.get(Parameter.KEY_FADE_OUT).ifPresent(f -> fade(x(f.low()), top, x(f.high() + 1), bottom));
        zone.get(Parameter.VELOCITY_FADE_IN).ifPresent(f -> fade(left, y(f.low() - 0.5), right, y(f.high() + 0.5)));
        zone.get(Parameter.VELOCITY_FADE_OUT).ifPresent(f -> fade(left, y(f.high() + 0.5), right, y(f.low() - 0.5)));
    }

    private void fade(double fromX, double fromY, double toX, double toY) {
        Line line = new Line(fromX, fromY, toX, toY);
        line.getStyleClass().add("zone-fade");
        line.setMouseTransparent(true);
        over.getChildren().add(line);
    }

    /// A ring: what has to stay where the instrument is made to fit.
    private void kept(double x, double y) {
        Circle ring = new Circle(x, y, 4);
        ring.getStyleClass().add("zone-kept");
        ring.setMouseTransparent(true);
        over.getChildren().add(ring);
    }

    /// So that small areas lie over large ones; what sounds after the key is let go, below all.
    private static List<Integer> largestFirst(List<Zone> zones) {
        List<Integer> order = new ArrayList<>();
        for (int i = 0; i < zones.size(); i++)
            order.add(i);
        order.sort(Comparator.comparingInt(i -> zones.get(i).get(Parameter.TRIGGER) == Trigger.RELEASE
                ? Integer.MIN_VALUE
                : -zones.get(i).get(Parameter.KEYS).size() * zones.get(i).get(Parameter.VELOCITIES).size()));
        return order;
    }

    private Text label(Zone zone, int cards, double x, double y, double width) {
        String marks = (zone.get(Parameter.LOOPS).isEmpty() ? "" : " ⟲")
                + (zone.get(Parameter.TURN).length() > 1 ? " " + zone.get(Parameter.TURN).length() + " in turn" : cards > 1 ? " ×" + cards : "");
        String name = model.sampleName(zone).replaceFirst("\\.[A-Za-z0-9]{2,4}$", "");
        int all = (int) (width / 6.2), room = Math.max(0, all - marks.length());
        // Where there is no room for both the name is told.
        if (room < SHORTEST_NAME) {
            marks = "";
            room = Math.max(0, all);
        }
        return text((name.length() > room ? name.substring(0, Math.max(0, room - 1)) + (room > 1 ? "…" : "") : name) + marks, x, y, "zone-name");
    }

    /// What the destination makes of it, where that is another thing.
    /// @return whether it is
    boolean outline(Instrument planned) {
        int before = over.getChildren().size();
        Set<List<Span>> mine = new HashSet<>(), outlined = new HashSet<>();
        model.zones().forEach(z -> mine.add(List.of(z.get(Parameter.KEYS), z.get(Parameter.VELOCITIES))));
        for (Zone zone : planned.zones()) {
            Span keys = zone.get(Parameter.KEYS), velocities = zone.get(Parameter.VELOCITIES);
            if (mine.contains(List.of(keys, velocities)) || !outlined.add(List.of(keys, velocities))) continue;
            Rectangle r = new Rectangle(x(keys.low()) + 1, y(velocities.high() + 0.5) + 1, Math.max(2, x(keys.high() + 1) - x(keys.low()) - 2),
                    Math.max(2, y(velocities.low() - 0.5) - y(velocities.high() + 0.5) - 2));
            r.getStyleClass().add("zone-planned");
            r.setMouseTransparent(true);
            over.getChildren().add(r);
        }
        return over.getChildren().size() > before;
    }

    /// The chosen ones are marked, and seen whole.
    void mark() {
        areas.forEach((z, area) -> area.pseudoClassStateChanged(CHOSEN, model.chosen().contains(z)));
        model.chosen().stream().filter(areas::containsKey).forEach(z -> areas.get(z).toFront());
    }

    void light(Set<Integer> keys) { keyShapes.forEach((key, shape) -> shape.pseudoClassStateChanged(DOWN, keys.contains(key))); }

    /// The topmost zone there; of several on each other, the next after the one that is chosen.
    int zoneAt(double x, double y) {
        List<Integer> there = new ArrayList<>();
        for (int i = 0; i < model.zones().size(); i++)
            if (areas.containsKey(i) && areas.get(i).contains(x, y) && isOpen(i)) there.add(i);
        if (there.isEmpty()) return -1;
        there.sort(Comparator.reverseOrder());
        int current = model.chosen().isEmpty() ? -1 : there.indexOf(model.chosen().first());
        return there.get(Math.max(0, current));
    }

    private static Text text(String text, double x, double y, String style) {
        Text t = new Text(x, y, text);
        t.getStyleClass().add(style);
        t.setMouseTransparent(true);
        return t;
    }
}
