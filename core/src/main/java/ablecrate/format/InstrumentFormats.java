package ablecrate.format;

import ablecrate.format.sf2.Sf2Format;
import ablecrate.format.sfz.SfzFormat;
import java.util.List;
import java.util.Optional;

/// The formats of instruments that this version reads and writes. A new one is one folder and one line here.
public final class InstrumentFormats {
    public static final List<InstrumentFormat> ALL = List.of(new SfzFormat(), new Sf2Format());

    private InstrumentFormats() {}

    public static Optional<InstrumentFormat> byId(String id) { return ALL.stream().filter(f -> f.id().equals(id)).findFirst(); }
}
