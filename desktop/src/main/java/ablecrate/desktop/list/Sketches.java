package ablecrate.desktop.list;

import ablecrate.audio.FrameSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.dsp.PeakPyramid;
import ablecrate.library.Catalogue;
import java.io.IOException;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/// Small pictures of waves for the rows, made when a row is first seen and kept while they are wanted. FX thread only.
public final class Sketches {
    public static final int COLUMNS = 72;
    /// 72 columns are half a kilobyte; ten thousand are five megabytes.
    private static final int KEPT = 10_000;

    private final Background background;
    private final Map<SoundFile.Id, float[]> ready = new LinkedHashMap<>(256, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override protected boolean removeEldestEntry(Map.Entry<SoundFile.Id, float[]> eldest) { return size() > KEPT; }
    };
    private final Map<SoundFile.Id, Consumer<float[]>> waiting = new LinkedHashMap<>();

    /// What the catalogue keeps them under.
    private static final String WHAT = "sketch";

    private final Catalogue catalogue;

    /// @param catalogue keeps pictures between runs
    public Sketches(Background background, Catalogue catalogue) {
        this.background = background;
        this.catalogue = catalogue;
    }

    /// Hands the picture over, now or later: `[2 * column]` lowest, `[… + 1]` highest sample, scaled to the sound's own peak.
    public void request(SoundFile file, Consumer<float[]> receiver) {
        float[] sketch = ready.get(file.id());
        if (sketch != null) {
            receiver.accept(sketch);
            return;
        }
        boolean isUnderWay = waiting.put(file.id(), receiver) != null;
        if (isUnderWay) return;
        background.run(() -> sketch(file), made -> {
            ready.put(file.id(), made);
            Consumer<float[]> latest = waiting.remove(file.id());
            if (latest != null) latest.accept(made);
        }, _ -> waiting.remove(file.id()));
    }

    /// Whether pictures that were asked for are still being made.
    public boolean isDrawing() { return !waiting.isEmpty(); }

    private float[] sketch(SoundFile file) throws IOException {
        if (!file.id().isWholeFile()) return made(file);
        Catalogue.Identity identity = Catalogue.Identity.of(file.path());
        Optional<byte[]> kept = catalogue.find(identity, WHAT).map(Base64.getDecoder()::decode).filter(b -> b.length == 2 * COLUMNS);
        if (kept.isPresent()) return unpacked(kept.get());
        float[] made = made(file);
        catalogue.keep(WHAT, Map.of(identity, Base64.getEncoder().encodeToString(packed(made))));
        return made;
    }

    /// A picture of a few pixels needs no more than a byte for each.
    private static byte[] packed(float[] sketch) {
        byte[] bytes = new byte[sketch.length];
        for (int i = 0; i < bytes.length; i++)
            bytes[i] = (byte) Math.round(sketch[i] * Byte.MAX_VALUE);
        return bytes;
    }

    private static float[] unpacked(byte[] bytes) {
        float[] sketch = new float[bytes.length];
        for (int i = 0; i < bytes.length; i++)
            sketch[i] = bytes[i] / (float) Byte.MAX_VALUE;
        return sketch;
    }

    private static float[] made(SoundFile file) throws IOException {
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
