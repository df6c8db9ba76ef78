package ablecrate.format;

import ablecrate.codec.FileKind;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.format.dls.DlsFormat;
import ablecrate.format.preset.PresetFormat;
import ablecrate.format.program.ProgramFormat;
import ablecrate.format.sf2.Sf2Format;
import ablecrate.format.sfz.SfzFormat;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// The formats of instruments that this version reads and writes. A new one is one folder and one line here.
public final class InstrumentFormats {
    public static final List<InstrumentFormat> ALL = List.of(new SfzFormat(), new Sf2Format(), new DlsFormat(), new ProgramFormat(), new PresetFormat());

    private InstrumentFormats() {}

    public static Optional<InstrumentFormat> byId(String id) { return ALL.stream().filter(f -> f.id().equals(id)).findFirst(); }

    /// The format that knows a file as its own.
    public static Optional<InstrumentFormat> of(Path path) throws IOException {
        try (FileBytes file = new FileBytes(path)) {
            byte[] head = file.read(0, FileKind.HEAD_BYTES);
            String name = path.getFileName().toString().toLowerCase(Locale.ROOT);
            return ALL.stream().filter(f -> f.recognises(head, name)).findFirst();
        }
    }
}
