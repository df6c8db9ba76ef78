package ablecrate.format.dls;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.codec.FormatException;
import ablecrate.format.BankDecay;
import ablecrate.format.BankFormat;
import ablecrate.format.Precision;
import ablecrate.format.ForwardLoop;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.About;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.TextField;
import ablecrate.instrument.Zone;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/// DLS: its capabilities, how it knows itself.
public final class DlsFormat implements BankFormat {
    static final String ID = "dls";
    static final Map<String, About.Field> INFO = new TreeMap<>(
            Map.of("INAM", About.Field.NAME, "IENG", About.Field.CREATOR, "ICMT", About.Field.DESCRIPTION, "ICOP",
                    About.Field.LICENCE, "IKEY", About.Field.KEYWORDS, "ISBJ", About.Field.CATEGORY));
    /// A region's gain, in 655,360ths of a decibel.
    static final double GAIN_STEPS = 655_360;
    private static final long LIMIT = 0xFFFF_FFFFL - (64 << 20);
    private static final InstrumentCapabilities CAPABILITIES = capabilitiesOf();

    private static InstrumentCapabilities capabilitiesOf() {
        InstrumentCapabilities.Builder carries = new InstrumentCapabilities.Builder().exactly(Parameter.KEYS, Parameter.VELOCITIES, Parameter.ROOT_KEY)
                .with(Parameter.TUNING, Precision.steps("whole cents; semitones go to the root key", 1, -12_700, 12_700))
                .with(Parameter.GAIN, Precision.parts("yes", GAIN_STEPS, -144, 48))
                .with(Parameter.LOOPS, ForwardLoop.CARRIED).exactly(Parameter.LOOP_UNTIL_RELEASE)
                .with(Parameter.ONE_SHOT, Precision.as("as a release of 100 s", _ -> false))
                .with(Parameter.EXCLUSIVE_GROUP, Precision.as("1…15, silences itself", g -> Math.min(15, g))).exactly(Parameter.SILENCED_BY)
                .with(Parameter.EXTRAS, Precision.as("those of DLS", e -> e.in(ID)))
                .with(Parameter.FILTER, Precision.as("low pass", k -> k == FilterKind.LOW_PASS ? k : FilterKind.NONE));
        for (DlsConnections.Setting setting : DlsConnections.ALL)
            carries.map().put(setting.parameter(), setting.carried());
        BankDecay.carry(carries, "whole timecents");
        Capabilities sounds = new Capabilities(EnumSet.of(Depth.INT_8, Depth.INT_16), 2, LIMIT,
                new Capabilities.Loops(1, 0, EnumSet.of(LoopMode.FORWARD), false),
                Capabilities.FineTune.WHOLE_CENTS, true, false, Capabilities.GainDb.NONE, 0, false, false, false, EnumSet.of(TextField.NAME));
        return new InstrumentCapabilities(carries.map(), DlsFormat::together, EnumSet.allOf(About.Field.class), false, Optional.of(sounds), true);
    }

    /// A key group silences itself; a low-pass filter is the only one. Semitones of tuning are told by the root key, where keys are a semitone apart: some
    /// players read no more than the low byte of a fine tuning, and no tuning by a connection.
    static Zone together(Zone zone) {
        Zone out = DlsConnections.fitDecays(zone).without(Parameter.SILENCED_BY);
        int semitones = DlsConnections.semitoneCents(out.get(Parameter.TUNING)) / 100, root = out.get(Parameter.ROOT_KEY) - semitones;
        if (semitones != 0 && out.get(Parameter.KEY_TRACKING) == 100 && root >= 0 && root <= 127)
            out = out.with(Parameter.ROOT_KEY, root).with(Parameter.TUNING, out.get(Parameter.TUNING) - 100 * semitones);
        if (out.get(Parameter.EXCLUSIVE_GROUP) > 0) out = out.with(Parameter.SILENCED_BY, out.get(Parameter.EXCLUSIVE_GROUP));
        if (out.get(Parameter.FILTER) != FilterKind.LOW_PASS || out.said(Parameter.CUTOFF).isEmpty()) out = out.without(Parameter.Area.FILTER);
        return out.get(Parameter.LOOPS).isEmpty() ? out.without(Parameter.LOOP_UNTIL_RELEASE) : out;
    }

    @Override public String id() { return ID; }

    @Override public String name() { return "DLS"; }

    @Override public String extension() { return "dls"; }

    @Override public InstrumentCapabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head, String fileName) {
        String text = new String(head, StandardCharsets.ISO_8859_1);
        return text.startsWith("RIFF") && text.startsWith("DLS ", 8);
    }

    @Override public InstrumentFile read(Path path) throws IOException, FormatException { return new DlsReader(path).read(); }

    @Override public long limitBytes() { return LIMIT; }

    @Override public void write(OutputStream out, About about, List<Instrument> instruments, List<BankSound> sounds, Feed feed) throws IOException {
        new DlsWriter(out, sounds, feed).write(about, instruments);
    }
}
