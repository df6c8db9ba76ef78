package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.dsp.PeakPyramid;
import ablecrate.instrument.Loop;
import ablecrate.library.Gathered;
import ablecrate.plan.PackingItem;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.css.CssMetaData;
import javafx.css.Styleable;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.Region;
import javafx.scene.text.Font;

/// The wave of one sound: loops as bands, cues as flags, what plays and a mark; zoom by wheel or + and −, an overview to move in; a click sets the mark, two play
/// from there.
///
/// The canvas has the size of the view; one column of lowest and highest sample a pixel, so the cost does not follow the length.
public final class WaveView extends Region {
    private static final double STEP_PIXELS = 60, HIGHEST = 64, LOOP_GRIP = 4, CUT_GRIP = 4;
    /// Frames a pixel, from which on the samples themselves are drawn.
    private static final int NEAR = 64;
    static final Font SMALL = Font.font("IBM Plex Mono", 10.5);

    private final WavePaints paints = new WavePaints(this::requestLayout);
    private final SharpCanvas canvas = new SharpCanvas();
    private final BenchModel model;
    private final TimeRuler ruler;
    private final DoubleProperty cursor = new SimpleDoubleProperty(-1), mark = new SimpleDoubleProperty(-1);
    private final BooleanProperty asSpectrum = new SimpleBooleanProperty();
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
    private Optional<WaveFades> fades = Optional.empty();
    private Grip grip = Grip.NONE;
    private int loopAtGrip;
    private long cutAtGrip;

    /// @param playFrom told of the frame that was clicked twice
    /// @param playPart told of the piece that was clicked
    public WaveView(BenchModel model, LongConsumer playFrom, Consumer<FrameRange> playPart, WaveEdits edits, LoopEdits loops,
            TempoModel tempo,
            Background background) {
        this.model = model;
        ruler = new TimeRuler(tempo, this::requestLayout);
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
        asSpectrum.subscribe(_ -> requestLayout());
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
        if (isZoomed() && y >= getHeight() - WavePicture.OVERVIEW) return Grip.OVERVIEW;
        Optional<FrameRange> part = edits.part();
        if (part.isEmpty()) return Grip.NONE;
        double bottom = bottom(getHeight());
        if (fades.isPresent() && y >= TimeRuler.HEIGHT && y <= TimeRuler.HEIGHT + WavePicture.HANDLE + 4) {
            if (Math.abs(x - scale.xOf(fades.get().inEnd())) <= WavePicture.HANDLE) return Grip.FADE_IN;
            if (Math.abs(x - scale.xOf(fades.get().outStart())) <= WavePicture.HANDLE) return Grip.FADE_OUT;
        }
        if (y >= bottom - WavePicture.HANDLE - 4) {
            if (Math.abs(x - scale.xOf(part.get().start())) <= WavePicture.HANDLE) return Grip.START;
            if (Math.abs(x - scale.xOf(part.get().end())) <= WavePicture.HANDLE) return Grip.END;
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
        if (y < TimeRuler.HEIGHT || y > bottom) return Grip.NONE;
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

    /// A frame of the source that stays marked; below 0 there is none.
    public DoubleProperty markProperty() { return mark; }

    /// Where edits go to: what plays, else the mark; below 0 there is neither.
    public double place() { return cursor.get() >= 0 ? cursor.get() : mark.get(); }

    /// Whether the ruler counts frames.
    public BooleanProperty inFramesProperty() { return ruler.inFramesProperty(); }

    /// Whether the ruler counts bars and beats of 4/4, where a tempo is known.
    public BooleanProperty inBarsProperty() { return ruler.inBarsProperty(); }

    /// Whether frequencies are shown over time, and not the wave.
    public BooleanProperty asSpectrumProperty() { return asSpectrum; }

    private boolean isZoomed() { return file.isPresent() && scale.framesPerPixel() * scale.width() < file.get().frames() * 0.999; }

    /// Above the pieces and the overview, where there are any.
    private double bottom(double height) { return height - 2 - (isZoomed() ? WavePicture.OVERVIEW + 3 : 0) - (pieces.isEmpty() ? 0 : PieceStrip.HEIGHT); }

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
        fades = item.flatMap(PackingItem::output).map(WaveFades::of);
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
        WavePicture picture = new WavePicture(g, scale, paints, width, TimeRuler.HEIGHT, bottom(height));
        Optional<PeakPyramid> read = model.pyramidProperty().get();
        g.setFont(SMALL);
        loops.loops().forEach(picture::loop);
        ruler.draw(g, scale, paints, f.rateHz(), width);
        picture.ground();
        read.ifPresentOrElse(p -> drawSound(picture, f, p), picture::reading);
        picture.cues(f.metadata().cues());
        picture.faults(model.faults());
        edits.part().ifPresent(part -> picture.ends(part, pieces.isEmpty() ? List.of(fades.map(WaveFades::part).orElse(part)) : pieces.covered(), fades));
        pieces.draw(g, scale, width, picture.bottom() + PieceStrip.HEIGHT, paints.cue.get(), paints.text.get(), paints.axis.get());
        picture.mark(mark.get());
        picture.cursor(cursor.get());
        if (isZoomed()) read.ifPresent(p -> picture.overview(p, f.frames(), height));
    }

    private void drawSound(WavePicture picture, SoundFile f, PeakPyramid pyramid) {
        if (asSpectrum.get())
            spectrum.draw(picture.g(), scale, picture.top() + 1, picture.bottom(), paints.wave.get(), paints.text.get());
        else
            picture.wave(pyramid, scale.framesPerPixel() < NEAR ? samplesFor(f, picture.width()) : Optional.empty(), height);
        if (pyramid.channels() != 2) return;
        picture.sides(model.midSideProperty().get() ? "MS" : "LR");
        if (!model.midSideProperty().get()) f.audio().rightLoops().forEach(picture::rightLoop);
    }

    private Optional<BenchModel.Samples> samplesFor(SoundFile f, double width) {
        long from = Math.clamp((long) scale.frameAt(0) - 2, 0, f.frames()), to = Math.clamp((long) scale.frameAt(width) + 3, from, f.frames());
        Optional<BenchModel.Samples> held = model.samplesProperty().get()
                .filter(s -> s.id().equals(f.id()) && s.range().start() <= from && s.range().end() >= to);
        // A little more than is seen, so that small moves need no reading.
        if (held.isEmpty()) model.wantSamples(new FrameRange(Math.max(0, from - 4096), Math.min(f.frames(), to + 4096)));
        return held;
    }

    WavePaints paints() { return paints; }

    @Override public List<CssMetaData<? extends Styleable, ?>> getCssMetaData() { return WavePaints.properties(); }
}
