package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.dsp.Spectrogram;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.WritableImage;
import javafx.scene.paint.Color;
import javafx.scene.paint.Paint;

/// Draws frequencies over time in the place of the wave: in equal ratios from the bottom to the top, louder is darker.
final class SpectrumPainter {
    static final double SCALE_WIDTH = 26;
    private static final double COLUMN_PIXELS = 2, FLOOR_DB = -100;
    private static final int[] MARKED_HZ = {100, 1000, 10_000};

    private final SpectrogramModel model;
    private List<Spectrogram> painted = List.of();
    private Paint paintedWith = Color.TRANSPARENT;
    private List<WritableImage> pictures = List.of();

    /// @param renew draws again
    SpectrumPainter(SpectrogramModel model, Runnable renew) {
        this.model = model;
        model.picturesProperty().subscribe(_ -> renew.run());
    }

    /// What was made last, where it belongs in the scale; what is seen now is asked for.
    void draw(GraphicsContext g, WaveScale scale, double top, double bottom, Paint ink, Paint text) {
        long from = Math.clamp((long) scale.frameAt(0), 0, scale.frames()),
                to = Math.clamp((long) Math.ceil(scale.frameAt(scale.width())), from, scale.frames());
        model.want(new FrameRange(from, to), (int) Math.max(1, scale.width() / COLUMN_PIXELS), (int) Math.max(1, bottom - top));
        List<Spectrogram> made = model.picturesProperty().get();
        if (!made.equals(painted) || !ink.equals(paintedWith)) pictures = made.stream().map(s -> painted(s, ink instanceof Color c ? c : Color.BLACK)).toList();
        painted = made;
        paintedWith = ink;
        double lane = (bottom - top) / Math.max(1, made.size());
        for (int i = 0; i < made.size(); i++)
            drawLane(g, scale, made.get(i), pictures.get(i), top + i * lane, lane, text);
    }

    private static void drawLane(GraphicsContext g, WaveScale scale, Spectrogram s, WritableImage picture, double top, double height, Paint text) {
        double left = scale.xOf(s.range().start());
        g.drawImage(picture, left, top, scale.xOf(s.range().end()) - left, height - 1);
        g.setFill(text);
        for (int hz : MARKED_HZ) {
            if (hz >= s.rateHz() / 2) continue;
            double y = top + height - (s.row(hz) + 0.5) / s.rows() * height;
            g.fillRect(scale.width() - SCALE_WIDTH - 5, Math.round(y), 4, 0.8);
            g.fillText(hz < 1000 ? Integer.toString(hz) : hz / 1000 + "k", scale.width() - SCALE_WIDTH + 2, y + 4);
        }
    }

    private static WritableImage painted(Spectrogram s, Color ink) {
        WritableImage picture = new WritableImage(s.columns(), s.rows());
        for (int column = 0; column < s.columns(); column++)
            for (int row = 0; row < s.rows(); row++) {
                double level = Math.clamp(1 - s.db()[column][row] / FLOOR_DB, 0, 1);
                picture.getPixelWriter().setColor(column, s.rows() - 1 - row, ink.deriveColor(0, 1, 1, level * level));
            }
        return picture;
    }
}
