package ablecrate.desktop.keys;

import ablecrate.desktop.Tips;
import ablecrate.desktop.bench.BenchHead;
import ablecrate.desktop.bench.BenchSide;
import ablecrate.desktop.action.Action;
import ablecrate.desktop.bench.Bench;
import ablecrate.desktop.hearing.LetterKeys;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.plan.PackingItem;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Rectangle;

/// The keys face of the bench: the keyboard along the bottom, velocity upwards, zones as areas; over them, outlined, what the destination makes of them.
public final class KeyBenchView extends BorderPane implements Bench {
    private static final double GRIP = 5, ZOOM = 0.8;
    private static final int USUAL_VELOCITY = 96;

    private final KeysModel model;
    private final KeysHearing hearing;
    private static final double LONGEST_TITLE = 260;

    private final Pane chart = new Pane() {
        @Override protected void layoutChildren() {
            if (isStale || getWidth() != drawnWidth || getHeight() != drawnHeight) draw();
            super.layoutChildren();
        }
    };
    private final Rectangle clip = new Rectangle();
    private final ComboBox<String> instruments = new ComboBox<>();
    private final ToggleButton typing = new ToggleButton("Play notes with letters");
    private final Label title = new Label(), hint = new Label();
    private final ZoneForm form;
    private final ZonePicture picture;
    private double drawnWidth, drawnHeight;
    private int keyDown = -1, onlyGroup = -1;
    private KeyScale scale = KeyScale.of(1, 1, 21, 108);
    /// Whether somebody has zoomed.
    private boolean isViewed;
    private boolean filling, isStale = true, hasMoved;
    /// What the zones were drawn of; a choice alone changes colours only.
    private List<Zone> drawn = List.of();
    private Optional<Instrument> drawnPlan = Optional.empty();
    private List<Boolean> drawnKept = List.of();
    private int drawnGroup = -1;
    private final Rectangle frame = new Rectangle();
    private double frameX, frameY;
    private Set<Integer> before = Set.of();

    public KeyBenchView(KeysModel model, KeysHearing hearing) {
        this.model = model;
        this.hearing = hearing;
        picture = new ZonePicture(model);
        form = new ZoneForm(model, this::showGroup);
        getStyleClass().add("keys-bench");
        setId("keys");
        chart.getStyleClass().add("keys-chart");
        chart.setFocusTraversable(true);
        chart.setAccessibleRole(AccessibleRole.NODE);
        chart.setAccessibleText("Zones on keys and velocities");
        chart.setMinSize(0, 0);
        chart.setClip(clip);
        instruments.setId("keys-instrument");
        instruments.setAccessibleText("Instrument of the bank");
        instruments.setItems(model.names());
        instruments.valueProperty().subscribe(_ -> {
            if (!filling) model.showInstrument(instruments.getSelectionModel().getSelectedIndex());
        });
        typing.setId("keys-typing");
        Tips.on(typing, "Letters play notes instead of commands while the key bench has the focus (K)");
        typing.setMinWidth(Region.USE_PREF_SIZE);
        title.getStyleClass().add("bench-name");
        title.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
        title.setMaxWidth(LONGEST_TITLE);
        BenchHead head = new BenchHead(hint, title, instruments, typing);
        BorderPane charted = new BorderPane(chart);
        charted.setTop(head);
        setCenter(charted);
        setRight(new BenchSide(form, 344, this));
        model.versionProperty().subscribe(_ -> renew());
        frame.getStyleClass().add("zone-frame");
        frame.setMouseTransparent(true);
        frame.setVisible(false);
        chart.addEventHandler(ScrollEvent.SCROLL, this::scroll);
        chart.setOnMousePressed(this::press);
        chart.setOnMouseDragged(this::drag);
        chart.setOnMouseReleased(_ -> release());
        chart.setOnMouseMoved(this::hover);
        chart.setOnDragOver(e -> {
            if (!e.getDragboard().hasFiles() || model.zones().isEmpty()) return;
            e.acceptTransferModes(TransferMode.COPY);
            picture.light(Set.of(keyAt(e.getX())));
            e.consume();
        });
        chart.setOnDragExited(_ -> picture.light(hearing.heardProperty().get()));
        chart.setOnDragDropped(e -> {
            if (!e.getDragboard().hasFiles() || model.zones().isEmpty()) return;
            dropped(e.getDragboard().getFiles().stream().map(File::toPath).toList(), e.getX(), e.getY());
            e.setDropCompleted(true);
            e.consume();
        });
        chart.addEventHandler(KeyEvent.KEY_PRESSED, this::key);
        chart.addEventHandler(KeyEvent.KEY_RELEASED, e -> {
            if (typing.isSelected()) LetterKeys.note(e.getCode()).ifPresent(hearing::off);
        });
        hearing.heardProperty().subscribe(picture::light);
        ContextMenu menu = new ContextMenu(item("Split", "X", model::split), item("Merge", "M", model::merge), item("Take out", "O", model::takeOut),
                item("Keep the root when fitting, or not", "F", model::keepRoots),
                item("Keep the layer when fitting, or not", "Shift+F", model::keepLayers),
                item("Choose all", "", () -> model.chooseAll(IntStream.range(0, model.zones().size()).boxed().toList())),
                item("Show all keys", "Home", this::viewAll),
                item("Zones as the source has them", "", model::asTheSource));
        menu.setOnShowing(_ -> menu.getItems().subList(0, 5).forEach(i -> i.setDisable(model.chosen().isEmpty())));
        chart.setOnContextMenuRequested(e -> {
            if (!model.zones().isEmpty()) menu.show(chart, e.getScreenX(), e.getScreenY());
        });
    }

    private static MenuItem item(String text, String key, Runnable run) {
        MenuItem item = new MenuItem(key.isEmpty() ? text : text + "   " + key);
        item.setOnAction(_ -> run.run());
        return item;
    }

    /// What a drop on the chart brings; the event itself is the toolkit's business.
    public void dropped(List<Path> sounds, double x, double y) {
        model.putSounds(sounds, keyAt(x), isKeyboard(y) ? USUAL_VELOCITY : velocityAt(y));
        chart.requestFocus();
    }

    @Override public String id() { return "keys"; }

    @Override public String title() { return "Keys"; }

    @Override public Node node() { return this; }

    @Override public void focus() { chart.requestFocus(); }

    @Override public Optional<Predicate<PackingItem>> lines() { return Optional.of(PackingItem::isInstruments); }

    @Override public void shown(boolean isShown) { hearing.shown(isShown); }

    @Override public List<Action> keys() {
        return List.of(Action.told("zone-next", "On the keys", "From zone to zone", "← → ↑ ↓"),
                Action.told("zone-move", "On the keys", "Move the chosen zones", "Ctrl+← → ↑ ↓"),
                Action.told("zone-upper", "On the keys", "Stretch the upper edge", "Shift+← → ↑ ↓"),
                Action.told("zone-lower", "On the keys", "Stretch the lower edge", "Alt+← → ↑ ↓"),
                Action.told("zone-root", "On the keys", "Root key down, up", "[ ]"),
                Action.told("zone-zoom", "On the keys", "Zoom in keys; in velocities; show all", "+ −, Alt, Home"),
                Action.told("zone-split", "On the keys", "Split, merge, take out", "X M O"),
                Action.told("zone-keep", "On the keys", "Keep roots when fitting; keep layers", "F Shift+F"),
                Action.told("zone-play", "On the keys", "Play the chosen zone; play notes with letters", "P K"));
    }

    @Override public boolean takes(KeyCode code) {
        return typing.isSelected() && chart.isFocused() && (code.isLetterKey() || code.isDigitKey());
    }

    public void toggleTyping() {
        typing.setSelected(!typing.isSelected());
        chart.requestFocus();
    }

    private void showGroup(int group) {
        onlyGroup = group;
        renew();
    }

    private void renew() {
        filling = true;
        chart.setAccessibleText("Zones on keys and velocities: " + (model.zones().isEmpty() ? "none" : model.title() + ", " + model.zones().size() + " zones"));
        instruments.getSelectionModel().select(model.indexProperty().get());
        title.setText(model.title());
        title.setManaged(!model.title().isEmpty());
        instruments.setVisible(model.names().size() > 1);
        instruments.setManaged(model.names().size() > 1);
        filling = false;
        // Several changes of one moment are drawn once.
        isStale = true;
        chart.requestLayout();
    }

    private int keyAt(double x) { return scale.keyAt(x); }

    private int velocityAt(double y) { return scale.velocityAt(y); }

    /// Nearer to keys, or to velocities; what is under the pointer stays.
    private void zoom(double factor, boolean isVelocities, double x, double y) {
        view(isVelocities ? scale.velocitiesZoomed(factor, y) : scale.keysZoomed(factor, x));
    }

    private void view(KeyScale next) {
        scale = next;
        isViewed = true;
        drawn = List.of();
        isStale = true;
        chart.requestLayout();
    }

    /// All zones again.
    private void viewAll() {
        isViewed = false;
        drawn = List.of();
        isStale = true;
        chart.requestLayout();
    }

    private void scroll(ScrollEvent e) {
        if (e.isShiftDown() || Math.abs(e.getDeltaX()) > Math.abs(e.getDeltaY()))
            view(scale.moved(-Math.signum(e.getDeltaX() + e.getDeltaY()) * 2));
        else
            zoom(e.getDeltaY() > 0 ? ZOOM : 1 / ZOOM, e.isShortcutDown(), e.getX(), e.getY());
        e.consume();
    }

    private void draw() {
        isStale = false;
        form.renew();
        List<Zone> zones = model.zones();
        Optional<Instrument> planned = model.planned();
        boolean isSamePlace = chart.getWidth() == drawnWidth && chart.getHeight() == drawnHeight;
        if (isSamePlace && !zones.isEmpty() && zones.equals(drawn) && planned.equals(drawnPlan) && onlyGroup == drawnGroup && kept().equals(drawnKept)) {
            picture.mark();
            return;
        }
        drawnWidth = chart.getWidth();
        drawnHeight = chart.getHeight();
        clip.setWidth(drawnWidth);
        clip.setHeight(drawnHeight);
        drawn = zones;
        drawnKept = kept();
        drawnPlan = planned;
        drawnGroup = onlyGroup;
        chart.getChildren().clear();
        if (drawnWidth < 120 || drawnHeight < 90) return;
        if (zones.isEmpty()) {
            hint.setText("");
            Label none = new Label(
                    "Choose an instrument of the list, or make one: pick SFZ or a bank as the container, and folders of sounds become instruments.");
            none.getStyleClass().add("placeholder");
            none.setWrapText(true);
            none.setMaxWidth(drawnWidth - 40);
            none.relocate(20, 20);
            chart.getChildren().add(none);
            return;
        }
        chart.getChildren().addAll(picture.nodes());
        chart.getChildren().add(frame);
        int from = zones.stream().mapToInt(z -> z.get(Parameter.KEYS).low()).min().orElse(36),
                to = zones.stream().mapToInt(z -> z.get(Parameter.KEYS).high()).max().orElse(84);
        // At least three octaves, so that two pads are not as wide as the bench.
        // What is under the mouse stays there while something is dragged.
        if (grip == Grip.NONE && !isViewed) {
            int low = Math.max(0, Math.min(from - 1, (from + to) / 2 - 18));
            scale = KeyScale.of(drawnWidth, drawnHeight, low, Math.min(127, Math.max(to + 1, low + 36)));
        }
        scale = scale.sized(drawnWidth, drawnHeight);
        picture.draw(scale, onlyGroup);
        boolean isOther = planned.isPresent() && picture.outline(planned.get());
        hint.setText(isOther ? "dashed: as the destination will have it" : "click plays · drag moves · wheel zooms");
        picture.light(hearing.heardProperty().get());
    }

    private List<Boolean> kept() { return model.zones().stream().flatMap(z -> Stream.of(model.keepsRoot(z), model.keepsLayer(z))).toList(); }

    private boolean isKeyboard(double y) { return scale.isKeyboard(y); }

    private enum Grip { NONE, FRAME, MOVE, LOW_KEY, HIGH_KEY, LOW_VELOCITY, HIGH_VELOCITY }

    private Grip grip = Grip.NONE;
    private int grabbedKey, grabbedVelocity;

    private Grip gripAt(int zone, double x, double y) {
        Rectangle r = picture.area(zone);
        if (x - r.getX() < GRIP) return Grip.LOW_KEY;
        if (r.getX() + r.getWidth() - x < GRIP) return Grip.HIGH_KEY;
        if (y - r.getY() < GRIP) return Grip.HIGH_VELOCITY;
        return r.getY() + r.getHeight() - y < GRIP ? Grip.LOW_VELOCITY : Grip.MOVE;
    }

    private void press(MouseEvent e) {
        chart.requestFocus();
        if (e.getButton() == MouseButton.SECONDARY) {
            int under = picture.zoneAt(e.getX(), e.getY());
            if (under >= 0 && !model.chosen().contains(under)) model.choose(under, false);
            return;
        }
        if (model.zones().isEmpty()) return;
        int key = keyAt(e.getX());
        if (isKeyboard(e.getY())) {
            // The nearer to the front of the key, the harder, as under a finger.
            double share = Math.clamp((e.getY() - (drawnHeight - KeyScale.KEYBOARD)) / (KeyScale.KEYBOARD - 16), 0.05, 1);
            strike(key, (int) Math.max(1, Math.round(127 * share)));
            return;
        }
        int zone = picture.zoneAt(e.getX(), e.getY());
        if (zone < 0) {
            boolean adds = e.isShiftDown() || e.isShortcutDown();
            if (!adds) model.choose(-1, false);
            before = Set.copyOf(model.chosen());
            grip = Grip.FRAME;
            frameX = e.getX();
            frameY = e.getY();
            return;
        }
        if (e.isShiftDown() || e.isShortcutDown())
            model.choose(zone, true);
        else
            if (!model.chosen().contains(zone)) model.choose(zone, false);
        grip = gripAt(zone, e.getX(), e.getY());
        grabbedKey = key;
        grabbedVelocity = velocityAt(e.getY());
        if (grip == Grip.MOVE && !e.isShiftDown()) strike(key, grabbedVelocity);
    }

    private void strike(int key, int velocity) {
        keyDown = key;
        hearing.on(key, velocity);
    }

    private void drag(MouseEvent e) {
        int key = keyAt(e.getX()), velocity = velocityAt(e.getY());
        if (grip == Grip.FRAME) {
            frameTo(e.getX(), e.getY());
            return;
        }
        if (grip == Grip.NONE) {
            if (keyDown >= 0 && key != keyDown && isKeyboard(e.getY())) {
                hearing.off(keyDown);
                strike(key, USUAL_VELOCITY);
            }
            return;
        }
        int keys = key - grabbedKey, velocities = velocity - grabbedVelocity;
        if (keys == 0 && velocities == 0 || model.chosen().isEmpty()) return;
        Zone before = firstChosen();
        switch (grip) {
            case LOW_KEY -> model.stretch(Edge.LOW_KEY, keys, e.isAltDown(), true);
            case HIGH_KEY -> model.stretch(Edge.HIGH_KEY, keys, e.isAltDown(), true);
            case LOW_VELOCITY -> model.stretch(Edge.LOW_VELOCITY, velocities, e.isAltDown(), true);
            case HIGH_VELOCITY -> model.stretch(Edge.HIGH_VELOCITY, velocities, e.isAltDown(), true);
            default -> {
                // A hand that slips a little while it plays a zone moves nothing up or down.
                if (Math.abs(velocities) < 6 && keys == 0) return;
                model.move(keys, Math.abs(velocities) < 6 ? 0 : velocities, true);
            }
        }
        // Where zones can go no farther they stay, and are taken up again where they were left.
        Zone now = firstChosen();
        grabbedKey += heldKey(now) - heldKey(before);
        grabbedVelocity += heldVelocity(now) - heldVelocity(before);
        hasMoved |= !now.equals(before);
    }

    /// Chooses what a frame touches, beside what was chosen before.
    private void frameTo(double x, double y) {
        frame.setX(Math.min(x, frameX));
        frame.setY(Math.min(y, frameY));
        frame.setWidth(Math.abs(x - frameX));
        frame.setHeight(Math.abs(y - frameY));
        frame.setVisible(true);
        Set<Integer> touched = new TreeSet<>(before);
        touched.addAll(picture.touched(frame.getBoundsInLocal()));
        model.chooseAll(List.copyOf(touched));
    }

    private Zone firstChosen() { return model.zones().get(model.chosen().first()); }

    private int heldKey(Zone zone) {
        Span keys = zone.get(Parameter.KEYS);
        return grip == Grip.HIGH_KEY ? keys.high() : keys.low();
    }

    private int heldVelocity(Zone zone) {
        Span velocities = zone.get(Parameter.VELOCITIES);
        return grip == Grip.HIGH_VELOCITY ? velocities.high() : velocities.low();
    }

    private void release() {
        frame.setVisible(false);
        grip = Grip.NONE;
        if (hasMoved) {
            // The keys shown are those of the zones again.
            drawn = List.of();
            draw();
        }
        hasMoved = false;
        if (keyDown >= 0) hearing.off(keyDown);
        keyDown = -1;
    }

    private void hover(MouseEvent e) {
        int zone = isKeyboard(e.getY()) ? -1 : picture.zoneAt(e.getX(), e.getY());
        chart.setCursor(zone < 0 ? Cursor.DEFAULT : switch (gripAt(zone, e.getX(), e.getY())) {
            case LOW_KEY, HIGH_KEY -> Cursor.H_RESIZE;
            case LOW_VELOCITY, HIGH_VELOCITY -> Cursor.V_RESIZE;
            default -> Cursor.HAND;
        });
    }

    private void key(KeyEvent e) {
        OptionalInt note = LetterKeys.note(e.getCode());
        if (typing.isSelected() && note.isPresent() && !e.isShortcutDown() && !e.isAltDown()) {
            hearing.on(note.getAsInt(), USUAL_VELOCITY);
            e.consume();
            return;
        }
        int across = e.getCode() == KeyCode.RIGHT ? 1 : e.getCode() == KeyCode.LEFT ? -1 : 0,
                up = e.getCode() == KeyCode.UP ? 1 : e.getCode() == KeyCode.DOWN ? -1 : 0;
        if (across != 0 || up != 0) {
            if (e.isShortcutDown())
                model.move(across, up, true);
            else
                if (e.isShiftDown())
                    model.stretch(across != 0 ? Edge.HIGH_KEY : Edge.HIGH_VELOCITY, across + up, false, true);
                else
                    if (e.isAltDown())
                        model.stretch(across != 0 ? Edge.LOW_KEY : Edge.LOW_VELOCITY, across + up, false, true);
                    else
                        model.walk(across, up);
            e.consume();
            return;
        }
        switch (e.getCode()) {
            case P -> model.chosen().stream().findFirst().map(model.zones()::get).ifPresent(z -> hearing.tap(
                    z.get(Parameter.KEYS).contains(z.get(Parameter.ROOT_KEY)) ? z.get(Parameter.ROOT_KEY) : z.get(Parameter.KEYS).low(),
                    (z.get(Parameter.VELOCITIES).low() + z.get(Parameter.VELOCITIES).high() + 1) / 2));
            case X -> model.split();
            case M -> model.merge();
            case O -> model.takeOut();
            case F -> {
                if (e.isShiftDown())
                    model.keepLayers();
                else
                    model.keepRoots();
            }
            case K -> toggleTyping();
            case PLUS, EQUALS, ADD -> zoom(ZOOM, e.isAltDown(), drawnWidth / 2, drawnHeight / 2);
            case MINUS, SUBTRACT -> zoom(1 / ZOOM, e.isAltDown(), drawnWidth / 2, drawnHeight / 2);
            case HOME -> viewAll();
            case OPEN_BRACKET -> model.set(z -> z.with(Parameter.ROOT_KEY, Math.max(0, z.get(Parameter.ROOT_KEY) - 1)), "root keys");
            case CLOSE_BRACKET -> model.set(z -> z.with(Parameter.ROOT_KEY, Math.min(127, z.get(Parameter.ROOT_KEY) + 1)), "root keys");
            default -> {
                return;
            }
        }
        e.consume();
    }
}
