package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Typed;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Ends;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.ToDoubleFunction;
import javafx.beans.property.DoubleProperty;
import javafx.scene.Node;

/// Below the wave: where the sound starts and ends, its fades and the mark, as numbers that can be typed.
final class WaveBar {
    private final BenchModel model;
    private final WaveEdits edits;
    private final Positions positions;
    private final DoubleProperty mark;
    private final BarField start, end, fadeIn, fadeOut, marked;

    /// @param mark frame of the source; below 0 for none
    WaveBar(BenchModel model, WaveEdits edits, Positions positions, DoubleProperty mark) {
        this.model = model;
        this.edits = edits;
        this.positions = positions;
        this.mark = mark;
        marked = new BarField("wave-mark", "Mark", "Where playing starts, and where S and E cut; a click sets it", 5, positions::read, mark::set, this::renew);
        start = new BarField("wave-start", "Start", "The sound starts here (S takes the mark)", 5, positions::read, edits::cutStart, this::renew);
        end = new BarField("wave-end", "End", "The sound ends here (E takes the mark)", 5, positions::read, edits::cutEnd, this::renew);
        fadeIn = new BarField("wave-fade-in", "Fade in", "Length of the fade-in, in ms", 3, WaveBar::milliseconds,
                ms -> part().ifPresent(p -> edits.fadeIn(p.start() + frames(ms))), this::renew);
        fadeOut = new BarField("wave-fade-out", "Fade out", "Length of the fade-out, in ms", 3, WaveBar::milliseconds,
                ms -> part().ifPresent(p -> edits.fadeOut(p.end() - frames(ms))), this::renew);
        model.itemProperty().subscribe(_ -> renew());
        mark.subscribe(_ -> renew());
        positions.inFramesProperty().subscribe(_ -> renew());
    }

    List<Node> nodes() { return List.of(marked, start, end, fadeIn, fadeOut); }

    private Optional<SoundFile> file() { return model.itemProperty().get().flatMap(i -> i.source().clip()); }

    private Optional<PlannedOutput> output() { return model.itemProperty().get().flatMap(PackingItem::output); }

    private Optional<FrameRange> part() { return edits.part(); }

    private double frames(double ms) { return ms * file().map(SoundFile::rateHz).orElse(0) / 1000; }

    private static OptionalDouble milliseconds(String text) {
        try {
            double ms = Double.parseDouble(Typed.number(text));
            return ms >= 0 && Double.isFinite(ms) ? OptionalDouble.of(ms) : OptionalDouble.empty();
        } catch (NumberFormatException e) {
            return OptionalDouble.empty();
        }
    }

    private void renew() {
        Optional<PlannedOutput> output = output();
        marked.show(mark.get() >= 0 && file().isPresent() ? positions.text(mark.get()) : "");
        start.show(part().map(p -> positions.text(p.start())).orElse(""));
        end.show(part().map(p -> positions.text(p.end())).orElse(""));
        fadeIn.show(fade(output, Ends::fadeInFrames));
        fadeOut.show(fade(output, Ends::fadeOutFrames));
        marked.setDisable(file().isEmpty());
        for (Node node : List.of(start, end))
            node.setDisable(part().isEmpty());
        for (Node node : List.of(fadeIn, fadeOut))
            node.setDisable(output.isEmpty() || part().isEmpty());
    }

    private static String fade(Optional<PlannedOutput> output, ToDoubleFunction<Ends> frames) {
        return output.map(o -> String.format(Locale.ROOT, "%.0f", frames.applyAsDouble(o.outputChain().ends()) * 1000 / o.shape().rateHz())).orElse("");
    }
}
