package ablecrate.desktop.fit;

import ablecrate.fit.Harm;
import ablecrate.instrument.NoteName;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Line;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Text;

/// How different each note sounds: a row of bars for each velocity, a bar for each key. A note is chosen by mouse or arrow keys, and heard.
final class NoteMap extends Pane {
    private static final double LEFT = 36, RIGHT = 4, AXIS = 18, ROW = 44, GAP = 6;
    private static final int OCTAVE = 12;
    /// What the highest bar is at least.
    private static final double LEAST_DB = 6;

    private final Consumer<Harm.Note> hear;
    private final Consumer<Harm.Note> chosen;
    private List<Harm.Note> notes = List.of();
    private List<Integer> velocities = List.of();
    private Optional<Harm.Note> current = Optional.empty();

    /// @param hear a note was asked for
    /// @param chosen a note was chosen
    NoteMap(Consumer<Harm.Note> hear, Consumer<Harm.Note> chosen) {
        this.hear = hear;
        this.chosen = chosen;
        setId("fit-notes");
        getStyleClass().add("fit-notes");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.SLIDER);
        setMinHeight(Region.USE_PREF_SIZE);
        addEventHandler(MouseEvent.MOUSE_PRESSED, this::press);
        addEventHandler(KeyEvent.KEY_PRESSED, this::key);
    }

    /// @param isAnew whether the note that differs most is chosen, also where the chosen one is still there
    void show(List<Harm.Note> others, boolean isAnew) {
        if (isAnew) current = Optional.empty();
        notes = others;
        velocities = others.stream().map(Harm.Note::velocity).distinct().sorted(Comparator.reverseOrder()).toList();
        setPrefHeight(velocities.size() * ROW + AXIS);
        choose(current.flatMap(c -> others.stream().filter(n -> n.key() == c.key() && n.velocity() == c.velocity()).findFirst())
                .or(() -> others.stream().max(Comparator.comparingDouble(Harm.Note::db))));
    }

    private void choose(Optional<Harm.Note> note) {
        current = note;
        note.ifPresent(chosen);
        setAccessibleText(note.map(NoteMap::told).orElse("no notes"));
        requestLayout();
    }

    void hearCurrent() { current.ifPresent(hear); }

    /// `F#4 at velocity 95: 13.2 dB different`
    static String told(Harm.Note note) {
        return NoteName.of(note.key()) + " at velocity " + note.velocity() + String.format(Locale.ROOT, ": %.1f dB different", note.db());
    }

    private int lowest() { return notes.stream().mapToInt(Harm.Note::key).min().orElse(0); }

    private int highest() { return notes.stream().mapToInt(Harm.Note::key).max().orElse(0); }

    private double step() { return (getWidth() - LEFT - RIGHT) / (highest() - lowest() + 1); }

    private double x(int key) { return LEFT + (key - lowest()) * step(); }

    @Override protected void layoutChildren() {
        getChildren().clear();
        if (notes.isEmpty() || getWidth() <= 0) return;
        double most = Math.max(LEAST_DB, notes.stream().mapToDouble(Harm.Note::db).max().orElse(0));
        for (int row = 0; row < velocities.size(); row++) {
            double floor = (row + 1) * ROW;
            getChildren().addAll(styled(new Line(LEFT, floor, getWidth() - RIGHT, floor), "levels-grid"),
                    styled(new Text(4, floor - 4, Integer.toString(velocities.get(row))), "levels-figure"));
            for (Harm.Note note : notes)
                if (note.velocity() == velocities.get(row)) getChildren().add(bar(note, floor, most));
        }
        int first = lowest();
        IntStream.rangeClosed(first, highest()).filter(key -> key == first || key % OCTAVE == 0 && key - first > 2)
                .forEach(key -> getChildren().add(styled(new Text(x(key), velocities.size() * ROW + 13, NoteName.of(key)), "levels-figure")));
    }

    private Rectangle bar(Harm.Note note, double floor, double most) {
        double height = Math.max(1, note.db() / most * (ROW - GAP)), width = Math.clamp(step() * 0.8, 2, 12);
        Rectangle bar = styled(new Rectangle(x(note.key()), floor - height, width, height), "fit-note");
        if (current.filter(note::equals).isPresent()) bar.getStyleClass().add("fit-note-chosen");
        return bar;
    }

    private static <T extends Node> T styled(T node, String style) {
        node.getStyleClass().add(style);
        return node;
    }

    private void press(MouseEvent e) {
        requestFocus();
        if (notes.isEmpty()) return;
        int row = Math.clamp((int) (e.getY() / ROW), 0, velocities.size() - 1);
        double key = lowest() + (e.getX() - LEFT) / step() - 0.5;
        choose(nearest(velocities.get(row), key));
        hearCurrent();
    }

    private Optional<Harm.Note> nearest(int velocity, double key) {
        return notes.stream().filter(n -> n.velocity() == velocity).min(Comparator.comparingDouble(n -> Math.abs(n.key() - key)));
    }

    private void key(KeyEvent e) {
        if (current.isEmpty()) return;
        Harm.Note from = current.get();
        int row = velocities.indexOf(from.velocity());
        switch (e.getCode()) {
            case LEFT -> choose(notes.stream().filter(n -> n.velocity() == from.velocity() && n.key() < from.key()).max(Comparator.comparingInt(Harm.Note::key))
                    .or(() -> current));
            case RIGHT -> choose(notes.stream().filter(n -> n.velocity() == from.velocity() && n.key() > from.key())
                    .min(Comparator.comparingInt(Harm.Note::key)).or(() -> current));
            case UP -> choose(nearest(velocities.get(Math.max(0, row - 1)), from.key()));
            case DOWN -> choose(nearest(velocities.get(Math.min(velocities.size() - 1, row + 1)), from.key()));
            case ENTER, SPACE -> hearCurrent();
            default -> {
                return;
            }
        }
        e.consume();
    }
}
