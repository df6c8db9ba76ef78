package ablecrate.desktop.bench;

import ablecrate.audio.Figures;
import java.util.Locale;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.scene.canvas.GraphicsContext;

/// Time along the top of a wave, at steps that leave room for the figures: seconds and frames by 1, 2 or 5, bars by doubling.
final class TimeRuler {
    static final double HEIGHT = 18;

    private final BooleanProperty inFrames = new SimpleBooleanProperty(), inBars = new SimpleBooleanProperty();
    private final TempoModel tempo;

    /// @param changed told when it has to be drawn anew
    TimeRuler(TempoModel tempo, Runnable changed) {
        this.tempo = tempo;
        tempo.tempoProperty().subscribe(_ -> changed.run());
        tempo.downbeatProperty().subscribe(_ -> changed.run());
        inFrames.subscribe(_ -> changed.run());
        inBars.subscribe(_ -> changed.run());
    }

    /// Whether it counts frames.
    BooleanProperty inFramesProperty() { return inFrames; }

    /// Whether it counts bars and beats of 4/4, where a tempo is known.
    BooleanProperty inBarsProperty() { return inBars; }

    void draw(GraphicsContext g, WaveScale scale, WavePaints paints, int rateHz, double width) {
        Optional<Double> tempo = inBars.get() ? this.tempo.tempoProperty().get() : Optional.empty();
        double unit = tempo.map(bpm -> 60.0 * rateHz / bpm).orElse(inFrames.get() ? 1.0 : rateHz), wanted = scale.framesPerPixel() / unit * 90;
        double step = tempo.isPresent() ? beats(wanted) : decimal(wanted);
        if (inFrames.get() && tempo.isEmpty()) step = Math.max(1, step);
        int digits = (int) Math.max(0, Math.ceil(-Math.log10(step)));
        // Bars before the first one count down.
        double zero = tempo.isPresent() ? this.tempo.downbeatProperty().get() * rateHz : 0;
        double first = Math.floor((Math.max(0, scale.frameAt(0)) - zero) / unit / step) * step;
        for (double t = first; scale.xOf(zero + t * unit) < width; t += step) {
            if (zero + t * unit < 0) continue;
            double x = Math.round(scale.xOf(zero + t * unit));
            g.setFill(paints.axis.get());
            g.fillRect(x, HEIGHT - 5, 1, 5);
            g.setFill(paints.text.get());
            g.fillText(tempo.isPresent()
                    ? barAndBeat(t)
                    : inFrames.get() ? Figures.grouped(Math.round(t)) : String.format(Locale.ROOT, "%." + digits + "f s", t), x + 4, HEIGHT - 6);
        }
        g.setFill(paints.axis.get());
        g.fillRect(0, HEIGHT, width, 1);
    }

    private static double decimal(double wanted) {
        double power = Math.pow(10, Math.floor(Math.log10(wanted)));
        return wanted / power < 2 ? 2 * power : wanted / power < 5 ? 5 * power : 10 * power;
    }

    /// From sixteenths on.
    private static double beats(double wanted) {
        double step = 0.25;
        while (step < wanted)
            step *= 2;
        return step;
    }

    /// `3.2` is the second beat of the third bar, `3.2.3` its third sixteenth.
    private static String barAndBeat(double beats) {
        int sixteenths = (int) Math.round(beats * 4);
        String beat = Math.floorDiv(sixteenths, 16) + 1 + "." + (Math.floorMod(Math.floorDiv(sixteenths, 4), 4) + 1);
        return sixteenths % 4 == 0 ? beat : beat + "." + (Math.floorMod(sixteenths, 4) + 1);
    }
}
