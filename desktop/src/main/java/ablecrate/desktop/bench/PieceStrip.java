package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.library.Gathered;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Paint;

/// The pieces that a clip is cut into: brackets along the bottom of the wave, with their names where there is room.
final class PieceStrip {
    static final double HEIGHT = 15;
    private static final double GLYPH_WIDTH = 6.2, TOOTH = 5;

    private static final Comparator<Gathered.Piece> BY_START = Comparator.comparingLong(p -> p.frames().start());

    private List<Gathered.Piece> pieces = List.of();

    void show(List<Gathered.Piece> next) { pieces = next; }

    boolean isEmpty() { return pieces.isEmpty(); }

    /// What lies in any of them, in order and without overlap.
    List<FrameRange> covered() {
        List<FrameRange> out = new ArrayList<>();
        for (FrameRange next : pieces.stream().map(Gathered.Piece::frames).sorted(Comparator.comparingLong(FrameRange::start)).toList())
            if (!out.isEmpty() && next.start() <= out.getLast().end()) {
                FrameRange last = out.removeLast();
                out.add(new FrameRange(last.start(), Math.max(last.end(), next.end())));
            } else
                out.add(next);
        return out;
    }

    /// The piece whose bracket lies at a place of the strip.
    Optional<Gathered.Piece> at(double x, WaveScale scale) {
        double frame = scale.frameAt(x);
        return pieces.stream().filter(p -> frame >= p.frames().start() && frame < p.frames().end()).findFirst();
    }

    /// The piece that begins near a place of the strip.
    Optional<Gathered.Piece> edgeAt(double x, WaveScale scale, double reach) {
        return pieces.stream().filter(p -> Math.abs(scale.xOf(p.frames().start()) - x) <= reach)
                .min(Comparator.comparingDouble(p -> Math.abs(scale.xOf(p.frames().start()) - x)));
    }

    /// The first behind a frame that starts later, or the last before it that starts earlier.
    Optional<Gathered.Piece> beside(double frame, int direction) {
        return direction > 0
                ? pieces.stream().filter(p -> p.frames().start() > frame).min(BY_START)
                : pieces.stream().filter(p -> p.frames().start() < frame).max(BY_START);
    }

    void draw(GraphicsContext g, WaveScale scale, double width, double bottom, Paint line, Paint text, Paint ground) {
        double top = bottom - HEIGHT;
        if (pieces.isEmpty()) return;
        g.setFill(ground);
        g.fillRect(0, top, width, HEIGHT);
        for (int i = 0; i < pieces.size(); i++) {
            FrameRange frames = pieces.get(i).frames();
            double from = Math.round(scale.xOf(frames.start())), to = Math.round(scale.xOf(frames.end()));
            if (to < 0 || from > width) continue;
            g.setFill(line);
            g.fillRect(from, top, Math.max(1, to - from - 1), 1.5);
            g.fillRect(from, top, 1.5, HEIGHT);
            if (to - from > 3) g.fillRect(to - 2, top, 1, TOOTH);
            g.setFill(text);
            String name = pieces.get(i).name(), number = Integer.toString(i + 1);
            double room = to - Math.max(from, 0) - 8;
            String told = name.length() * GLYPH_WIDTH <= room ? name : number.length() * GLYPH_WIDTH <= room ? number : "";
            g.fillText(told, Math.max(from, 0) + 5, bottom - 3);
        }
    }
}
