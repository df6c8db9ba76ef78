package ablecrate.desktop.bench;

import ablecrate.dsp.Seam;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.css.CssMetaData;
import javafx.css.SimpleStyleableObjectProperty;
import javafx.css.Styleable;
import javafx.css.StyleableObjectProperty;
import javafx.css.StyleablePropertyFactory;
import javafx.scene.AccessibleRole;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.paint.Paint;

/// The seam of a loop laid open: left what is played up to its end, right what is played from its start; behind them, lighter, what leads to the start and
/// what would follow the end. Where the lines lie on each other, nobody hears the seam.
final class SeamView extends Region {
    private static final StyleablePropertyFactory<SeamView> FACTORY = new StyleablePropertyFactory<>(Region.getClassCssMetaData());
    private static final CssMetaData<SeamView, Paint> PLAYED = FACTORY.createPaintCssMetaData("-played-fill", v -> v.played, Color.BLACK, false),
            OTHER = FACTORY.createPaintCssMetaData("-other-fill", v -> v.other, Color.GRAY, false),
            BLENDED = FACTORY.createPaintCssMetaData("-blended-fill", v -> v.blended, Color.BROWN, false),
            EDGE = FACTORY.createPaintCssMetaData("-edge-fill", v -> v.edge, Color.BLUE, false),
            TEXT = FACTORY.createPaintCssMetaData("-text-fill", v -> v.text, Color.BLACK, false);
    private static final double LINE = 15, HEAD = 3 * LINE + 4;
    private static final int NEAREST = 8;

    private final StyleableObjectProperty<Paint> played = new SimpleStyleableObjectProperty<>(PLAYED, Color.BLACK),
            other = new SimpleStyleableObjectProperty<>(OTHER, Color.GRAY), blended = new SimpleStyleableObjectProperty<>(BLENDED, Color.BROWN),
            edge = new SimpleStyleableObjectProperty<>(EDGE, Color.BLUE), text = new SimpleStyleableObjectProperty<>(TEXT, Color.BLACK);
    private final SharpCanvas canvas = new SharpCanvas();
    private final SeamModel model;
    /// Frames to each side that are drawn.
    private double around = 96;

    SeamView(SeamModel model) {
        this.model = model;
        setId("seam");
        getStyleClass().add("seam-view");
        setMinWidth(0);
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.NODE);
        getChildren().add(canvas);
        managedProperty().bind(visibleProperty());
        model.seamsProperty().subscribe(s -> {
            setVisible(s.isPresent());
            setAccessibleText(s.map(found -> String.join("; ", lines(found))).orElse("No seam"));
            requestLayout();
        });
        for (StyleableObjectProperty<Paint> paint : List.of(played, other, blended, edge, text))
            paint.subscribe(_ -> requestLayout());
        addEventHandler(ScrollEvent.SCROLL, e -> {
            zoom(e.getDeltaY() > 0 ? 0.8 : 1.25);
            e.consume();
        });
        addEventHandler(KeyEvent.KEY_PRESSED, e -> {
            switch (e.getCode()) {
                case PLUS, EQUALS, ADD -> zoom(0.5);
                case MINUS, SUBTRACT -> zoom(2);
                default -> {
                    return;
                }
            }
            e.consume();
        });
        addEventHandler(MouseEvent.MOUSE_PRESSED, _ -> requestFocus());
    }

    private void zoom(double factor) {
        around = Math.clamp(around * factor, NEAREST, SeamModel.AROUND);
        requestLayout();
    }

    /// Step and slope, before and after a crossfade.
    private static List<String> lines(SeamModel.Seams s) {
        List<String> lines = new ArrayList<>(List.of("cut: " + told(s.before())));
        s.after().ifPresent(g -> lines.add(String.format(Locale.ROOT, "%.0f ms: %s", s.crossfadeMs(), told(g))));
        return lines;
    }

    private static String told(Seam.Gap gap) { return "step " + db(gap.stepDb()) + ", slope " + db(gap.slopeDb()) + " dB"; }

    private static String db(double db) { return db <= Seam.NONE_DB ? "none" : String.format(Locale.ROOT, "%.0f", db); }

    @Override protected void layoutChildren() {
        double width = Math.max(1, getWidth()), height = Math.max(1, getHeight());
        GraphicsContext g = canvas.cleared(this);
        model.seamsProperty().get().ifPresent(s -> draw(g, s, width, height));
    }

    private void draw(GraphicsContext g, SeamModel.Seams s, double width, double height) {
        g.setFont(WaveView.SMALL);
        g.setFill(text.get());
        double y = LINE;
        for (String line : lines(s)) {
            // Drawn closer where there is little room.
            g.fillText(line, 8, y, width - 12);
            y += LINE;
        }
        g.fillText(String.format(Locale.ROOT, "%.0f frames to each side", around), 8, height - 6, width - 12);
        double top = HEAD, bottom = height - LINE - 4, middle = (top + bottom) / 2, centre = Math.round(width / 2);
        double loudest = 1e-6;
        for (double[][] planes : List.of(s.tail(), s.lead()))
            loudest = Math.max(loudest, peak(planes, -1));
        loudest = Math.max(loudest, Math.max(peak(s.start(), 1), peak(s.onwards(), 1)));
        double scale = (bottom - top) / 2 / loudest;
        g.setFill(edge.get());
        g.fillRect(centre, top - LINE, 1, bottom - top + LINE);
        g.fillText("end", centre - 24, top - 4);
        g.fillText("start", centre + 6, top - 4);
        for (int channel = 0; channel < s.tail().length; channel++) {
            g.setLineWidth(1);
            line(g, other.get(), s.lead()[channel], -1, centre, middle, scale);
            line(g, other.get(), s.onwards()[channel], 1, centre, middle, scale);
            g.setLineWidth(1.5);
            line(g, played.get(), s.tail()[channel], -1, centre, middle, scale);
            line(g, played.get(), s.start()[channel], 1, centre, middle, scale);
            if (s.blended().isPresent()) line(g, blended.get(), s.blended().get()[channel], -1, centre, middle, scale);
        }
    }

    private double peak(double[][] planes, int direction) {
        double peak = 0;
        for (double[] plane : planes)
            for (int i = 0; i < Math.min(plane.length, around); i++)
                peak = Math.max(peak, Math.abs(plane[direction > 0 ? i : plane.length - 1 - i]));
        return peak;
    }

    /// @param direction 1 from the seam on, −1 up to it
    private void line(GraphicsContext g, Paint paint, double[] plane, int direction, double centre, double middle, double scale) {
        double step = centre / around;
        g.setStroke(paint);
        g.setFill(paint);
        g.beginPath();
        for (int i = 0; i < Math.min(plane.length, Math.ceil(around) + 1); i++) {
            // Frame 0 of what is after stands on the seam's line, the last before a step in front of it.
            double x = direction > 0 ? centre + i * step : centre - (i + 1) * step, y = middle - plane[direction > 0 ? i : plane.length - 1 - i] * scale;
            if (i == 0)
                g.moveTo(x, y);
            else
                g.lineTo(x, y);
            if (step >= 5) g.fillOval(x - 1.8, y - 1.8, 3.6, 3.6);
        }
        g.stroke();
    }

    @Override public List<CssMetaData<? extends Styleable, ?>> getCssMetaData() { return FACTORY.getCssMetaData(); }
}
