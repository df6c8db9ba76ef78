package ablecrate.format.sfz;

import ablecrate.audio.FrameRange;
import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.disk.DiskFault;
import ablecrate.format.InstrumentFile;
import ablecrate.format.MissingSounds;
import ablecrate.format.Sample;
import ablecrate.instrument.About;
import ablecrate.instrument.Chance;
import ablecrate.instrument.Extras;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.KeySwitch;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.IntSummaryStatistics;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Reads an SFZ file: settings inherit from `global`, `master` and `group` down to `region`.
final class SfzReader {
    private static final List<String> LEVELS = List.of("global", "master", "group", "region");
    /// Understood here, beside what [SfzOpcodes] has.
    private static final Set<String> TOGETHER = Set.of("sample", "key", "lokey", "hikey", "pitch_keycenter", "lovel", "hivel", "tune", "transpose", "offset",
            "end",
            "loop_mode", "loop_start", "loop_end", "seq_length", "seq_position", "lorand", "hirand", "xfin_lokey", "xfin_hikey", "xfout_lokey", "xfout_hikey",
            "xfin_lovel", "xfin_hivel", "xfout_lovel", "xfout_hivel", "global_label", "master_label", "group_label", "region_label", "default_path",
            "note_offset",
            "octave_offset", "sw_lokey", "sw_hikey", "sw_last", "sw_default", "sw_label");
    private static final Pattern PROGRAM = Pattern.compile("bank (\\d{1,5}), number (\\d{1,3})(, percussion)?");

    private static final Pattern IN_FRAMES = Pattern.compile("offset|samples|loop|^end");

    private final Path path;
    private final UnaryOperator<Path> lies;
    private final SfzText text;
    private final List<Problem> problems = new ArrayList<>();
    /// What does not go along, and how often it stands there.
    private final SortedMap<String, Integer> unknown = new TreeMap<>();
    private final Map<String, Integer> places = new LinkedHashMap<>();
    private final List<Sample> samples = new ArrayList<>();
    private final List<ZoneGroup> groups = new ArrayList<>();
    private final Map<String, Map<String, String>> inherited = new HashMap<>();
    private final MissingSounds finder;
    /// Thousands of regions say the same.
    private final Map<Extras, Extras> sameExtras = new HashMap<>();
    private List<Zone> zones = new ArrayList<>();
    private String groupName = "", defaultPath = "";
    private int noteOffset;
    private IntSummaryStatistics switches = new IntSummaryStatistics();
    private Optional<Instrument.Program> program = Optional.empty();

    /// @param lies where a sound lies that is named at a path
    SfzReader(Path path, UnaryOperator<Path> lies) {
        this.path = path.toAbsolutePath().normalize();
        this.lies = lies;
        text = new SfzText(path);
        finder = new MissingSounds(this.path.getParent());
    }

    InstrumentFile read() throws IOException, FormatException {
        text.read();
        problems.addAll(text.problems());
        switches = switches();
        for (SfzText.Block block : text.blocks())
            block(block);
        closeGroup();
        if (samples.isEmpty() && groups.isEmpty())
            throw new FormatException("it has no region with a sample", "", "There is no instrument in it.");
        if (!unknown.isEmpty())
            problems.add(Problem.lost(unknown.values().stream().mapToInt(Integer::intValue).sum() + " settings are not understood: "
                    + unknown.entrySet().stream().map(e -> e.getKey() + (e.getValue() > 1 ? " ×" + e.getValue() : "")).collect(Collectors.joining(", ")), ""));
        About about = about();
        Instrument instrument = new Instrument(about, program, groups);
        return new InstrumentFile(path, Files.size(path), SfzFormat.ID, "SFZ", about, List.of(instrument), samples, List.of(), problems);
    }

    /// Name and texts stand in comments: `// Name: …`, as [SfzWriter] leaves them; otherwise the file is named for itself.
    private About about() throws IOException {
        String file = path.getFileName().toString();
        About about = About.named(file.replaceFirst("(?i)\\.sfz$", ""));
        for (String line : ChunkReader.text(Files.readAllBytes(path)).split("\\R", 40)) {
            if (!line.startsWith("//")) continue;
            int colon = line.indexOf(':');
            if (colon > 0)
                about = about(about, line.substring(2, colon).strip(), line.substring(colon + 1).strip());
        }
        return about;
    }

    private About about(About about, String name, String text) {
        Matcher numbers = PROGRAM.matcher(text);
        if (name.equalsIgnoreCase(SfzWriter.PROGRAM) && numbers.matches())
            program = Optional.of(new Instrument.Program(Math.min(Instrument.Program.MOST_BANK, Integer.parseInt(numbers.group(1))),
                    Math.min(127, Integer.parseInt(numbers.group(2))), numbers.group(3) != null));
        return Arrays.stream(About.Field.values()).filter(f -> f.label().equalsIgnoreCase(name)).findFirst().map(f -> about.with(f, text)).orElse(about);
    }

    /// Where no range of keys is said for keyswitches, it spans all of them.
    private IntSummaryStatistics switches() {
        return text.blocks().stream().flatMap(b -> note(b.opcodes().get("sw_last")).stream()).mapToInt(k -> k).summaryStatistics();
    }

    private void block(SfzText.Block block) {
        switch (block.header()) {
            case "control" -> control(block);
            case "region" -> region(block);
            case "global", "master", "group" -> {
                closeGroup();
                int level = LEVELS.indexOf(block.header());
                LEVELS.subList(level, LEVELS.size()).forEach(inherited::remove);
                inherited.put(block.header(), block.opcodes());
                groupName = block.opcodes().getOrDefault(block.header() + "_label", block.header().equals("group") ? groupName : "");
                countUnknown(block.opcodes(), true);
            }
            default -> unknown.merge("<" + block.header() + ">", 1, Integer::sum);
        }
    }

    private void control(SfzText.Block block) {
        defaultPath = block.opcodes().getOrDefault("default_path", defaultPath);
        noteOffset = whole(block.opcodes().get("note_offset"), 0) + 12 * whole(block.opcodes().get("octave_offset"), 0);
        countUnknown(block.opcodes(), false);
    }

    /// @param isPlayed whether they are those of regions
    private void countUnknown(Map<String, String> opcodes, boolean isPlayed) {
        for (String name : opcodes.keySet())
            if (isExtra(name) && (!isPlayed || IN_FRAMES.matcher(name).find())) unknown.merge(name, 1, Integer::sum);
    }

    private void closeGroup() {
        if (!zones.isEmpty()) groups.add(new ZoneGroup(groupName, zones));
        zones = new ArrayList<>();
        groupName = "";
    }

    private void region(SfzText.Block block) {
        countUnknown(block.opcodes(), true);
        Map<String, String> all = new LinkedHashMap<>();
        for (String level : LEVELS)
            all.putAll(inherited.getOrDefault(level, Map.of()));
        // What stands further down overrules `key` above it, and the other way round.
        if (block.opcodes().containsKey("key")) List.of("lokey", "hikey", "pitch_keycenter").forEach(all::remove);
        all.putAll(block.opcodes());
        String sample = all.get("sample");
        if (sample == null || sample.isEmpty()) {
            problems.add(Problem.lost("a region has no sample and is left out", block.line()));
            return;
        }
        if (all.getOrDefault("end", "").equals("-1")) {
            problems.add(Problem.note("a region is switched off (end=-1) and left out", block.line()));
            return;
        }
        try {
            zone(all, sample(sample, neededFrames(all), block.line()), block.line()).ifPresent(zones::add);
        } catch (IllegalArgumentException e) {
            problems.add(Problem.lost("a region cannot be used: " + e.getMessage(), block.line()));
        }
    }

    /// Up to the last frame that the region speaks of.
    private static long neededFrames(Map<String, String> all) {
        return 1 + Stream.of("end", "loop_end", "loopend", "loop_start", "loopstart", "offset").map(all::get).filter(v -> v != null && v.matches("\\d{1,12}"))
                .mapToLong(Long::parseLong).max().orElse(0);
    }

    private int sample(String name, long neededFrames, String line) {
        String whole = defaultPath + name;
        Integer known = places.get(whole);
        if (known != null) return known;
        places.put(whole, samples.size());
        samples.add(find(whole, neededFrames, line));
        return samples.size() - 1;
    }

    private Sample find(String name, long neededFrames, String line) {
        if (name.startsWith("*")) return new Sample.Missing(name, "a generated sound, no file");
        Optional<Path> wanted = SfzPaths.resolve(path.getParent(), name).map(lies).filter(Files::isRegularFile), found = wanted
                .or(() -> finder.find(name, neededFrames));
        if (found.isEmpty()) {
            problems.add(Problem.lost("the sample '" + name + "' is not there, and no file of its name and length is nearby, or several", line));
            return new Sample.Missing(name, "it is not there; put it back beside the instrument");
        }
        if (wanted.isEmpty()) problems.add(Problem.mend("the sample '" + name + "' was found at " + path.getParent().relativize(found.get()), line));
        try {
            return switch (FileKind.of(found.get())) {
                case FileKind.Sound sound -> new Sample.Found(name, sound.read(found.get()));
                case FileKind.Other(_, String kind, String reason) -> unusable(name, kind + ": " + reason, line);
            };
        } catch (FormatException e) {
            return unusable(name, e.getMessage(), line);
        } catch (IOException e) {
            return unusable(name, DiskFault.text(e), line);
        }
    }

    private Sample unusable(String name, String reason, String line) {
        problems.add(Problem.lost("the sample '" + name + "' cannot be used: " + reason, line));
        return new Sample.Missing(name, reason);
    }

    private Optional<Zone> zone(Map<String, String> all, int sample, String line) {
        Zone zone = Zone.of(sample);
        for (Map.Entry<String, String> opcode : all.entrySet())
            if (SfzOpcodes.named(opcode.getKey()).isPresent()) zone = put(zone, SfzOpcodes.named(opcode.getKey()).get(), opcode.getValue(), line);
        Optional<Zone> keyed = keys(zone, all, line);
        if (keyed.isEmpty()) return keyed;
        zone = keyed.get();
        zone = span(zone, Parameter.VELOCITIES, all, "lovel", "hivel", 1);
        zone = fade(zone, Parameter.KEY_FADE_IN, all, "xfin_lokey", "xfin_hikey");
        zone = fade(zone, Parameter.KEY_FADE_OUT, all, "xfout_lokey", "xfout_hikey");
        zone = fade(zone, Parameter.VELOCITY_FADE_IN, all, "xfin_lovel", "xfin_hivel");
        zone = fade(zone, Parameter.VELOCITY_FADE_OUT, all, "xfout_lovel", "xfout_hivel");
        if (all.containsKey("tune") || all.containsKey("transpose"))
            zone = zone.with(Parameter.TUNING,
                    Math.clamp(SfzOpcodes.number(all.getOrDefault("tune", "0")).orElse(0.0) + 100 * whole(all.get("transpose"), 0), -12_700.0, 12_700.0));
        if (all.containsKey("seq_length") || all.containsKey("seq_position")) {
            int length = Math.clamp(whole(all.get("seq_length"), 1), 1, 100);
            zone = zone.with(Parameter.TURN, new Turn(Math.clamp(whole(all.get("seq_position"), 1), 1, length), length));
        }
        if (all.containsKey("lorand") || all.containsKey("hirand"))
            zone = zone.with(Parameter.CHANCE, new Chance(SfzOpcodes.number(all.getOrDefault("lorand", "0")).orElse(0.0),
                    Math.min(1, SfzOpcodes.number(all.getOrDefault("hirand", "1")).orElse(1.0))));
        zone = withExtras(switched(zone, all), all);
        if (zone.said(Parameter.CUTOFF).isPresent() && zone.said(Parameter.FILTER).isEmpty()) zone = zone.with(Parameter.FILTER, FilterKind.LOW_PASS);
        return Optional.of(played(zone, all, line));
    }

    /// A text that is no value of the opcode is told and left out.
    private <T> Zone put(Zone zone, SfzOpcodes.Opcode<T> opcode, String value, String line) {
        Optional<T> parsed = opcode.parse().apply(value);
        if (parsed.isEmpty()) problems.add(Problem.lost(opcode.name() + "=" + value + " is no value of it and is left out", line));
        return parsed.map(v -> {
            T within = opcode.parameter().nearest(v);
            if (!within.equals(v))
                problems.add(
                        Problem.lost(opcode.name() + "=" + value + " is beyond what any player does; " + opcode.parameter().text(within) + " is used", line));
            return zone.with(opcode.parameter(), within);
        }).orElse(zone);
    }

    private Optional<Zone> keys(Zone zone, Map<String, String> all, String line) {
        Optional<Integer> key = note(all.get("key")), low = note(all.get("lokey")), high = note(all.get("hikey")), root = note(all.get("pitch_keycenter"));
        if (low.filter(n -> n < 0).isPresent() || high.filter(n -> n < 0).isPresent()) {
            problems.add(Problem.note("a region is on no key (" + (all.get("lokey") + " to " + all.get("hikey")) + ") and is left out", line));
            return Optional.empty();
        }
        Zone out = zone;
        if (key.isPresent() || low.isPresent() || high.isPresent())
            out = out.with(Parameter.KEYS, Span.lenient(low.or(() -> key).orElse(0) + noteOffset, high.or(() -> key).orElse(127) + noteOffset));
        if (all.getOrDefault("pitch_keycenter", "").equals("sample"))
            root = sampleMetadata(zone).flatMap(f -> f.mapping().rootKey()).map(k -> k - noteOffset);
        Optional<Integer> center = root.or(() -> key);
        if (center.isPresent()) out = out.with(Parameter.ROOT_KEY, shifted(center.get()));
        return Optional.of(out);
    }

    /// What is not understood goes along as it is, but for what counts in frames, whose number changes with the rate.
    private Zone withExtras(Zone zone, Map<String, String> all) {
        List<Extras.Setting> extras = all.entrySet().stream().filter(e -> isExtra(e.getKey()) && !IN_FRAMES.matcher(e.getKey()).find())
                .map(e -> new Extras.Setting(e.getKey(), SfzWriter.plain(e.getValue()))).sorted(Comparator.comparing(Extras.Setting::name)).toList();
        return extras.isEmpty() ? zone : zone.with(Parameter.EXTRAS, sameExtras.computeIfAbsent(new Extras(SfzFormat.ID, extras), e -> e));
    }

    private static boolean isExtra(String opcode) { return !TOGETHER.contains(opcode) && SfzOpcodes.named(opcode).isEmpty(); }

    private Zone switched(Zone zone, Map<String, String> all) {
        Optional<Integer> key = note(all.get("sw_last")).map(this::shifted);
        if (key.isEmpty()) return zone;
        int low = shifted(note(all.get("sw_lokey")).orElse(switches.getMin())), high = shifted(note(all.get("sw_hikey")).orElse(switches.getMax()));
        OptionalInt first = note(all.get("sw_default")).map(k -> OptionalInt.of(shifted(k))).orElse(OptionalInt.empty());
        return zone.with(Parameter.SWITCH,
                Optional.of(new KeySwitch(new Span(Math.min(low, key.get()), Math.max(high, key.get())), key.get(), first, all.getOrDefault("sw_label", ""))));
    }

    private int shifted(int key) { return Math.clamp(key + noteOffset, 0, 127); }

    private Optional<SoundMetadata> sampleMetadata(Zone zone) {
        return samples.get(zone.sample()) instanceof Sample.Found(_, SoundFile file) ? Optional.of(file.metadata()) : Optional.empty();
    }

    private Zone span(Zone zone, Parameter<Span> parameter, Map<String, String> all, String low, String high, int lowest) {
        if (!all.containsKey(low) && !all.containsKey(high)) return zone;
        int from = Math.max(lowest, whole(all.get(low), lowest));
        return zone.with(parameter, Span.lenient(from, Math.max(from, whole(all.get(high), 127))));
    }

    private Zone fade(Zone zone, Parameter<Optional<Span>> parameter, Map<String, String> all, String low, String high) {
        if (!all.containsKey(low) && !all.containsKey(high)) return zone;
        boolean isIn = low.startsWith("xfin");
        int from = note(all.get(low)).orElse(isIn ? 0 : 127), to = note(all.get(high)).orElse(isIn ? 0 : 127);
        return zone.with(parameter, Optional.of(Span.lenient(from, to)));
    }

    /// Where the sound starts, ends and loops. A loop in the sample's own chunk counts where nothing is said.
    private Zone played(Zone zone, Map<String, String> all, String line) {
        Zone out = zone;
        long frames = samples.get(zone.sample()) instanceof Sample.Found(_, SoundFile file) ? file.frames() : Long.MAX_VALUE;
        Optional<Long> offset = position(all.get("offset")), end = position(all.get("end")).map(e -> e + 1);
        if (offset.isPresent()) out = out.with(Parameter.START, Math.min(offset.get(), Math.max(0, frames - 1)));
        if (end.isPresent() && end.get() < frames && end.get() > out.get(Parameter.START)) out = out.with(Parameter.END, end);
        List<Loop> own = sampleMetadata(zone).map(SoundMetadata::loops).orElse(List.of());
        Optional<Long> loopStart = position(all.get("loop_start")), loopEnd = position(all.get("loop_end")).map(e -> e + 1);
        String mode = all.getOrDefault("loop_mode", own.isEmpty() && loopEnd.isEmpty() ? "no_loop" : "loop_continuous");
        if (all.containsKey("loop_mode") || !own.isEmpty()) switch (mode) {
            case "one_shot" -> out = out.with(Parameter.ONE_SHOT, true);
            case "loop_continuous", "loop_sustain" -> {
                Optional<Loop> first = own.stream().findFirst();
                long from = loopStart.or(() -> first.map(l -> l.frames().start())).orElse(0L);
                long to = Math.min(loopEnd.or(() -> first.map(l -> l.frames().end())).orElse(frames), frames);
                if (to <= from || to == Long.MAX_VALUE)
                    problems.add(Problem.lost(
                            String.format(Locale.ROOT, "a loop from %,d to %,d is none in a sound of %,d frames; it is left out", from, to, frames),
                            line));
                else {
                    // A loop that is said here goes forward; only one taken over from the sample goes as that does.
                    LoopMode way = loopStart.isPresent() && loopEnd.isPresent() ? LoopMode.FORWARD : first.map(Loop::mode).orElse(LoopMode.FORWARD);
                    out = out.with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(from, to), way)));
                    if (mode.equals("loop_sustain")) out = out.with(Parameter.LOOP_UNTIL_RELEASE, true);
                    if (loopEnd.isPresent() && loopEnd.get() > frames)
                        problems.add(Problem.mend(String.format(Locale.ROOT, "a loop ended at %,d, past the sound's %,d frames", loopEnd.get(), frames), line));
                }
            }
            case "no_loop" -> out = out.with(Parameter.LOOPS, List.of());
            default -> problems.add(Problem.lost("loop_mode=" + mode + " is no value of it and is left out", line));
        }
        else
            if (loopEnd.isPresent() && loopEnd.get() <= frames && loopStart.orElse(0L) < loopEnd.get())
                out = out.with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(loopStart.orElse(0L), loopEnd.get()), LoopMode.FORWARD)));
        return out;
    }

    private static Optional<Long> position(String text) {
        return text == null ? Optional.empty() : SfzOpcodes.number(text).filter(v -> v >= 0 && v < 1L << 52).map(Double::longValue);
    }

    private static int whole(String text, int otherwise) {
        return text == null ? otherwise : SfzOpcodes.number(text).filter(v -> Math.abs(v) < 1e6).map(Double::intValue).orElse(otherwise);
    }

    /// A key by its number or name, c4 = 60; −1 is no key.
    private static Optional<Integer> note(String text) { return text == null ? Optional.empty() : NoteName.parse(text, 4); }
}
