package ablecrate.desktop.list;

import ablecrate.audio.FrameSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.dsp.PeakPyramid;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Consumer;

/// Small pictures of waves for the rows, made when a row is first seen and kept while they are wanted. FX thread only.
public final class Sketches {
    public static final int COLUMNS = 72;
    /// 72 columns are half a kilobyte; ten thousand are five megabytes.
    private static final int KEPT = 10_000;

    private final Background background;
    private final Map<Path, float[]> ready = new LinkedHashMap<>(256, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override protected boolean removeEldestEntry(Map.Entry<Path, float[]> eldest) { return size() > KEPT; }
    };
    private final Map<Path, Consumer<float[]>> waiting = new LinkedHashMap<>();

    public Sketches(Background background) { this.background = background; }

    /// Hands the picture over, now or later: `[2 * column]` lowest, `[… + 1]` highest sample, scaled to the sound's own peak.
    public void request(SoundFile file, Consumer<float[]> receiver) {
        float[] sketch = ready.get(file.path());
        if (sketch != null) {
            receiver.accept(sketch);
            return;
        }
        boolean isUnderWay = waiting.put(file.path(), receiver) != null;
        if (isUnderWay) return;
        background.run(() -> sketch(file), made -> {
            ready.put(file.path(), made);
            Consumer<float[]> latest = waiting.remove(file.path());
            if (latest != null) latest.accept(made);
        }, _ -> waiting.remove(file.path()));
    }

    private static float[] sketch(SoundFile file) throws java.io.IOException {
        try (FrameSource source = file.open()) {
            PeakPyramid pyramid = PeakPyramid.of(source, () -> false);
            float[] sketch = pyramid.sketch(COLUMNS);
            float peak = (float) Math.max(1e-6, pyramid.peak());
            for (int i = 0; i < sketch.length; i++)
                sketch[i] /= peak;
            return sketch;
        }
    }
}
