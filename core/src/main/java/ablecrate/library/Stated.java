package ablecrate.library;

import ablecrate.codec.SoundFile;
import ablecrate.detect.NamedTempo;
import ablecrate.instrument.TextField;
import java.util.Optional;

/// What is said of how a sound goes, without listening: by its texts, by its name, by its folder's name.
public final class Stated {
    private static final double QUARTERS_A_BAR = 4, SECONDS_A_MINUTE = 60;
    /// By which a sound may go faster or slower and still fit: half a semitone.
    private static final double NEAR = Math.pow(2, 0.5 / 12);

    private Stated() {}

    /// Beats a minute.
    public static Optional<Double> tempo(Gathered sound) {
        return sound.sound().flatMap(f -> text(f, TextField.TEMPO)).flatMap(t -> NamedTempo.of(t + " bpm")).or(() -> NamedTempo.of(sound.fileName()))
                .or(() -> NamedTempo.of(sound.folderName()));
    }

    /// As its texts have it: `Am`.
    public static Optional<String> key(Gathered sound) { return sound.sound().flatMap(f -> text(f, TextField.MUSICAL_KEY)); }

    private static Optional<String> text(SoundFile file, TextField field) {
        return Optional.ofNullable(file.metadata().texts().get(field)).map(String::strip).filter(t -> !t.isEmpty());
    }

    /// How many bars of four quarter notes it lasts.
    public static Optional<Double> bars(Gathered sound) {
        return tempo(sound).flatMap(bpm -> sound.sound().map(f -> f.durationSeconds() * bpm / SECONDS_A_MINUTE / QUARTERS_A_BAR));
    }

    /// What a clip is brought to that shall go along with a tempo: that tempo, half of it or twice, whichever is nearest.
    public static double nearest(double bpm, double wanted) {
        double near = wanted;
        for (double other : new double[]{wanted / 2, wanted * 2})
            if (Math.abs(Math.log(other / bpm)) < Math.abs(Math.log(near / bpm))) near = other;
        return near;
    }

    /// Whether a tempo goes along with another: the same, half of it or twice, up to half a semitone of speed.
    public static boolean fits(double bpm, double wanted) {
        for (double ratio : new double[]{bpm / wanted, 2 * bpm / wanted, bpm / wanted / 2})
            if (ratio <= NEAR && ratio >= 1 / NEAR) return true;
        return false;
    }
}
