package ablecrate.desktop.bench;

import ablecrate.codec.SoundFile;
import ablecrate.desktop.Typed;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Supplier;
import javafx.beans.property.BooleanProperty;

/// Positions in the current sound as people read and type them: frames, or seconds.
final class Positions {
    private final BooleanProperty inFrames;
    private final Supplier<Optional<SoundFile>> file;

    /// @param inFrames whether positions are frames, and not seconds
    Positions(BooleanProperty inFrames, Supplier<Optional<SoundFile>> file) {
        this.inFrames = inFrames;
        this.file = file;
    }

    BooleanProperty inFramesProperty() { return inFrames; }

    /// `44100` frames, `1.25` or `1:02.5` in seconds.
    /// @return frames; empty where it is no position
    OptionalDouble read(String text) {
        if (file.get().isEmpty()) return OptionalDouble.empty();
        try {
            if (inFrames.get()) return OptionalDouble.of(Long.parseLong(text.replace(",", "").replace(" ", "")));
            String typed = Typed.number(text);
            int colon = typed.indexOf(':');
            double seconds = colon < 0
                    ? Double.parseDouble(typed)
                    : 60 * Integer.parseInt(typed.substring(0, colon)) + Double.parseDouble(typed.substring(colon + 1));
            return seconds >= 0 && Double.isFinite(seconds) ? OptionalDouble.of(Math.rint(seconds * file.get().get().rateHz())) : OptionalDouble.empty();
        } catch (NumberFormatException e) {
            return OptionalDouble.empty();
        }
    }

    String text(double frame) {
        return inFrames.get()
                ? Long.toString((long) frame)
                : String.format(Locale.ROOT, "%.4f", frame / file.get().map(SoundFile::rateHz).orElse(1));
    }
}
