package ablecrate.desktop.bench;

import ablecrate.audio.Figures;
import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.dsp.FaultFinder;
import ablecrate.dsp.PeakPyramid;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.library.Gathered;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.OutputChain;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.css.CssMetaData;
import javafx.css.SimpleStyleableObjectProperty;
import javafx.css.Styleable;
import javafx.css.StyleableObjectProperty;
import javafx.css.StyleablePropertyFactory;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.paint.Paint;
import javafx.scene.text.Font;

/// The wave of one sound: loops as bands, cues as flags, what plays and a mark; zoom by wheel or + and −, an overview to move in; a click sets the mark, two play
/// from there.
///
/// The canvas has the size of the view; one column of lowest and highest sample a pixel, so the cost does not follow the length.
public final class WaveView extends Region {
    private static final StyleablePropertyFactory<WaveView> FACTORY = new StyleablePropertyFactory<>(Region.getClassCssMetaData());
    private static final CssMetaData<WaveView, Paint> WAVE = FACTORY.createPaintCssMetaData("-wave-fill", v -> v.wave, Color.BLACK, false),
            AXIS = FACTORY.createPaintCssMetaData("-axis-fill", v -> v.axis, Color.GRAY, false),
            LOOP = FACTORY.createPaintCssMetaData("-loop-fill", v -> v.loop, Color.LIGHTBLUE, false),
            LOOP_EDGE = FACTORY.createPaintCssMetaData("-loop-edge", v -> v.loopEdge, Color.BLUE, false),
            CUE = FACTORY.createPaintCssMetaData("-cue-fill", v -> v.cue, Color.BROWN, false),
            FAULT = FACTORY.createPaintCssMetaData("-fault-fill", v -> v.fault, Color.RED, false),
            CURSOR = FACTORY.createPaintCssMetaData("-cursor-fill", v -> v.cursorPaint, Color.BLUE, false),
            VEIL = FACTORY.createPaintCssMetaData("-veil-fill", v -> v.veil, Color.GRAY, false),
            HANDLES = FACTORY.createPaintCssMetaData("-handle-fill", v -> v.handle, Color.BLUE, false),
            TEXT = FACTORY.createPaintCssMetaData("-text-fill", v -> v.text, Color.BLACK, false);
    private static final double RULER = 18, STEP_PIXELS = 60, GLYPH_WIDTH = 6.4, HANDLE = 8, OVERVIEW = 20, HIGHEST = 64,
            DB_WIDTH = SpectrumPainter.SCALE_WIDTH, LOOP_GRIP = 4, CUT_GRIP = 4;
    private static final int[] LEVELS_DB = {-3, -6, -12, -24};
    static final Font SMALL = Font.font("IBM Plex Mono", 10.5);

    private final StyleableObjectProperty<Paint> wave = new SimpleStyleableObjectProperty<>(WAVE, Color.BLACK),
            axis = new SimpleStyleableObjectProperty<>(AXIS, Color.GRAY),
            loop = new SimpleStyleableObjectProperty<>(LOOP, Color.LIGHTBLUE), loopEdge = new SimpleStyleableObjectProperty<>(LOOP_EDGE, Color.BLUE),
            cue = new SimpleStyleableObjectProperty<>(CUE, Color.BROWN), fault = new SimpleStyleableObjectProperty<>(FAULT, Color.RED),
            cursorPaint = new SimpleStyleableObjectProperty<>(CURSOR, Color.BLUE),
            veil = new SimpleStyleableObjectProperty<>(VEIL, Color.GRAY), handle = new SimpleStyleableObjectProperty<>(HANDLES, Color.BLUE),
            text = new SimpleStyleableObjectProperty<>(TEXT, Color.BLACK);
    private final SharpCanvas canvas = new SharpCanvas();
    private final BenchModel model;
    private final TempoModel tempo;
    private final DoubleProperty cursor = new SimpleDoubleProperty(-1), mark = new SimpleDoubleProperty(-1);
    private final BooleanProperty inFrames = new SimpleBooleanProperty(), asSpectrum = new SimpleBooleanProperty(), inBars = new SimpleBooleanProperty();
    private final SpectrumPainter spectrum;
    private final PieceStrip pieces = new PieceStrip();
    private final Consumer<FrameRange> playPart;
    /// How many times higher than full scale the wave is drawn.
    private double height = 1;
    private WaveScale scale = WaveScale.whole(1, 1);
    private Optional<SoundFile> file = Optional.empty();
    private Optional<SoundFile.Id> shown = Optional.empty();
    private double pressedX;

    /// What is being dragged.
    private enum Grip { NONE, PIECE, CUT, START, END, FADE_IN, FADE_OUT, LOOP_START, LOOP_END, OVERVIEW }

    private final WaveEdits edits;
    private final LoopEdits loops;
    private Optional<PlannedOutput> output = Optional.empty();
    private Grip grip = Grip.NONE;
    private int loopAtGrip;
    private long cutAtGrip;

    /// @param playFrom told of the frame that was clicked twice
    /// @param playPart told of the piece that was clicked
    public WaveView(BenchModel model, LongConsumer playFrom, Consumer<FrameRange> playPart, WaveEdits edits, LoopEdits loops,
            TempoModel tempo,
            Background background) {
        this.model = model;
        this.tempo = tempo;
        tempo.tempoProperty().subscribe(_ -> requestLayout());
        tempo.downbeatProperty().subscribe(_ -> requestLayout());
        this.playPart = playPart;
        this.edits = edits;
        this.loops = loops;
        spectrum = new SpectrumPainter(new SpectrogramModel(model, background), this::requestLayout);
        setId("wave");
        getStyleClass().add("wave-view");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.NODE);
        getChildren().add(canvas);
        model.itemProperty().subscribe(this::show);
        model.pyramidProperty().subscribe(_ -> requestLayout());
        model.samplesProperty().subscribe(_ -> requestLayout());
        loops.subscribe(this::requestLayout);
        cursor.subscribe(_ -> requestLayout());
        mark.subscribe(_ -> requestLayout());
        inFrames.subscribe(_ -> requestLayout());
        asSpectrum.subscribe(_ -> requestLayout());
        inBars.subscribe(_ -> requestLayout());
        for (StyleableObjectProperty<Paint> paint : List.of(wave, axis, loop, loopEdge, cue, fault, cursorPaint, text, veil, handle))
            paint.subscribe(_ -> requestLayout());
        addEventHandler(ScrollEvent.SCROLL, this::scroll);
        addEventHandler(KeyEvent.KEY_PRESSED, this::key);
        addEventHandler(MouseEvent.MOUSE_MOVED, e -> setCursor(switch (gripAt(e.getX(), e.getY())) {
            case NONE -> Cursor.DEFAULT;
            case OVERVIEW, PIECE -> Cursor.HAND;
            default -> Cursor.H_RESIZE;
        }));
        addEventHandler(MouseEvent.MOUSE_PRESSED, e -> {
            requestFocus();
            pressedX = e.getX();
            grip = gripAt(e.getX(), e.getY());
            if (grip == Grip.OVERVIEW) centre(e.getX());
            // What the pointer only passes is not chosen.
            if (grip == Grip.LOOP_START || grip == Grip.LOOP_END) loops.chosenProperty().set(loopAtGrip);
        });
        addEventHandler(MouseEvent.MOUSE_DRAGGED, e -> {
            double frame = Math.max(0, scale.frameAt(e.getX()));
            switch (grip) {
                case NONE -> {
                    move(pressedX - e.getX());
                    pressedX = e.getX();
                }
                case START -> edits.cutStart(frame);
                case END -> edits.cutEnd(frame);
                case FADE_IN -> edits.fadeIn(frame);
                case FADE_OUT -> edits.fadeOut(frame);
                case LOOP_START -> loops.moveStart(frame);
                case LOOP_END -> loops.moveEnd(frame);
                case OVERVIEW -> centre(e.getX());
                case CUT -> cutAtGrip = edits.moveCut(cutAtGrip, frame);
                case PIECE -> {}
            }
        });
        addEventHandler(MouseEvent.MOUSE_RELEASED, e -> {
            if (!e.isStillSincePress() && (grip == Grip.LOOP_START || grip == Grip.LOOP_END)) loops.settle(grip == Grip.LOOP_START);
        });
        addEventHandler(MouseEvent.MOUSE_CLICKED, e -> {
            if (e.isStillSincePress() && grip == Grip.PIECE) pieces.at(e.getX(), scale).ifPresent(this::hear);
            if (e.isStillSincePress() && grip == Grip.NONE)
                file.ifPresent(f -> {
                    mark.set(Math.clamp((long) scale.frameAt(e.getX()), 0, f.frames()));
                    if (e.getClickCount() == 2) playFrom.accept((long) mark.get());
                });
        });
    }

    /// Handles of the fades lie along the top of the wave, those of start and end along its bottom.
    private Grip gripAt(double x, double y) {
        if (isZoomed() && y >= getHeight() - OVERVIEW) return Grip.OVERVIEW;
        Optional<FrameRange> part = edits.part();
        if (part.isEmpty()) return Grip.NONE;
        double bottom = bottom(getHeight());
        if (output.isPresent() && y >= RULER && y <= RULER + HANDLE + 4) {
            if (Math.abs(x - fadeInX()) <= HANDLE) return Grip.FADE_IN;
            if (Math.abs(x - fadeOutX()) <= HANDLE) return Grip.FADE_OUT;
        }
        if (y >= bottom - HANDLE - 4) {
            if (Math.abs(x - scale.xOf(part.get().start())) <= HANDLE) return Grip.START;
            if (Math.abs(x - scale.xOf(part.get().end())) <= HANDLE) return Grip.END;
        }
        if (y >= bottom && y < bottom + PieceStrip.HEIGHT && !pieces.isEmpty()) {
            Optional<Gathered.Piece> edge = edits.areCut() ? pieces.edgeAt(x, scale, CUT_GRIP) : Optional.empty();
            edge.ifPresent(p -> cutAtGrip = p.place());
            return edge.isPresent() ? Grip.CUT : Grip.PIECE;
        }
        return loopGripAt(x, y, bottom);
    }

    /// The ends of loops in all of the wave's height; the nearest of them, and that of the loop that is edited before others.
    private Grip loopGripAt(double x, double y, double bottom) {
        if (y < RULER || y > bottom) return Grip.NONE;
        List<Loop> all = loops.loops();
        for (int i = 0; i < all.size(); i++) {
            int loop = (loops.chosenProperty().get() + i) % all.size();
            FrameRange frames = all.get(loop).frames();
            double toStart = Math.abs(x - scale.xOf(frames.start())), toEnd = Math.abs(x - scale.xOf(frames.end()));
            if (Math.min(toStart, toEnd) > LOOP_GRIP) continue;
            loopAtGrip = loop;
            return toEnd <= toStart ? Grip.LOOP_END : Grip.LOOP_START;
        }
        return Grip.NONE;
    }

    /// Frames of the source for frames of the result.
    private double sourceFrames(long resultFrames) {
        return (double) resultFrames * output.orElseThrow().sourceChain().inputStep() / output.orElseThrow().sourceChain().outputStep();
    }

    private double fadeInX() {
        return scale.xOf(output.orElseThrow().sourceChain().part().start() + sourceFrames(output.orElseThrow().outputChain().ends().fadeInFrames()));
    }

    private double fadeOutX() {
        return scale.xOf(output.orElseThrow().sourceChain().part().end() - sourceFrames(output.orElseThrow().outputChain().ends().fadeOutFrames()));
    }

    /// A frame of the source that stays marked; below 0 there is none.
    public DoubleProperty markProperty() { return mark; }

    /// Where edits go to: what plays, else the mark; below 0 there is neither.
    public double place() { return cursor.get() >= 0 ? cursor.get() : mark.get(); }

    /// Whether the ruler counts frames.
    public BooleanProperty inFramesProperty() { return inFrames; }

    /// Whether the ruler counts bars and beats of 4/4, where a tempo is known.
    public BooleanProperty inBarsProperty() { return inBars; }

    /// Whether frequencies are shown over time, and not the wave.
    public BooleanProperty asSpectrumProperty() { return asSpectrum; }

    private boolean isZoomed() { return file.isPresent() && scale.framesPerPixel() * scale.width() < file.get().frames() * 0.999; }

    /// Above the pieces and the overview, where there are any.
    private double bottom(double height) { return height - 2 - (isZoomed() ? OVERVIEW + 3 : 0) - (pieces.isEmpty() ? 0 : PieceStrip.HEIGHT); }

    private void hear(Gathered.Piece piece) {
        mark.set(piece.frames().start());
        playPart.accept(piece.frames());
    }

    /// Goes to the next piece of a clip, or to the one before, and plays it.
    public void walk(int direction) {
        pieces.beside(mark.get(), direction).ifPresent(p -> {
            hear(p);
            double x = scale.xOf(mark.get());
            if (x < 0 || x > getWidth()) move(x - getWidth() / 4);
        });
    }

    /// Whether the sound that is shown was read.
    public boolean isRead() { return model.pyramidProperty().get().isPresent(); }

    /// Shows what lies around a place of the overview.
    private void centre(double x) {
        file.ifPresent(f -> move((x / getWidth() * f.frames() - scale.frameAt(getWidth() / 2)) / scale.framesPerPixel()));
    }

    /// The frame at which the cursor stands; below 0 there is none.
    public DoubleProperty playedFrameProperty() { return cursor; }

    public WaveScale scale() { return scale; }

    private void show(Optional<PackingItem> item) {
        Optional<SoundFile> next = item.flatMap(i -> i.source().clip());
        // While a list is made anew there is no line for a moment: the sound that comes back is looked at as before.
        boolean isOther = next.isPresent() && !next.map(SoundFile::id).equals(shown);
        if (next.isPresent()) shown = next.map(SoundFile::id);
        file = next;
        pieces.show(edits.pieces());
        output = item.flatMap(PackingItem::output);
        if (isOther) height = 1;
        if (isOther) scale = WaveScale.whole(next.map(SoundFile::frames).orElse(1L), Math.max(1, getWidth()));
        setAccessibleText(next
                .map(f -> "Wave of " + f.path().getFileName() + ", " + f.frames() + " frames, " + f.metadata().loops().size() + " loops, "
                        + f.metadata().cues().size() + " cues" + item.flatMap(i -> i.source().instruments()).map(c -> ", " + c.container()).orElse(""))
                .orElse("No wave"));
        requestLayout();
    }

    private void scroll(ScrollEvent e) {
        if (e.isAltDown())
            raise(e.getDeltaY() > 0 ? 1.25 : 0.8);
        else
            if (e.isControlDown() || Math.abs(e.getDeltaX()) > Math.abs(e.getDeltaY()) || e.isShiftDown())
                move(-(e.getDeltaX() + e.getDeltaY()));
            else
                zoom(e.getDeltaY() > 0 ? 0.8 : 1.25, e.getX());
        e.consume();
    }

    private void key(KeyEvent e) {
        switch (e.getCode()) {
            case PLUS, EQUALS, ADD -> zoom(0.5, anchor());
            case MINUS, SUBTRACT -> zoom(2, anchor());
            case PAGE_UP -> raise(2);
            case PAGE_DOWN -> raise(0.5);
            case LEFT -> arrow(-1, e);
            case RIGHT -> arrow(1, e);
            case HOME -> showAll();
            default -> {
                return;
            }
        }
        e.consume();
    }

    /// The view; with Ctrl an end of the loop, by a frame; with Alt the mark, by some pixels or by a frame. What is marked stays in view.
    private void arrow(int direction, KeyEvent e) {
        if (e.isShortcutDown()) {
            loops.nudge(e.isShiftDown(), direction);
            return;
        }
        if (!e.isAltDown()) {
            move(direction * (e.isShiftDown() ? getWidth() * 0.9 : STEP_PIXELS));
            return;
        }
        file.ifPresent(f -> {
            double from = mark.get() >= 0 ? mark.get() : scale.frameAt(getWidth() / 2);
            mark.set(Math.clamp(Math.rint(from + direction * (e.isShiftDown() ? 1 : Math.max(1, 8 * scale.framesPerPixel()))), 0, f.frames()));
            double x = scale.xOf(mark.get());
            if (x < 0 || x > getWidth()) move(x - getWidth() / 2);
        });
    }

    private void raise(double factor) {
        height = Math.clamp(height * factor, 1, HIGHEST);
        requestLayout();
    }

    private double anchor() {
        double x = scale.xOf(place());
        return place() >= 0 && x >= 0 && x <= getWidth() ? x : getWidth() / 2;
    }

    public void showAll() {
        scale = WaveScale.whole(file.map(SoundFile::frames).orElse(1L), getWidth());
        requestLayout();
    }

    public void zoom(double factor, double x) {
        scale = scale.zoomed(factor, x);
        requestLayout();
    }

    private void move(double pixels) {
        scale = scale.moved(pixels);
        requestLayout();
    }

    @Override protected void layoutChildren() {
        double width = Math.max(1, getWidth()), height = Math.max(1, getHeight());
        if (scale.width() != width) scale = scale.resized(width);
        GraphicsContext g = canvas.cleared(this);
        file.ifPresent(f -> draw(g, f, width, height));
    }

    private void draw(GraphicsContext g, SoundFile f, double width, double height) {
        double top = RULER, bottom = bottom(height);
        g.setFont(SMALL);
        for (Loop l : loops.loops())
            drawLoop(g, l, width, top, bottom);
        drawRuler(g, f, width, bottom);
        model.pyramidProperty().get().ifPresentOrElse(p -> {
            if (asSpectrum.get())
                spectrum.draw(g, scale, top + 1, bottom, wave.get(), text.get());
            else
                drawWave(g, f, p, width, top, bottom);
            if (p.channels() == 2) drawSides(g, top, (bottom - top) / 2);
            if (p.channels() == 2 && !model.midSideProperty().get()) f.audio().rightLoops().forEach(l -> drawRightLoop(g, l, width, bottom));
        }, () -> {
            g.setFill(text.get());
            g.fillText("reading the wave …", 10, (top + bottom) / 2);
        });
        drawCues(g, f.metadata().cues(), width, top, bottom);
        drawFaults(g, model.faults(), width, top, bottom);
        edits.part().ifPresent(part -> drawEnds(g, part, width, top, bottom));
        pieces.draw(g, scale, width, bottom + PieceStrip.HEIGHT, cue.get(), text.get(), axis.get());
        drawMark(g, width, top, bottom);
        double x = scale.xOf(cursor.get());
        if (cursor.get() >= 0 && x >= 0 && x <= width) {
            g.setFill(cursorPaint.get());
            g.fillRect(Math.round(x) - 0.75, top - 4, 1.5, bottom - top + 4);
        }
        if (isZoomed()) model.pyramidProperty().get().ifPresent(p -> drawOverview(g, f, p, width, height));
    }

    /// The mark stands still: dashes, with a flag at the top.
    private void drawMark(GraphicsContext g, double width, double top, double bottom) {
        double x = Math.round(scale.xOf(mark.get()));
        if (mark.get() < 0 || x < 0 || x > width) return;
        g.setFill(cursorPaint.get());
        for (double y = top; y < bottom; y += 7)
            g.fillRect(x - 0.5, y, 1, 4);
        g.fillPolygon(new double[]{x - 5, x + 5, x}, new double[]{top - 7, top - 7, top}, 3);
    }

    /// All of the sound along the bottom, with a frame around what is seen above.
    private void drawOverview(GraphicsContext g, SoundFile f, PeakPyramid pyramid, double width, double height) {
        double top = height - OVERVIEW, middle = top + OVERVIEW / 2, half = OVERVIEW / 2 - 1;
        WaveScale whole = WaveScale.whole(f.frames(), width);
        g.setFill(axis.get());
        g.fillRect(0, top - 2, width, 0.6);
        g.setFill(wave.get());
        for (int x = 0; x < width; x++) {
            FrameRange column = whole.column(x);
            if (column.length() == 0) continue;
            PeakPyramid.Peaks peaks = pyramid.peaks(0, column);
            double high = middle - Math.clamp(peaks.high(), -1, 1) * half, low = middle - Math.clamp(peaks.low(), -1, 1) * half;
            g.fillRect(x, high, 1, Math.max(1, low - high));
        }
        double from = whole.xOf(scale.frameAt(0)), to = whole.xOf(scale.frameAt(width));
        g.setFill(loop.get());
        g.fillRect(from, top, Math.max(2, to - from), OVERVIEW);
        g.setStroke(loopEdge.get());
        g.setLineWidth(1.2);
        g.strokeRect(from + 0.5, top + 0.5, Math.max(2, to - from) - 1, OVERVIEW - 1);
    }

    /// What is cut off lies behind a veil; fades are lines from silence to full height, with a handle where they end.
    private void drawEnds(GraphicsContext g, FrameRange part, double width, double top, double bottom) {
        FrameRange used = output.map(o -> o.sourceChain().part()).orElse(part);
        drawVeil(g, pieces.isEmpty() ? List.of(used) : pieces.covered(), width, top, bottom);
        double start = scale.xOf(part.start()), end = scale.xOf(part.end());
        g.setFill(handle.get());
        for (double x : new double[]{start, end}) {
            g.fillRect(Math.round(x) - 0.5, top, 1, bottom - top);
            g.fillRect(x == start ? x : x - HANDLE, bottom - HANDLE, HANDLE, HANDLE);
        }
        if (output.isPresent()) drawFades(g, scale.xOf(used.start()), scale.xOf(used.end()), top, bottom);
    }

    /// @param used in order, without overlap
    private void drawVeil(GraphicsContext g, List<FrameRange> used, double width, double top, double bottom) {
        g.setFill(veil.get());
        double from = 0;
        for (FrameRange frames : used) {
            double to = Math.min(width, scale.xOf(frames.start()));
            if (to > from) g.fillRect(from, top, to - from, bottom - top);
            from = Math.max(0, scale.xOf(frames.end()));
        }
        if (from < width) g.fillRect(from, top, width - from, bottom - top);
    }

    private void drawFades(GraphicsContext g, double start, double end, double top, double bottom) {
        double in = fadeInX(), out = fadeOutX();
        g.setStroke(handle.get());
        g.setLineWidth(1.2);
        OutputChain outputChain = output.orElseThrow().outputChain();
        if (outputChain.ends().fadeInFrames() > 0) strokeFade(g, start, in, top, bottom, outputChain.ends().fadeInShape()::fadeIn);
        if (outputChain.ends().fadeOutFrames() > 0) strokeFade(g, out, end, top, bottom, outputChain.ends().fadeOutShape()::fadeOut);
        g.fillPolygon(new double[]{in, in + HANDLE, in}, new double[]{top, top, top + HANDLE}, 3);
        g.fillPolygon(new double[]{out, out - HANDLE, out}, new double[]{top, top, top + HANDLE}, 3);
    }

    private static void strokeFade(GraphicsContext g, double from, double to, double top, double bottom, DoubleUnaryOperator gain) {
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

    private void drawLoop(GraphicsContext g, Loop l, double width, double top, double bottom) {
        double from = Math.max(-2, scale.xOf(l.frames().start())), to = Math.min(width + 2, scale.xOf(l.frames().end()));
        if (to < 0 || from > width) return;
        g.setFill(loop.get());
        g.fillRect(from, top, to - from, bottom - top);
        g.setFill(loopEdge.get());
        g.fillRect(Math.round(from), top, 1, bottom - top);
        g.fillRect(Math.round(to) - 1, top, 1, bottom - top);
        if (to - from > 70) g.fillText("loop, " + l.mode().label() + (l.use() == Loop.Use.RELEASE ? ", after release" : ""), Math.max(from, 0) + 6, bottom - 5);
    }

    /// What the right side has for its own loop, where that is not the left one's: a bracket along the bottom of its lane.
    private void drawRightLoop(GraphicsContext g, Loop l, double width, double bottom) {
        double from = Math.max(-2, scale.xOf(l.frames().start())), to = Math.min(width + 2, scale.xOf(l.frames().end())), y = bottom - 18;
        if (to < 0 || from > width) return;
        g.setFill(loopEdge.get());
        g.fillRect(from, y, to - from, 1.5);
        g.fillRect(Math.round(from), y - 8, 1.5, 8);
        g.fillRect(Math.round(to) - 1.5, y - 8, 1.5, 8);
        // Below the wave, and beside the words of a loop that starts at the same place.
        if (to - from > 200) g.fillText("loop of the right side", Math.max(from, 0) + 100, bottom - 5);
    }

    /// Damage: a line where it is, a wedge at the bottom, and what it is where there is room.
    private void drawFaults(GraphicsContext g, List<FaultFinder.Fault> faults, double width, double top, double bottom) {
        for (int i = 0; i < faults.size(); i++) {
            double x = scale.xOf(faults.get(i).frames().start()), end = Math.max(x + 1.5, scale.xOf(faults.get(i).frames().end())),
                    next = i + 1 < faults.size() ? scale.xOf(faults.get(i + 1).frames().start()) : width;
            if (end < 0 || x > width) continue;
            g.setFill(fault.get());
            g.fillRect(x, top, end - x, bottom - top);
            g.fillPolygon(new double[]{x - 5, x + 5, x}, new double[]{bottom, bottom, bottom - 9}, 3);
            String label = faults.get(i).kind().label();
            if (next - x > 9 * label.length()) g.fillText(label, x + 8, bottom - 4);
        }
    }

    /// A cue whose name would run into the next one shows its flag only.
    private void drawCues(GraphicsContext g, List<Cue> cues, double width, double top, double bottom) {
        for (int i = 0; i < cues.size(); i++) {
            double x = scale.xOf(cues.get(i).frame()), next = i + 1 < cues.size() ? scale.xOf(cues.get(i + 1).frame()) : width;
            if (x < -100 || x > width) continue;
            g.setFill(cue.get());
            g.fillRect(Math.round(x), top, 1, bottom - top);
            g.fillPolygon(new double[]{x, x + 7, x}, new double[]{top, top + 4, top + 8}, 3);
            String label = cues.get(i).label().orElse("");
            if (next - x > 14 + label.length() * GLYPH_WIDTH) g.fillText(label, x + 10, top + 11);
        }
    }

    /// Time along the top, at steps that leave room for the figures: seconds and frames by 1, 2 or 5, bars by doubling.
    private void drawRuler(GraphicsContext g, SoundFile f, double width, double bottom) {
        Optional<Double> tempo = inBars.get() ? this.tempo.tempoProperty().get() : Optional.empty();
        double unit = tempo.map(bpm -> 60.0 * f.rateHz() / bpm).orElse(inFrames.get() ? 1.0 : f.rateHz()), wanted = scale.framesPerPixel() / unit * 90;
        double step = tempo.isPresent() ? beats(wanted) : decimal(wanted);
        if (inFrames.get() && tempo.isEmpty()) step = Math.max(1, step);
        int digits = (int) Math.max(0, Math.ceil(-Math.log10(step)));
        // Bars before the first one count down.
        double zero = tempo.isPresent() ? this.tempo.downbeatProperty().get() * f.rateHz() : 0;
        double first = Math.floor((Math.max(0, scale.frameAt(0)) - zero) / unit / step) * step;
        for (double t = first; scale.xOf(zero + t * unit) < width; t += step) {
            if (zero + t * unit < 0) continue;
            double x = Math.round(scale.xOf(zero + t * unit));
            g.setFill(axis.get());
            g.fillRect(x, RULER - 5, 1, 5);
            g.setFill(text.get());
            g.fillText(tempo.isPresent()
                    ? barAndBeat(t)
                    : inFrames.get() ? Figures.grouped(Math.round(t)) : String.format(Locale.ROOT, "%." + digits + "f s", t), x + 4, RULER - 6);
        }
        g.setFill(axis.get());
        g.fillRect(0, RULER, width, 1);
        g.fillRect(0, bottom, width, 1);
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

    private void drawSides(GraphicsContext g, double top, double lane) {
        g.setFill(text.get());
        for (int i = 0; i < 2; i++)
            g.fillText((model.midSideProperty().get() ? "MS" : "LR").substring(i, i + 1), 4, top + lane * (i + 0.04) + 10);
    }

    private void drawWave(GraphicsContext g, SoundFile f, PeakPyramid pyramid, double width, double top, double bottom) {
        int channels = pyramid.channels();
        double lane = (bottom - top) / channels;
        boolean near = scale.framesPerPixel() < 64;
        Optional<BenchModel.Samples> samples = near ? samplesFor(f, width) : Optional.empty();
        for (int channel = 0; channel < channels; channel++) {
            double middle = top + lane * (channel + 0.5), half = lane * 0.46;
            drawLevels(g, middle, half, width);
            g.setFill(axis.get());
            g.fillRect(0, Math.round(middle), width, 0.6);
            g.setFill(wave.get());
            if (samples.isPresent() && scale.framesPerPixel() < 1)
                drawPoints(g, samples.get(), channel, middle, half, width);
            else
                for (int x = 0; x < width; x++) {
                    FrameRange column = scale.column(x);
                    if (column.length() == 0) continue;
                    PeakPyramid.Peaks peaks = samples.isPresent() ? peaks(samples.get(), channel, column) : pyramid.peaks(channel, column);
                    double high = middle - Math.clamp(peaks.high() * this.height, -1, 1) * half,
                            low = middle - Math.clamp(peaks.low() * this.height, -1, 1) * half;
                    g.fillRect(x, high, 1, Math.max(1, low - high));
                }
        }
    }

    /// Levels at the right edge, as many as have room.
    private void drawLevels(GraphicsContext g, double middle, double half, double width) {
        double last = Double.NEGATIVE_INFINITY;
        for (int db : LEVELS_DB) {
            double shown = db - 20 * Math.log10(height), y = Math.pow(10, db / 20.0) * half;
            if (y < 9 || Math.abs(y - last) < 12) continue;
            last = y;
            g.setFill(axis.get());
            g.fillRect(width - DB_WIDTH - 5, Math.round(middle - y), 4, 0.8);
            g.fillRect(width - DB_WIDTH - 5, Math.round(middle + y), 4, 0.8);
            g.setFill(text.get());
            g.fillText(String.format(Locale.ROOT, "%.0f", shown), width - DB_WIDTH + 2, Math.round(middle - y) + 4);
        }
    }

    private Optional<BenchModel.Samples> samplesFor(SoundFile f, double width) {
        long from = Math.clamp((long) scale.frameAt(0) - 2, 0, f.frames()), to = Math.clamp((long) scale.frameAt(width) + 3, from, f.frames());
        Optional<BenchModel.Samples> held = model.samplesProperty().get()
                .filter(s -> s.id().equals(f.id()) && s.range().start() <= from && s.range().end() >= to);
        // A little more than is seen, so that small moves need no reading.
        if (held.isEmpty()) model.wantSamples(new FrameRange(Math.max(0, from - 4096), Math.min(f.frames(), to + 4096)));
        return held;
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

    /// Closer than one frame a pixel: the samples themselves, joined by lines.
    private void drawPoints(GraphicsContext g, BenchModel.Samples samples, int channel, double middle, double half, double width) {
        g.setStroke(wave.get());
        g.beginPath();
        boolean isFirst = true;
        for (long n = samples.range().start(); n < samples.range().end(); n++) {
            double x = scale.xOf(n);
            if (x < -20 || x > width + 20) continue;
            double y = middle - Math.clamp(samples.planes()[channel][(int) (n - samples.range().start())] * height, -1, 1) * half;
            if (isFirst)
                g.moveTo(x, y);
            else
                g.lineTo(x, y);
            isFirst = false;
            if (scale.framesPerPixel() < 0.25) g.fillOval(x - 2, y - 2, 4, 4);
        }
        g.stroke();
    }

    @Override public List<CssMetaData<? extends Styleable, ?>> getCssMetaData() { return FACTORY.getCssMetaData(); }
}
