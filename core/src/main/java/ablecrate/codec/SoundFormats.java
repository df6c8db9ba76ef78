package ablecrate.codec;

import ablecrate.codec.aiff.AiffFormat;
import ablecrate.codec.wav.WavFormat;
import java.util.List;
import java.util.Optional;

/// The formats of single sounds that are read and written. A new one is one folder and one line here.
public final class SoundFormats {
    public static final List<SoundFormat> ALL = List.of(new WavFormat(), new AiffFormat());
    /// Those that are written as well; the first is what a sound becomes where nothing else is said.
    public static final List<WrittenFormat> WRITTEN = ALL.stream().filter(WrittenFormat.class::isInstance).map(WrittenFormat.class::cast).toList();

    private SoundFormats() {}

    public static Optional<SoundFormat> byId(String id) { return ALL.stream().filter(f -> f.id().equals(id)).findFirst(); }

    public static Optional<WrittenFormat> written(String id) { return WRITTEN.stream().filter(f -> f.id().equals(id)).findFirst(); }

    /// The format of a file that one of them has read.
    public static SoundFormat of(SoundFile file) {
        return byId(file.formatId()).orElseThrow(() -> new IllegalArgumentException("no format " + file.formatId()));
    }
}
