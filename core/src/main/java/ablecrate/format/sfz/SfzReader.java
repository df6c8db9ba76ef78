package ablecrate.format.sfz;

import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.format.InstrumentFile;
import ablecrate.format.SamplesBeside;
import ablecrate.instrument.About;
import ablecrate.instrument.Extras;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.IntSummaryStatistics;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
    private static final Pattern PROGRAM = Pattern.compile("bank (\\d{1,5}), number (\\d{1,3})(, percussion)?");

    private final Path path;
    private final SfzText text;
    private final List<Problem> problems = new ArrayList<>();
    /// What does not go along, and how often it stands there.
    private final SortedMap<String, Integer> unknown = new TreeMap<>();
    private final SamplesBeside samples;
    private final List<ZoneGroup> groups = new ArrayList<>();
    private final Map<String, Map<String, String>> inherited = new HashMap<>();
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
        text = new SfzText(path);
        samples = new SamplesBeside(this.path, lies, problems);
    }

    InstrumentFile read() throws IOException, FormatException {
        text.read();
        problems.addAll(text.problems());
        switches = switches();
        for (SfzText.Block block : text.blocks())
            block(block);
        closeGroup();
        if (samples.all().isEmpty() && groups.isEmpty())
            throw new FormatException("it has no region with a sample", "", "There is no instrument in it.");
        if (!unknown.isEmpty())
            problems.add(Problem.lost(unknown.values().stream().mapToInt(Integer::intValue).sum() + " settings are not understood: "
                    + unknown.entrySet().stream().map(e -> e.getKey() + (e.getValue() > 1 ? " ×" + e.getValue() : "")).collect(Collectors.joining(", ")), ""));
        About about = about();
        Instrument instrument = new Instrument(about, program, groups);
        return new InstrumentFile(path, Files.size(path), SfzFormat.ID, "SFZ", about, List.of(instrument), samples.all(), List.of(), problems);
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
        return text.blocks().stream().flatMap(b -> SfzOpcodes.note(b.opcodes().get("sw_last")).stream()).mapToInt(k -> k).summaryStatistics();
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
        noteOffset = SfzOpcodes.whole(block.opcodes().get("note_offset"), 0) + 12 * SfzOpcodes.whole(block.opcodes().get("octave_offset"), 0);
        countUnknown(block.opcodes(), false);
    }

    /// @param isPlayed whether they are those of regions
    private void countUnknown(Map<String, String> opcodes, boolean isPlayed) {
        for (String name : opcodes.keySet())
            if (SfzRegion.isExtra(name) && (!isPlayed || SfzRegion.IN_FRAMES.matcher(name).find())) unknown.merge(name, 1, Integer::sum);
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
            int number = samples.number(defaultPath + sample, neededFrames(all), block.line());
            new SfzRegion(new SfzText.Block(block.header(), all, block.line()), noteOffset, switches, samples.file(number), problems).zone(number)
                    .map(this::shared).ifPresent(zones::add);
        } catch (IllegalArgumentException e) {
            problems.add(Problem.lost("a region cannot be used: " + e.getMessage(), block.line()));
        }
    }

    private Zone shared(Zone zone) {
        return zone.said(Parameter.EXTRAS).map(e -> zone.with(Parameter.EXTRAS, sameExtras.computeIfAbsent(e, same -> same))).orElse(zone);
    }

    /// Up to the last frame that the region speaks of.
    private static long neededFrames(Map<String, String> all) {
        return 1 + Stream.of("end", "loop_end", "loopend", "loop_start", "loopstart", "offset").map(all::get).filter(v -> v != null && v.matches("\\d{1,12}"))
                .mapToLong(Long::parseLong).max().orElse(0);
    }
}
