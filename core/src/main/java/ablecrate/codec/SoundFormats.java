package ablecrate.codec;

import ablecrate.codec.aac.AdtsFormat;
import ablecrate.codec.aiff.AiffFormat;
import ablecrate.codec.caf.CafFormat;
import ablecrate.codec.flac.FlacFormat;
import ablecrate.codec.mp4.Mp4Format;
import ablecrate.codec.mpeg.Mp3Format;
import ablecrate.codec.ogg.OggFormat;
import ablecrate.codec.ogg.OpusFormat;
import ablecrate.codec.sds.SdsFormat;
import ablecrate.codec.w64.W64Format;
import ablecrate.codec.wav.WavFormat;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// The formats of single sounds that are read and written. A new one is one folder and one line here.
public final class SoundFormats {
    public static final List<SoundFormat> ALL = List.of(new WavFormat(), new AiffFormat(), new FlacFormat(), new CafFormat(), new W64Format(), new OggFormat(),
            new OpusFormat(), new Mp4Format(), new AdtsFormat(), new Mp3Format(), new SdsFormat());
    /// Those that are written as well; the first is what a sound becomes where nothing else is said.
    public static final List<WrittenFormat> WRITTEN = ALL.stream().filter(WrittenFormat.class::isInstance).map(WrittenFormat.class::cast).toList();

    private SoundFormats() {}

    public static Optional<SoundFormat> byId(String id) { return ALL.stream().filter(f -> f.id().equals(id)).findFirst(); }

    public static Optional<WrittenFormat> written(String id) { return WRITTEN.stream().filter(f -> f.id().equals(id)).findFirst(); }

    /// Whether a file is named as one whose samples are coded: what it holds may be known only once all of it was read.
    public static boolean isNamedAsCoded(Path path) {
        String extension = extension(path);
        return ALL.stream().anyMatch(f -> !(f instanceof PcmFormat) && f.extensions().contains(extension));
    }

    /// What follows the last dot of a file's name, in lower case; empty where there is none.
    public static String extension(Path path) {
        String name = path.getFileName().toString();
        int dot = name.lastIndexOf('.');
        return dot < 0 ? "" : name.substring(dot + 1).toLowerCase(Locale.ROOT);
    }

    /// The format of a file that one of them has read.
    public static SoundFormat of(SoundFile file) {
        return byId(file.formatId()).orElseThrow(() -> new IllegalArgumentException("no format " + file.formatId()));
    }
}
