package ablecrate.desktop.bench;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import ablecrate.desktop.Background;
import ablecrate.dsp.Spectrogram;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// The spectrogram of what is seen of the current sound; the one that was asked for last is made, while the one before stays. FX thread only.
final class SpectrogramModel {
    private record Wanted(SoundFile file, FrameRange range, int columns, int rows) {}

    private final Background background;
    private final BenchModel bench;
    private final ReadOnlyObjectWrapper<Optional<Spectrogram>> picture = new ReadOnlyObjectWrapper<>(Optional.empty());
    private Optional<Wanted> wanted = Optional.empty(), made = Optional.empty();
    private boolean isBusy;

    SpectrogramModel(BenchModel bench, Background background) {
        this.bench = bench;
        this.background = background;
        bench.pyramidProperty().subscribe(p -> {
            // Another sound.
            if (p.isEmpty()) picture.set(Optional.empty());
        });
    }

    ReadOnlyObjectProperty<Optional<Spectrogram>> pictureProperty() { return picture.getReadOnlyProperty(); }

    void want(FrameRange range, int columns, int rows) {
        wanted = bench.itemProperty().get().flatMap(i -> i.source().sound()).filter(_ -> range.length() > 0).map(f -> new Wanted(f, range, columns, rows));
        next();
    }

    private void next() {
        if (isBusy || wanted.isEmpty() || wanted.equals(made)) return;
        isBusy = true;
        Wanted now = wanted.get();
        background.run(() -> {
            try (SeekableSource source = now.file().open()) {
                return Spectrogram.of(source, now.range(), now.columns(), now.rows(), () -> false);
            }
        }, found -> {
            isBusy = false;
            made = Optional.of(now);
            if (wanted.filter(w -> w.file().equals(now.file())).isPresent()) picture.set(Optional.of(found));
            next();
        }, _ -> {
            isBusy = false;
            made = Optional.of(now);
        });
    }
}
