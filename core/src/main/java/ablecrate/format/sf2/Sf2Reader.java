package ablecrate.format.sf2;

import ablecrate.audio.FrameRange;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkLists;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.About;
import ablecrate.instrument.Extras;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/// Reads a bank: each preset becomes an instrument, each of its layers a group.
final class Sf2Reader {
    private static final int MAX_TABLE = 64 << 20;
    private final Path path;
    private final List<Problem> problems = new ArrayList<>();
    private int inFrames;
    private final Map<Integer, List<ZoneGroup>> groups = new HashMap<>();
    /// Thousands of zones say the same.
    private final Map<Extras, Extras> sameExtras = new HashMap<>();
    private final Set<String> told = new LinkedHashSet<>();
    private About about = About.named("");
    private String version = "";
    private List<Sf2Tables.Header> headers = List.of();
    private List<Sf2Tables.Inst> insts = List.of();
    private Sf2Samples samples;
    private ChunkInfo words = new ChunkInfo("smpl", 0, 0);
    private Optional<ChunkInfo> lowBytes = Optional.empty();
    private long fileBytes;

    Sf2Reader(Path path) { this.path = path; }

    InstrumentFile read() throws IOException, FormatException {
        Sf2Tables tables;
        try (FileBytes file = new FileBytes(path)) {
            fileBytes = file.size();
            tables = new Sf2Tables(lists(file), problems);
        }
        headers = tables.headers();
        insts = tables.instruments();
        samples = new Sf2Samples(path, fileBytes, headers, words, lowBytes, problems, told);
        List<Instrument> instruments = new ArrayList<>();
        for (Sf2Tables.Preset preset : tables.presets())
            instruments.add(instrument(preset));
        if (instruments.isEmpty()) throw new FormatException("it lists no preset", "'phdr' list", "There is no instrument in it.");
        instruments.sort(Comparator.comparing(i -> i.program().orElseThrow(), Instrument.Program.ORDER));
        if (inFrames > 0) problems.add(Problem.lost(inFrames + " modulators that move samples and loops have no counterpart", "'imod' list"));
        told.forEach(t -> problems.add(Problem.mend(t, "")));
        if (about.name().isEmpty()) about = about.with(About.Field.NAME, path.getFileName().toString());
        return new InstrumentFile(path, fileBytes, Sf2Format.ID, "SoundFont " + version, about, instruments, samples.all(), List.of(), problems);
    }

    /// Where in the file the name of a preset stands.
    /// @param number in the order of the file
    /// @return empty if there are not as many
    OptionalLong nameAt(int number) throws IOException, FormatException {
        try (FileBytes file = new FileBytes(path)) {
            return new Sf2Tables(lists(file), problems).presetAt(number);
        }
    }

    private Map<String, ChunkReader> lists(FileBytes file) throws IOException, FormatException {
        Map<String, ChunkReader> tables = new HashMap<>();
        for (ChunkInfo list : ChunkLists.inside(file, 12, file.size(), this::cut)) {
            if (!list.id().equals("LIST")) continue;
            List<ChunkInfo> inside = ChunkLists.inside(file, list.at() + 4, list.end(), this::cut);
            switch (ChunkLists.kind(file, list)) {
                case "INFO" -> {
                    for (ChunkInfo chunk : inside)
                        info(chunk.id(), ChunkLists.reader(file, chunk, 1 << 16));
                }
                case "sdta" -> {
                    for (ChunkInfo chunk : inside)
                        switch (chunk.id()) {
                        case "smpl" -> words = chunk;
                        case "sm24" -> lowBytes = Optional.of(chunk);
                        default -> {}
                        }
                }
                case "pdta" -> {
                    for (ChunkInfo chunk : inside)
                        tables.putIfAbsent(chunk.id(), ChunkLists.reader(file, chunk, MAX_TABLE));
                }
                default -> {}
            }
        }
        // Section 6.2: low bytes that are fewer than the words belong to another file.
        if (lowBytes.isPresent() && lowBytes.get().bytes() < words.bytes() / 2) {
            problems.add(Problem.lost("the low bytes of the 24-bit samples are cut off; 16 bits are used", "'sm24' chunk"));
            lowBytes = Optional.empty();
        }
        return tables;
    }

    private void cut(ChunkInfo chunk) {
        if (chunk.bytes() > 0)
            problems.add(Problem.lost("the chunk is cut off, " + chunk.bytes() + " bytes of it are there", FormatException.place(chunk.id(), chunk.at())));
    }

    private void info(String id, ChunkReader in) throws FormatException {
        if (id.equals("ifil")) {
            version = String.format(Locale.ROOT, "%d.%02d", in.u16("major"), in.u16("minor"));
            return;
        }
        About.Field field = Sf2Format.INFO.get(id);
        if (field != null) about = about.with(field, in.text(in.remaining(), id).strip());
    }

    private Instrument instrument(Sf2Tables.Preset preset) {
        List<ZoneGroup> layers = new ArrayList<>();
        Sf2Tables.Bag global = new Sf2Tables.Bag(Map.of(), List.of());
        for (int i = 0; i < preset.zones().size(); i++) {
            Sf2Tables.Bag bag = preset.zones().get(i);
            Integer inst = bag.generators().get(Generator.INSTRUMENT.number());
            if (inst == null) {
                if (i == 0) global = bag;
                continue;
            }
            if ((inst & 0xFFFF) >= insts.size()) {
                problems.add(Problem.lost("preset '" + preset.name() + "' asks for instrument " + (inst & 0xFFFF) + " of " + insts.size(), "'pgen' list"));
                continue;
            }
            Sf2Tables.Bag added = merged(global, bag);
            for (ZoneGroup group : groups.computeIfAbsent(inst & 0xFFFF, n -> List.of(new ZoneGroup(insts.get(n).name(), List.of()))))
                layers.add(group.withZones(zones(insts.get(inst & 0xFFFF), added)));
        }
        boolean isPercussion = preset.bank() == Sf2Format.PERCUSSION;
        return new Instrument(About.named(preset.name()).with(About.Field.CREATOR, about.creator()).with(About.Field.LICENCE, about.licence()),
                Optional.of(new Instrument.Program(isPercussion ? 0 : preset.bank(), Math.min(127, preset.number()), isPercussion)),
                layers.stream().filter(l -> !l.zones().isEmpty()).toList());
    }

    /// A zone's own settings in front of the global zone's (section 7.3, 7.7).
    private static Sf2Tables.Bag merged(Sf2Tables.Bag global, Sf2Tables.Bag own) {
        Map<Integer, Integer> generators = new LinkedHashMap<>(global.generators());
        generators.putAll(own.generators());
        List<Sf2Modulators.Modulator> modulators = new ArrayList<>(global.modulators());
        for (Sf2Modulators.Modulator m : own.modulators()) {
            modulators.removeIf(m::isSameKind);
            modulators.add(m);
        }
        return new Sf2Tables.Bag(generators, modulators);
    }

    private List<Zone> zones(Sf2Tables.Inst inst, Sf2Tables.Bag preset) {
        List<Sf2Pairs.Side> sides = new ArrayList<>();
        Sf2Tables.Bag global = new Sf2Tables.Bag(Map.of(), List.of());
        for (int i = 0; i < inst.zones().size(); i++) {
            Sf2Tables.Bag bag = inst.zones().get(i);
            Integer header = bag.generators().get(Generator.SAMPLE_ID.number());
            if (header == null) {
                if (i == 0) global = bag;
            } else
                if ((header & 0xFFFF) >= headers.size())
                    problems.add(
                            Problem.lost("instrument '" + inst.name() + "' asks for sample " + (header & 0xFFFF) + " of " + headers.size(), "'igen' list"));
                else
                    side(merged(global, bag), preset, header & 0xFFFF).ifPresent(sides::add);
        }
        return new Sf2Pairs(headers, sides, samples, told).zones();
    }

    private Optional<Sf2Pairs.Side> side(Sf2Tables.Bag bag, Sf2Tables.Bag preset, int number) {
        Sf2Tables.Header header = headers.get(number);
        Map<Integer, Integer> own = bag.generators(), added = preset.generators();
        Optional<Span> keys = range(own, Generator.KEY_RANGE).flatMap(k -> both(k, range(added, Generator.KEY_RANGE).orElse(new Span(0, 127))));
        Optional<Span> velocities = range(own, Generator.VEL_RANGE).flatMap(v -> both(v, range(added, Generator.VEL_RANGE).orElse(new Span(0, 127))));
        // Layers of a preset that no key reaches are common: it is how banks cut instruments to parts.
        if (keys.isEmpty() || velocities.isEmpty()) return Optional.empty();
        Zone zone = Zone.of(0);
        if (!keys.get().equals(new Span(0, 127))) zone = zone.with(Parameter.KEYS, keys.get());
        Span velocity = new Span(Math.max(1, velocities.get().low()), Math.max(1, velocities.get().high()));
        if (!velocity.equals(Parameter.VELOCITIES.usual())) zone = zone.with(Parameter.VELOCITIES, velocity);
        Settings set = new Settings(own, added);
        double fine = 100 * set.get(Generator.COARSE_TUNE) + set.get(Generator.FINE_TUNE) + correction(header, set);
        zone = tuned(zone, set, header, fine);
        zone = played(zone, set, header);
        zone = Sf2Generators.into(zone, set);
        List<Sf2Modulators.Modulator> others = new ArrayList<>();
        zone = Sf2Modulators.into(zone, Sf2Modulators.together(bag.modulators(), preset.modulators()), m -> {
            if (Sf2Extras.canStay(m))
                others.add(m);
            else
                inFrames++;
        });
        Extras extras = Sf2Extras.of(set, others);
        if (!extras.settings().isEmpty()) zone = zone.with(Parameter.EXTRAS, sameExtras.computeIfAbsent(extras, e -> e));
        // What says nothing of its cutoff is open.
        if (zone.said(Parameter.CUTOFF).isEmpty()) zone = zone.with(Parameter.CUTOFF, Sf2Format.OPEN_HZ);
        if (Sf2Format.filters(zone)) zone = zone.with(Parameter.FILTER, FilterKind.LOW_PASS);
        return Optional.of(new Sf2Pairs.Side(Sf2Format.together(zone), number));
    }

    /// The header's correction belongs to the sample's own pitch, which keys are counted from: it counts as they do.
    private static double correction(Sf2Tables.Header header, Settings set) {
        return header.correction() * set.get(Generator.SCALE_TUNING) / 100.0;
    }

    private static Optional<Span> range(Map<Integer, Integer> generators, Generator which) {
        Integer amount = generators.get(which.number());
        return Optional.of(amount == null ? new Span(0, 127) : Span.lenient(amount & 0xFF, amount >> 8 & 0xFF));
    }

    private static Optional<Span> both(Span a, Span b) {
        return a.overlaps(b) ? Optional.of(new Span(Math.max(a.low(), b.low()), Math.min(a.high(), b.high()))) : Optional.empty();
    }

    private static Zone tuned(Zone zone, Settings set, Sf2Tables.Header header, double cents) {
        int override = set.get(Generator.ROOT_KEY), original = header.key() > 127 ? 60 : header.key();
        Zone out = zone.with(Parameter.ROOT_KEY, override >= 0 && override <= 127 ? override : original);
        return cents == 0 ? out : out.with(Parameter.TUNING, Math.clamp(cents, -Parameter.MOST_TUNING, Parameter.MOST_TUNING));
    }

    private Zone played(Zone zone, Settings set, Sf2Tables.Header header) {
        long length = Math.max(0, header.end() - header.start());
        Zone out = zone;
        long start = set.get(Generator.START_OFFSET) + 32_768L * set.get(Generator.START_COARSE);
        long end = set.get(Generator.END_OFFSET) + 32_768L * set.get(Generator.END_COARSE);
        if (start > 0 && start < length) out = out.with(Parameter.START, start);
        if (end < 0 && length + end > Math.max(0, start)) out = out.with(Parameter.END, Optional.of(length + end));
        int mode = set.get(Generator.SAMPLE_MODES) & 3;
        if (mode != 1 && mode != 3) return out;
        long from = header.loopStart() - header.start() + set.get(Generator.LOOP_START_OFFSET) + 32_768L * set.get(Generator.LOOP_START_COARSE);
        long to = header.loopEnd() - header.start() + set.get(Generator.LOOP_END_OFFSET) + 32_768L * set.get(Generator.LOOP_END_COARSE);
        if (to > length && to <= length + 8 && from >= 0 && from < length) {
            told.add(String.format(Locale.ROOT, "loop of '%s' ends %d frames past the sound; moved to its end", header.name(), to - length));
            to = length;
        }
        if (from < 0 || to <= from || to > length) {
            told.add(String.format(Locale.ROOT, "loop %,d…%,d of '%s' is none in a sound of %,d frames; it is left out", from, to, header.name(), length));
            return out;
        }
        out = out.with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(from, to), LoopMode.FORWARD)));
        return mode == 3 ? out.with(Parameter.LOOP_UNTIL_RELEASE, true) : out;
    }
}
