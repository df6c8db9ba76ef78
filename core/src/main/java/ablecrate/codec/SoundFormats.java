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
import java.util.List;
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

    /// The format of a file that one of them has read.
    public static SoundFormat of(SoundFile file) {
        return byId(file.formatId()).orElseThrow(() -> new IllegalArgumentException("no format " + file.formatId()));
    }
}
