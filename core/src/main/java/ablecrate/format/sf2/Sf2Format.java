package ablecrate.format.sf2;

import ablecrate.audio.Depth;
import ablecrate.codec.Bytes;
import ablecrate.codec.Capabilities;
import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
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
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.TreeMap;

/// SoundFont 2: its capabilities, how it knows itself.
public final class Sf2Format implements BankFormat {
    static final String ID = "sf2";
    /// Chunks of the `INFO` list and the texts in them (section 5).
    static final Map<String, About.Field> INFO = new TreeMap<>(Map.of("INAM", About.Field.NAME, "IENG", About.Field.CREATOR, "ICMT", About.Field.DESCRIPTION,
            "ICOP", About.Field.LICENCE));
    /// 16-bit words; the pool is counted in frames of 32 bits.
    private static final long LIMIT = 0xFFFF_FFFFL - (64 << 20);
    static final int PERCUSSION = 128;
    private static final List<Parameter<?>> FILTER_ENVELOPE = List.of(Parameter.FILTER_ATTACK, Parameter.FILTER_HOLD, Parameter.FILTER_DECAY,
            Parameter.FILTER_SUSTAIN, Parameter.FILTER_RELEASE);
    static final double OPEN_HZ = Sf2Units.hertz(Sf2Units.OPEN_FILTER);
    private static final InstrumentCapabilities CAPABILITIES = capabilitiesOf();

    private static InstrumentCapabilities capabilitiesOf() {
        InstrumentCapabilities.Builder carries = new InstrumentCapabilities.Builder().exactly(Parameter.KEYS, Parameter.VELOCITIES, Parameter.ROOT_KEY)
                .with(Parameter.TUNING, Precision.steps("whole cents", 1, -12_700, 12_700)).exactly(Parameter.START, Parameter.END)
                .with(Parameter.LOOPS, ForwardLoop.CARRIED).exactly(Parameter.LOOP_UNTIL_RELEASE)
                .with(Parameter.ONE_SHOT, Precision.as("as a release of 100 s", _ -> false))
                .with(Parameter.EXCLUSIVE_GROUP, Precision.as("1…127, silences itself", g -> Math.min(127, g))).exactly(Parameter.SILENCED_BY)
                .with(Parameter.BEND_UP, Precision.steps("whole cents", 1, -9600, 9600)).with(Parameter.BEND_DOWN, Precision.as("as far as up", v -> v))
                .with(Parameter.VELOCITY_TRACKING, Sf2Modulators.velocity())
                .with(Precision.steps("whole cents", 1, -12_000, 12_000), Parameter.VIBRATO_WHEEL, Parameter.VIBRATO_PRESSURE,
                        Parameter.FILTER_VELOCITY)
                .with(Parameter.EXTRAS, Precision.as("those of SoundFont 2", e -> e.in(ID)))
                .with(Parameter.FILTER, Precision.as("low pass", k -> k == FilterKind.LOW_PASS ? k : FilterKind.NONE));
        for (Sf2Generators.Setting<?> setting : Sf2Generators.ALL)
            carries.map().put(setting.parameter(), setting.carried());
        BankDecay.carry(carries, "whole timecents");
        Capabilities sounds = new Capabilities(EnumSet.of(Depth.INT_16, Depth.INT_24), 2, LIMIT,
                // Section 7.10.
                new Capabilities.Loops(1, 0, EnumSet.of(LoopMode.FORWARD), false).with(new Capabilities.Loops.Frames(32, Long.MAX_VALUE, 8)),
                Capabilities.FineTune.WHOLE_CENTS, true, false, Capabilities.GainDb.NONE, 0, false, false, false, EnumSet.of(TextField.NAME));
        return new InstrumentCapabilities(carries.map(), Sf2Format::together, EnumSet.of(About.Field.NAME, About.Field.CREATOR, About.Field.LICENCE), true,
                Optional.of(sounds), true);
    }

    /// A class silences itself; a low-pass filter is the only one.
    static Zone together(Zone zone) {
        Zone out = Sf2Generators.fitDecays(Sf2Modulators.fit(zone)).without(Parameter.SILENCED_BY);
        if (out.get(Parameter.EXCLUSIVE_GROUP) > 0) out = out.with(Parameter.SILENCED_BY, out.get(Parameter.EXCLUSIVE_GROUP));
        if (out.get(Parameter.CUTOFF) > OPEN_HZ) out = out.with(Parameter.CUTOFF, OPEN_HZ);
        if (out.get(Parameter.FILTER) != FilterKind.LOW_PASS || !filters(out)) {
            Zone without = out.without(Parameter.Area.FILTER);
            // The filter's envelope may move the pitch.
            boolean isUsed = out.get(Parameter.EXTRAS).in(ID).settings().stream().anyMatch(e -> e.name().equals(Generator.MOD_ENV_TO_PITCH.documentName()));
            out = isUsed ? without.with(FILTER_ENVELOPE, out) : without;
        }
        return out.get(Parameter.LOOPS).isEmpty() ? out.without(Parameter.LOOP_UNTIL_RELEASE) : out;
    }

    /// Whether a low-pass filter, open where nothing is said of it, does anything: where it is open it does with a resonance, or where something closes it.
    static boolean filters(Zone zone) {
        return zone.get(Parameter.CUTOFF) < OPEN_HZ || zone.get(Parameter.RESONANCE) > 0
                || zone.get(Parameter.FILTER_ENVELOPE) != 0 || zone.get(Parameter.FILTER_VELOCITY) != 0;
    }

    @Override public String id() { return ID; }

    @Override public String name() { return "SoundFont 2"; }

    @Override public String extension() { return "sf2"; }

    @Override public InstrumentCapabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head, String fileName) {
        String text = new String(head, StandardCharsets.ISO_8859_1);
        return text.startsWith("RIFF") && text.startsWith("sfbk", 8);
    }

    /// Percussion is a bank of its own, and the only one of its number.
    @Override public Instrument.Program fit(Instrument.Program program) {
        int bank = program.isPercussion() ? 0 : program.bank() == PERCUSSION ? PERCUSSION + 1 : program.bank();
        return new Instrument.Program(bank, program.number(), program.isPercussion());
    }

    @Override public InstrumentFile read(Path path) throws IOException, FormatException { return new Sf2Reader(path).read(); }

    @Override public Optional<Patch> renamed(Path file, int number, String name) throws IOException, FormatException {
        Bytes field = Bytes.of(new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).text(name, Sf2Tables.NAME).toArray());
        OptionalLong at = new Sf2Reader(file).nameAt(number);
        return at.isPresent() ? Optional.of(new Patch(at.getAsLong(), field)) : Optional.empty();
    }

    @Override public long limitBytes() { return LIMIT; }

    @Override public boolean hasSidesApart() { return true; }

    /// A zone that differs from its neighbours says six things or so.
    @Override public int mostZones() { return Sf2Writer.MOST / 6; }

    @Override public Optional<String> tooMany(List<Instrument> instruments, List<BankSound> sounds) {
        long zones = instruments.stream().mapToLong(i -> i.zones().size()).sum();
        // Far from the limit nothing is counted: plans are made anew with each change of an option.
        if (2 * zones * Generator.values().length < Sf2Writer.MOST && sounds.size() < Sf2Writer.MOST / 2) return Optional.empty();
        return new Sf2Writer(OutputStream.nullOutputStream(), sounds, _ -> {
            throw new IllegalStateException("only counted");
        }).tooMany(instruments);
    }

    @Override public void write(OutputStream out, About about, List<Instrument> instruments, List<BankSound> sounds, Feed feed) throws IOException {
        new Sf2Writer(out, sounds, feed).write(about, instruments);
    }
}
