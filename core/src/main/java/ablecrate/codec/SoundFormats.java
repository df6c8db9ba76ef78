package ablecrate.codec;

import ablecrate.codec.aiff.AiffFormat;
import ablecrate.codec.wav.WavFormat;
import java.util.List;
import java.util.Optional;

/// The formats of single sounds that this version reads and writes. A new one is one folder and one line here.
public final class SoundFormats {
    public static final List<SoundFormat> ALL = List.of(new WavFormat(), new AiffFormat());

    private SoundFormats() {}

    public static Optional<SoundFormat> byId(String id) { return ALL.stream().filter(f -> f.id().equals(id)).findFirst(); }

    /// The format of a file that one of them has read.
    public static SoundFormat of(SoundFile file) {
        return byId(file.formatId()).orElseThrow(() -> new IllegalArgumentException("no format " + file.formatId()));
    }
}
