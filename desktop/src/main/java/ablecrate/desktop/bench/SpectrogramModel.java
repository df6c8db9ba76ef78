package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.dsp.Spectrogram;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// The spectrograms of what is seen of the current sound; those that were asked for last are made, while those before stay. FX thread only.
final class SpectrogramModel {
    private record Wanted(SoundFile file, boolean asMidSide, FrameRange range, int columns, int rows) {}

    private final Background background;
    private final BenchModel bench;
    private final ReadOnlyObjectWrapper<List<Spectrogram>> pictures = new ReadOnlyObjectWrapper<>(List.of());
    private Optional<Wanted> wanted = Optional.empty(), made = Optional.empty();
    private boolean isBusy;

    SpectrogramModel(BenchModel bench, Background background) {
        this.bench = bench;
        this.background = background;
        bench.pyramidProperty().subscribe(p -> {
            // Another sound.
            if (p.isEmpty()) pictures.set(List.of());
        });
    }

    /// One for each channel, or for middle and sides.
    ReadOnlyObjectProperty<List<Spectrogram>> picturesProperty() { return pictures.getReadOnlyProperty(); }

    /// @param rows of all pictures together
    void want(FrameRange range, int columns, int rows) {
        wanted = bench.itemProperty().get().flatMap(i -> i.source().clip()).filter(_ -> range.length() > 0)
                .map(f -> new Wanted(f, bench.midSideProperty().get(), range, columns, Math.max(1, rows / f.channels())));
        next();
    }

    private void next() {
        if (isBusy || wanted.isEmpty() || wanted.equals(made)) return;
        isBusy = true;
        Wanted now = wanted.get();
        background.run(() -> {
            try (SeekableSource source = now.file().open()) {
                return Spectrogram.of(source, BenchModel.weights(now.file().channels(), now.asMidSide()), now.range(), now.columns(), now.rows(), () -> false);
            }
        }, found -> {
            isBusy = false;
            made = Optional.of(now);
            if (wanted.filter(w -> w.file().equals(now.file())).isPresent()) pictures.set(found);
            next();
        }, _ -> {
            isBusy = false;
            made = Optional.of(now);
        });
    }
}
