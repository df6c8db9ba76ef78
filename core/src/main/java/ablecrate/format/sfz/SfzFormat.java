package ablecrate.format.sfz;

import ablecrate.codec.FormatException;
import ablecrate.format.Precision;
import ablecrate.format.ForwardLoop;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.InstrumentFile;
import ablecrate.format.MapFormat;
import ablecrate.instrument.About;
import ablecrate.instrument.Chance;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.Optional;

/// SFZ: its capabilities, how it knows itself.
public final class SfzFormat implements MapFormat {
    static final String ID = "sfz";
    private static final InstrumentCapabilities CAPABILITIES = capabilitiesOf();

    private static InstrumentCapabilities capabilitiesOf() {
        InstrumentCapabilities.Builder carries = new InstrumentCapabilities.Builder().exactly(Parameter.KEYS, Parameter.VELOCITIES, Parameter.KEY_FADE_IN,
                Parameter.KEY_FADE_OUT, Parameter.VELOCITY_FADE_IN, Parameter.VELOCITY_FADE_OUT, Parameter.ROOT_KEY)
                .with(Parameter.TUNING, Precision.steps("whole cents", 1, -12_700, 12_700)).exactly(Parameter.START, Parameter.END, Parameter.ONE_SHOT)
                .with(Parameter.LOOPS, ForwardLoop.CARRIED).exactly(Parameter.LOOP_UNTIL_RELEASE)
                .with(Parameter.TURN, Precision.as("up to 100", t -> t.length() > 100 ? Turn.EVERY : t))
                .exactly(Parameter.SWITCH).with(Parameter.EXTRAS, Precision.as("those of SFZ", e -> e.in(ID)))
                .with(Parameter.CHANCE, Precision.as("yes", c -> new Chance(Math.rint(c.low() * 1e6) / 1e6, Math.rint(c.high() * 1e6) / 1e6)));
        for (SfzOpcodes.Opcode<?> opcode : SfzOpcodes.ALL)
            carries.map().put(opcode.parameter(), opcode.carried());
        return new InstrumentCapabilities(carries.map(), SfzFormat::together, EnumSet.allOf(About.Field.class), true, Optional.empty(), false);
    }

    /// A cutoff by itself would be a low-pass filter, and one-shots do not loop.
    private static Zone together(Zone zone) {
        Zone out = zone;
        if (out.get(Parameter.FILTER) == FilterKind.NONE) out = out.without(Parameter.Area.FILTER);
        if (!out.get(Parameter.LOOPS).isEmpty())
            out = out.without(Parameter.ONE_SHOT);
        else
            out = out.without(Parameter.LOOP_UNTIL_RELEASE).without(Parameter.LOOP_CROSSFADE);
        return out;
    }

    @Override public String id() { return ID; }

    @Override public String name() { return "SFZ"; }

    @Override public String extension() { return "sfz"; }

    @Override public InstrumentCapabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head, String fileName) {
        String text = new String(head, StandardCharsets.ISO_8859_1);
        return text.chars().noneMatch(c -> c == 0)
                && (fileName.endsWith(".sfz") || text.contains("<region>") && (text.contains("sample=") || text.contains("<group>")));
    }

    @Override public InstrumentFile read(Path path) throws IOException, FormatException { return read(path, UnaryOperator.identity()); }

    @Override public InstrumentFile read(Path path, UnaryOperator<Path> lies) throws IOException, FormatException { return new SfzReader(path, lies).read(); }

    @Override public byte[] write(Instrument instrument, List<String> sounds) { return SfzWriter.write(instrument, sounds); }
}
