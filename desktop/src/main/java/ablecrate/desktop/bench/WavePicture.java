package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.dsp.FaultFinder;
import ablecrate.dsp.PeakPyramid;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;
import javafx.scene.canvas.GraphicsContext;

/// One picture of a wave and of what lies on it.
/// @param width in pixels
/// @param top,bottom of the wave
record WavePicture(GraphicsContext g, WaveScale scale, WavePaints paints, double width, double top, double bottom) {
    /// Pixels of the overview, and of a handle.
    static final double OVERVIEW = 20, HANDLE = 8;
    private static final double GLYPH_WIDTH = 6.4, DB_WIDTH = SpectrumPainter.SCALE_WIDTH;
    private static final int[] LEVELS_DB = {-3, -6, -12, -24};

    /// @param samples of what is seen, where it is seen from near
    /// @param rise how many times higher than full scale it is drawn
    void wave(PeakPyramid pyramid, Optional<BenchModel.Samples> samples, double rise) {
        int channels = pyramid.channels();
        double lane = (bottom - top) / channels;
        for (int channel = 0; channel < channels; channel++) {
            double middle = top + lane * (channel + 0.5), half = lane * 0.46;
            levels(middle, half, rise);
            g.setFill(paints.axis.get());
            g.fillRect(0, Math.round(middle), width, 0.6);
            g.setFill(paints.wave.get());
            if (samples.isPresent() && scale.framesPerPixel() < 1)
                points(samples.get(), channel, middle, half, rise);
            else
                for (int x = 0; x < width; x++) {
                    FrameRange column = scale.column(x);
                    if (column.length() == 0) continue;
                    PeakPyramid.Peaks peaks = samples.isPresent() ? peaks(samples.get(), channel, column) : pyramid.peaks(channel, column);
                    double high = middle - Math.clamp(peaks.high() * rise, -1, 1) * half,
                            low = middle - Math.clamp(peaks.low() * rise, -1, 1) * half;
                    g.fillRect(x, high, 1, Math.max(1, low - high));
                }
        }
    }

    /// Levels at the right edge, as many as have room.
    private void levels(double middle, double half, double rise) {
        double last = Double.NEGATIVE_INFINITY;
        for (int db : LEVELS_DB) {
            double shown = db - 20 * Math.log10(rise), y = Math.pow(10, db / 20.0) * half;
            if (y < 9 || Math.abs(y - last) < 12) continue;
            last = y;
            g.setFill(paints.axis.get());
            g.fillRect(width - DB_WIDTH - 5, Math.round(middle - y), 4, 0.8);
            g.fillRect(width - DB_WIDTH - 5, Math.round(middle + y), 4, 0.8);
            g.setFill(paints.text.get());
            g.fillText(String.format(Locale.ROOT, "%.0f", shown), width - DB_WIDTH + 2, Math.round(middle - y) + 4);
        }
    }

    /// Closer than one frame a pixel: the samples themselves, joined by lines.
    private void points(BenchModel.Samples samples, int channel, double middle, double half, double rise) {
        g.setStroke(paints.wave.get());
        g.beginPath();
        boolean isFirst = true;
        for (long n = samples.range().start(); n < samples.range().end(); n++) {
            double x = scale.xOf(n);
            if (x < -20 || x > width + 20) continue;
            double y = middle - Math.clamp(samples.planes()[channel][(int) (n - samples.range().start())] * rise, -1, 1) * half;
            if (isFirst)
                g.moveTo(x, y);
            else
                g.lineTo(x, y);
            isFirst = false;
            if (scale.framesPerPixel() < 0.25) g.fillOval(x - 2, y - 2, 4, 4);
        }
        g.stroke();
    }

    private static PeakPyramid.Peaks peaks(BenchModel.Samples samples, int channel, FrameRange column) {
        float low = Float.POSITIVE_INFINITY, high = Float.NEGATIVE_INFINITY;
        for (long n = column.start(); n < column.end(); n++) {
            float value = (float) samples.planes()[channel][(int) (n - samples.range().start())];
            low = Math.min(low, value);
            high = Math.max(high, value);
        }
        return new PeakPyramid.Peaks(low, high);
    }

    /// All of the sound along the bottom, with a frame around what is seen above.
    void overview(PeakPyramid pyramid, long frames, double height) {
        double top = height - OVERVIEW, middle = top + OVERVIEW / 2, half = OVERVIEW / 2 - 1;
        WaveScale whole = WaveScale.whole(frames, width);
        g.setFill(paints.axis.get());
        g.fillRect(0, top - 2, width, 0.6);
        g.setFill(paints.wave.get());
        for (int x = 0; x < width; x++) {
            FrameRange column = whole.column(x);
            if (column.length() == 0) continue;
            PeakPyramid.Peaks peaks = pyramid.peaks(0, column);
            double high = middle - Math.clamp(peaks.high(), -1, 1) * half, low = middle - Math.clamp(peaks.low(), -1, 1) * half;
            g.fillRect(x, high, 1, Math.max(1, low - high));
        }
        double from = whole.xOf(scale.frameAt(0)), to = whole.xOf(scale.frameAt(width));
        g.setFill(paints.loop.get());
        g.fillRect(from, top, Math.max(2, to - from), OVERVIEW);
        g.setStroke(paints.loopEdge.get());
        g.setLineWidth(1.2);
        g.strokeRect(from + 0.5, top + 0.5, Math.max(2, to - from) - 1, OVERVIEW - 1);
    }

    /// @param names of the two
    void sides(String names) {
        double lane = (bottom - top) / 2;
        g.setFill(paints.text.get());
        for (int i = 0; i < 2; i++)
            g.fillText(names.substring(i, i + 1), 4, top + lane * (i + 0.04) + 10);
    }

    void loop(Loop l) {
        double from = Math.max(-2, scale.xOf(l.frames().start())), to = Math.min(width + 2, scale.xOf(l.frames().end()));
        if (to < 0 || from > width) return;
        g.setFill(paints.loop.get());
        g.fillRect(from, top, to - from, bottom - top);
        g.setFill(paints.loopEdge.get());
        g.fillRect(Math.round(from), top, 1, bottom - top);
        g.fillRect(Math.round(to) - 1, top, 1, bottom - top);
        if (to - from > 70) g.fillText("loop, " + l.mode().label() + (l.use() == Loop.Use.RELEASE ? ", after release" : ""), Math.max(from, 0) + 6, bottom - 5);
    }

    /// What the right side has for its own loop, where that is not the left one's: a bracket along the bottom of its lane.
    void rightLoop(Loop l) {
        double from = Math.max(-2, scale.xOf(l.frames().start())), to = Math.min(width + 2, scale.xOf(l.frames().end())), y = bottom - 18;
        if (to < 0 || from > width) return;
        g.setFill(paints.loopEdge.get());
        g.fillRect(from, y, to - from, 1.5);
        g.fillRect(Math.round(from), y - 8, 1.5, 8);
        g.fillRect(Math.round(to) - 1.5, y - 8, 1.5, 8);
        // Below the wave, and beside the words of a loop that starts at the same place.
        if (to - from > 200) g.fillText("loop of the right side", Math.max(from, 0) + 100, bottom - 5);
    }

    /// A cue whose name would run into the next one shows its flag only.
    void cues(List<Cue> cues) {
        for (int i = 0; i < cues.size(); i++) {
            double x = scale.xOf(cues.get(i).frame()), next = i + 1 < cues.size() ? scale.xOf(cues.get(i + 1).frame()) : width;
            if (x < -100 || x > width) continue;
            g.setFill(paints.cue.get());
            g.fillRect(Math.round(x), top, 1, bottom - top);
            g.fillPolygon(new double[]{x, x + 7, x}, new double[]{top, top + 4, top + 8}, 3);
            String label = cues.get(i).label().orElse("");
            if (next - x > 14 + label.length() * GLYPH_WIDTH) g.fillText(label, x + 10, top + 11);
        }
    }

    /// Damage: a line where it is, a wedge at the bottom, and what it is where there is room.
    void faults(List<FaultFinder.Fault> faults) {
        for (int i = 0; i < faults.size(); i++) {
            double x = scale.xOf(faults.get(i).frames().start()), end = Math.max(x + 1.5, scale.xOf(faults.get(i).frames().end())),
                    next = i + 1 < faults.size() ? scale.xOf(faults.get(i + 1).frames().start()) : width;
            if (end < 0 || x > width) continue;
            g.setFill(paints.fault.get());
            g.fillRect(x, top, end - x, bottom - top);
            g.fillPolygon(new double[]{x - 5, x + 5, x}, new double[]{bottom, bottom, bottom - 9}, 3);
            String label = faults.get(i).kind().label();
            if (next - x > 9 * label.length()) g.fillText(label, x + 8, bottom - 4);
        }
    }

    /// What is cut off lies behind a veil; fades are lines from silence to full height, with a handle where they end.
    /// @param used what goes, in order and without overlap
    void ends(FrameRange part, List<FrameRange> used, Optional<WaveFades> fades) {
        veil(used);
        double start = scale.xOf(part.start()), end = scale.xOf(part.end());
        g.setFill(paints.handle.get());
        for (double x : new double[]{start, end}) {
            g.fillRect(Math.round(x) - 0.5, top, 1, bottom - top);
            g.fillRect(x == start ? x : x - HANDLE, bottom - HANDLE, HANDLE, HANDLE);
        }
        fades.ifPresent(this::fades);
    }

    private void veil(List<FrameRange> used) {
        g.setFill(paints.veil.get());
        double from = 0;
        for (FrameRange frames : used) {
            double to = Math.min(width, scale.xOf(frames.start()));
            if (to > from) g.fillRect(from, top, to - from, bottom - top);
            from = Math.max(0, scale.xOf(frames.end()));
        }
        if (from < width) g.fillRect(from, top, width - from, bottom - top);
    }

    private void fades(WaveFades fades) {
        double in = scale.xOf(fades.inEnd()), out = scale.xOf(fades.outStart());
        g.setStroke(paints.handle.get());
        g.setLineWidth(1.2);
        if (in > scale.xOf(fades.part().start())) fade(scale.xOf(fades.part().start()), in, fades.ends().fadeInShape()::fadeIn);
        if (out < scale.xOf(fades.part().end())) fade(out, scale.xOf(fades.part().end()), fades.ends().fadeOutShape()::fadeOut);
        g.fillPolygon(new double[]{in, in + HANDLE, in}, new double[]{top, top, top + HANDLE}, 3);
        g.fillPolygon(new double[]{out, out - HANDLE, out}, new double[]{top, top, top + HANDLE}, 3);
    }

    private void fade(double from, double to, DoubleUnaryOperator gain) {
        g.beginPath();
        for (int i = 0; i <= 24; i++) {
            double x = from + (to - from) * i / 24, y = bottom - gain.applyAsDouble(i / 24.0) * (bottom - top);
            if (i == 0)
                g.moveTo(x, y);
            else
                g.lineTo(x, y);
        }
        g.stroke();
    }

    /// The mark stands still: dashes, with a flag at the top.
    void mark(double frame) {
        double x = Math.round(scale.xOf(frame));
        if (frame < 0 || x < 0 || x > width) return;
        g.setFill(paints.cursor.get());
        for (double y = top; y < bottom; y += 7)
            g.fillRect(x - 0.5, y, 1, 4);
        g.fillPolygon(new double[]{x - 5, x + 5, x}, new double[]{top - 7, top - 7, top}, 3);
    }

    /// The line below the wave.
    void ground() {
        g.setFill(paints.axis.get());
        g.fillRect(0, bottom, width, 1);
    }

    void reading() {
        g.setFill(paints.text.get());
        g.fillText("reading the wave …", 10, (top + bottom) / 2);
    }

    /// What plays.
    void cursor(double frame) {
        double x = scale.xOf(frame);
        if (frame < 0 || x < 0 || x > width) return;
        g.setFill(paints.cursor.get());
        g.fillRect(Math.round(x) - 0.75, top - 4, 1.5, bottom - top + 4);
    }
}
