package ablecrate.desktop.bench;

import java.util.List;
import javafx.css.CssMetaData;
import javafx.css.SimpleStyleableObjectProperty;
import javafx.css.Styleable;
import javafx.css.StyleableObjectProperty;
import javafx.css.StyleablePropertyFactory;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.paint.Paint;

/// The colours of a wave, as the style sheet has them.
final class WavePaints {
    private static final StyleablePropertyFactory<WaveView> FACTORY = new StyleablePropertyFactory<>(Region.getClassCssMetaData());
    private static final CssMetaData<WaveView, Paint> WAVE = FACTORY.createPaintCssMetaData("-wave-fill", v -> v.paints().wave, Color.BLACK, false),
            AXIS = FACTORY.createPaintCssMetaData("-axis-fill", v -> v.paints().axis, Color.GRAY, false),
            LOOP = FACTORY.createPaintCssMetaData("-loop-fill", v -> v.paints().loop, Color.LIGHTBLUE, false),
            LOOP_EDGE = FACTORY.createPaintCssMetaData("-loop-edge", v -> v.paints().loopEdge, Color.BLUE, false),
            CUE = FACTORY.createPaintCssMetaData("-cue-fill", v -> v.paints().cue, Color.BROWN, false),
            FAULT = FACTORY.createPaintCssMetaData("-fault-fill", v -> v.paints().fault, Color.RED, false),
            CURSOR = FACTORY.createPaintCssMetaData("-cursor-fill", v -> v.paints().cursor, Color.BLUE, false),
            VEIL = FACTORY.createPaintCssMetaData("-veil-fill", v -> v.paints().veil, Color.GRAY, false),
            HANDLES = FACTORY.createPaintCssMetaData("-handle-fill", v -> v.paints().handle, Color.BLUE, false),
            TEXT = FACTORY.createPaintCssMetaData("-text-fill", v -> v.paints().text, Color.BLACK, false);

    final StyleableObjectProperty<Paint> wave = new SimpleStyleableObjectProperty<>(WAVE, Color.BLACK),
            axis = new SimpleStyleableObjectProperty<>(AXIS, Color.GRAY), loop = new SimpleStyleableObjectProperty<>(LOOP, Color.LIGHTBLUE),
            loopEdge = new SimpleStyleableObjectProperty<>(LOOP_EDGE, Color.BLUE), cue = new SimpleStyleableObjectProperty<>(CUE, Color.BROWN),
            fault = new SimpleStyleableObjectProperty<>(FAULT, Color.RED), cursor = new SimpleStyleableObjectProperty<>(CURSOR, Color.BLUE),
            veil = new SimpleStyleableObjectProperty<>(VEIL, Color.GRAY), handle = new SimpleStyleableObjectProperty<>(HANDLES, Color.BLUE),
            text = new SimpleStyleableObjectProperty<>(TEXT, Color.BLACK);

    /// @param changed told when the style sheet says otherwise
    WavePaints(Runnable changed) {
        for (StyleableObjectProperty<Paint> paint : List.of(wave, axis, loop, loopEdge, cue, fault, cursor, veil, handle, text))
            paint.subscribe(_ -> changed.run());
    }

    static List<CssMetaData<? extends Styleable, ?>> properties() { return FACTORY.getCssMetaData(); }
}
