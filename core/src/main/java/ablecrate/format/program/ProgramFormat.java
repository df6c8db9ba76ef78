package ablecrate.format.program;

import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.InstrumentFile;
import ablecrate.format.JsonMap;
import ablecrate.format.MapFormat;
import ablecrate.format.Precision;
import ablecrate.format.SamplesBeside;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/// Programs: what they carry, and how they know themselves.
public final class ProgramFormat implements MapFormat {
    static final String ID = "program";
    private static final InstrumentCapabilities CAPABILITIES = new InstrumentCapabilities(new InstrumentCapabilities.Builder()
            .exactly(Parameter.KEYS, Parameter.VELOCITIES, Parameter.ROOT_KEY, Parameter.TUNING, Parameter.KEY_TRACKING, Parameter.GAIN, Parameter.PAN,
                    Parameter.VELOCITY_TRACKING, Parameter.START, Parameter.END, Parameter.ONE_SHOT)
            .with(Parameter.LOOPS, Precision.as("one, forward or alternating", ProgramFormat::one))
            .exactly(Parameter.LOOP_CROSSFADE, Parameter.EXCLUSIVE_GROUP, Parameter.SILENCED_BY, Parameter.ATTACK, Parameter.HOLD, Parameter.DECAY,
                    Parameter.SUSTAIN, Parameter.RELEASE)
            .with(Parameter.VIBRATO_WHEEL, Precision.steps("whole cents", 1, -1200, 1200))
            .map(), ProgramFormat::together, EnumSet.of(About.Field.NAME), false, Optional.empty(), false);

    private static List<Loop> one(List<Loop> loops) {
        return loops.stream().filter(l -> l.use() == Loop.Use.SUSTAIN).limit(1)
                .map(l -> Loop.sustain(l.frames(), l.mode() == LoopMode.ALTERNATING ? l.mode() : LoopMode.FORWARD)).toList();
    }

    /// A zone of an exclusive group is ended by that group; one-shots do not loop.
    private static Zone together(Zone zone) {
        Zone out = zone.get(Parameter.LOOPS).isEmpty() ? zone.without(Parameter.LOOP_CROSSFADE) : zone.without(Parameter.ONE_SHOT);
        int group = out.get(Parameter.EXCLUSIVE_GROUP);
        return group == 0
                ? out.without(Parameter.EXCLUSIVE_GROUP).without(Parameter.SILENCED_BY)
                : out.get(Parameter.SILENCED_BY) == 0
                        ? out.without(Parameter.EXCLUSIVE_GROUP).without(Parameter.SILENCED_BY)
                        : out.with(Parameter.SILENCED_BY, group);
    }

    @Override public String id() { return ID; }

    @Override public String name() { return "Program"; }

    @Override public String extension() { return "program"; }

    @Override public InstrumentCapabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head, String fileName) {
        return JsonMap.recognises(head, ID);
    }

    @Override public InstrumentFile read(Path path) throws IOException, FormatException { return read(path, UnaryOperator.identity()); }

    @Override public InstrumentFile read(Path path, UnaryOperator<Path> lies) throws IOException, FormatException {
        Path file = path.toAbsolutePath().normalize();
        ProgramFile program = JsonMap.read(file, ProgramFile.class, ProgramFile::format, ProgramFile.FORMAT);
        List<Problem> problems = new ArrayList<>();
        SamplesBeside samples = new SamplesBeside(file, lies, problems);
        List<Zone> zones = new ArrayList<>();
        List<ProgramFile.ProgramZone> said = program.zones() == null ? List.of() : program.zones();
        for (int i = 0; i < said.size(); i++) {
            ProgramFile.ProgramZone zone = said.get(i);
            String place = "zone " + (i + 1);
            try {
                if (zone == null) throw new IllegalArgumentException("it is empty");
                zones.add(zone.zone(samples.number(zone.sound(), zone.endFrame().orElse(0L), place)));
            } catch (IllegalArgumentException e) {
                problems.add(Problem.lost("a zone cannot be used: " + e.getMessage(), place));
            }
        }
        if (zones.isEmpty()) throw new FormatException("it has no zone that can be used", "", "There is no instrument in it.");
        String name = JsonMap.name(program.name(), file);
        About about = About.named(name);
        return new InstrumentFile(file, Files.size(file), ID, "Program 1", about,
                List.of(new Instrument(about, Optional.empty(), List.of(new ZoneGroup("", zones)))),
                samples.all(), List.of(), problems);
    }

    @Override public byte[] write(Instrument instrument, List<String> sounds) { return bytes(ProgramFile.of(instrument, sounds)); }

    @Override public Optional<byte[]> renamed(Path file, String name) throws IOException, FormatException {
        return Optional.of(bytes(JsonMap.read(file, ProgramFile.class, ProgramFile::format, ProgramFile.FORMAT).named(name)));
    }

    private static byte[] bytes(ProgramFile program) { return Json.write(program).getBytes(StandardCharsets.UTF_8); }
}
