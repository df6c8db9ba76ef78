package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Ends;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.DoubleConsumer;
import java.util.function.ToDoubleFunction;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/// Below the wave: where the sound starts and ends, its fades and the mark, as numbers that can be typed.
final class WaveBar extends FlowPane {
    private final BenchModel model;
    private final BooleanProperty inFrames;
    private final DoubleProperty mark;
    private final TextField start, end, fadeIn, fadeOut, marked;

    /// @param inFrames whether positions are frames, and not seconds
    /// @param mark frame of the source; below 0 for none
    WaveBar(BenchModel model, WaveEdits edits, BooleanProperty inFrames, DoubleProperty mark) {
        super(8, 4);
        this.model = model;
        this.inFrames = inFrames;
        this.mark = mark;
        getStyleClass().add("wave-bar");
        setAlignment(Pos.CENTER_LEFT);
        setMinWidth(0);
        marked = field("mark", "Mark", "Where playing starts, and where S and E cut; a click sets it", this::position, mark::set);
        start = field("start", "Start", "The sound starts here (S takes the mark)", this::position, edits::cutStart);
        end = field("end", "End", "The sound ends here (E takes the mark)", this::position, edits::cutEnd);
        fadeIn = field("fade-in", "Fade in", "Length of the fade-in, in ms", WaveBar::milliseconds,
                ms -> part().ifPresent(p -> edits.fadeIn(p.start() + frames(ms))));
        fadeOut = field("fade-out", "Fade out", "Length of the fade-out, in ms", WaveBar::milliseconds,
                ms -> part().ifPresent(p -> edits.fadeOut(p.end() - frames(ms))));
        ToggleButton unit = new ToggleButton();
        unit.setId("wave-unit");
        unit.setMinWidth(Region.USE_PREF_SIZE);
        unit.selectedProperty().bindBidirectional(inFrames);
        unit.textProperty().bind(inFrames.map(f -> f ? "frames" : "seconds"));
        unit.setTooltip(new Tooltip("Positions in seconds or in frames"));
        getChildren().add(unit);
        model.itemProperty().subscribe(_ -> renew());
        mark.subscribe(_ -> renew());
        inFrames.subscribe(_ -> renew());
    }

    /// @param read of what was typed, in frames or ms; empty where it is none
    private TextField field(String id, String title, String tip, java.util.function.Function<String, OptionalDouble> read, DoubleConsumer set) {
        Label label = new Label(title);
        label.getStyleClass().add("fact-name");
        label.setMinWidth(Region.USE_PREF_SIZE);
        TextField field = new TextField();
        field.setId("wave-" + id);
        field.setAccessibleText(title);
        field.setPrefColumnCount(id.startsWith("fade") ? 3 : 5);
        field.setMinWidth(id.startsWith("fade") ? 40 : 62);
        field.setTooltip(new Tooltip(tip));
        field.setOnAction(_ -> {
            OptionalDouble value = file().isPresent() ? read.apply(field.getText().strip()) : OptionalDouble.empty();
            if (value.isPresent()) set.accept(value.getAsDouble());
            renew();
        });
        field.focusedProperty().subscribe((_, isFocused) -> {
            if (!isFocused) renew();
        });
        HBox both = new HBox(5, label, field);
        both.setAlignment(Pos.CENTER_LEFT);
        getChildren().add(both);
        return field;
    }

    private Optional<SoundFile> file() { return model.itemProperty().get().flatMap(i -> i.source().sound()); }

    private Optional<PlannedOutput> output() {
        return model.itemProperty().get().map(PackingItem::outputs).filter(o -> !o.isEmpty()).map(o -> o.getFirst());
    }

    private Optional<FrameRange> part() { return output().map(o -> o.sourceChain().part()); }

    private double frames(double ms) { return ms * file().map(SoundFile::rateHz).orElse(0) / 1000; }

    /// `44100` frames, `1.25` or `1:02.5` in seconds.
    private OptionalDouble position(String text) {
        try {
            if (inFrames.get()) return OptionalDouble.of(Long.parseLong(text.replace(",", "").replace(" ", "")));
            int colon = text.indexOf(':');
            double seconds = colon < 0
                    ? Double.parseDouble(text)
                    : 60 * Integer.parseInt(text.substring(0, colon)) + Double.parseDouble(text.substring(colon + 1));
            return seconds >= 0 && Double.isFinite(seconds)
                    ? OptionalDouble.of(Math.rint(seconds * file().map(SoundFile::rateHz).orElse(0)))
                    : OptionalDouble.empty();
        } catch (NumberFormatException e) {
            return OptionalDouble.empty();
        }
    }

    private static OptionalDouble milliseconds(String text) {
        try {
            double ms = Double.parseDouble(text);
            return ms >= 0 && Double.isFinite(ms) ? OptionalDouble.of(ms) : OptionalDouble.empty();
        } catch (NumberFormatException e) {
            return OptionalDouble.empty();
        }
    }

    private void renew() {
        Optional<PlannedOutput> output = output();
        tell(marked, mark.get() >= 0 && file().isPresent() ? position(mark.get()) : "");
        tell(start, part().map(p -> position(p.start())).orElse(""));
        tell(end, part().map(p -> position(p.end())).orElse(""));
        tell(fadeIn, fade(output, Ends::fadeInFrames));
        tell(fadeOut, fade(output, Ends::fadeOutFrames));
        marked.setDisable(file().isEmpty());
        for (TextField field : new TextField[]{start, end, fadeIn, fadeOut})
            field.setDisable(output.isEmpty());
    }

    /// What is being typed is not written over.
    private static void tell(TextField field, String text) {
        if (!field.isFocused() || !field.getText().equals(text)) field.setText(text);
    }

    private String position(double frame) {
        return inFrames.get() ? Long.toString((long) frame) : String.format(Locale.ROOT, "%.4f", frame / file().map(SoundFile::rateHz).orElse(1));
    }

    private static String fade(Optional<PlannedOutput> output, ToDoubleFunction<Ends> frames) {
        return output.map(o -> String.format(Locale.ROOT, "%.0f", frames.applyAsDouble(o.outputChain().ends()) * 1000 / o.shape().rateHz())).orElse("");
    }
}
