package ablecrate.format.sfz;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.Chance;
import ablecrate.instrument.Extras;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.KeySwitch;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import java.util.Comparator;
import java.util.IntSummaryStatistics;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.regex.Pattern;

/// One region with all that it inherits, as a zone.
final class SfzRegion {
    /// Understood here, beside what [SfzOpcodes] has.
    private static final Set<String> TOGETHER = Set.of("sample", "key", "lokey", "hikey", "pitch_keycenter", "lovel", "hivel", "tune", "transpose", "offset",
            "end",
            "loop_mode", "loop_start", "loop_end", "seq_length", "seq_position", "lorand", "hirand", "xfin_lokey", "xfin_hikey", "xfout_lokey", "xfout_hikey",
            "xfin_lovel", "xfin_hivel", "xfout_lovel", "xfout_hivel", "global_label", "master_label", "group_label", "region_label", "default_path",
            "note_offset",
            "octave_offset", "sw_lokey", "sw_hikey", "sw_last", "sw_default", "sw_label");
    /// What counts in frames, whose number changes with the rate.
    static final Pattern IN_FRAMES = Pattern.compile("offset|samples|loop|^end");

    private final Map<String, String> opcodes;
    private final String line;
    private final int noteOffset;
    private final IntSummaryStatistics switches;
    private final Optional<SoundFile> file;
    private final List<Problem> problems;

    /// @param region with what it inherits
    /// @param noteOffset semitones that are added to each key
    /// @param switches keys that choose articulations anywhere in the file
    /// @param file the sound, where it was found
    /// @param problems what is told goes here
    SfzRegion(SfzText.Block region, int noteOffset, IntSummaryStatistics switches, Optional<SoundFile> file, List<Problem> problems) {
        opcodes = region.opcodes();
        line = region.line();
        this.noteOffset = noteOffset;
        this.switches = switches;
        this.file = file;
        this.problems = problems;
    }

    /// What it plays, where a sound of it lies on keys at all; what cannot be used is told to `problems`.
    Optional<Zone> zone(int sample) {
        Zone zone = Zone.of(sample);
        for (Map.Entry<String, String> opcode : opcodes.entrySet())
            if (SfzOpcodes.named(opcode.getKey()).isPresent()) zone = put(zone, SfzOpcodes.named(opcode.getKey()).get(), opcode.getValue());
        Optional<Zone> keyed = keys(zone);
        if (keyed.isEmpty()) return keyed;
        zone = keyed.get();
        zone = span(zone, Parameter.VELOCITIES, "lovel", "hivel", 1);
        zone = fade(zone, Parameter.KEY_FADE_IN, "xfin_lokey", "xfin_hikey");
        zone = fade(zone, Parameter.KEY_FADE_OUT, "xfout_lokey", "xfout_hikey");
        zone = fade(zone, Parameter.VELOCITY_FADE_IN, "xfin_lovel", "xfin_hivel");
        zone = fade(zone, Parameter.VELOCITY_FADE_OUT, "xfout_lovel", "xfout_hivel");
        if (opcodes.containsKey("tune") || opcodes.containsKey("transpose"))
            zone = zone.with(Parameter.TUNING,
                    Math.clamp(SfzOpcodes.number(opcodes.getOrDefault("tune", "0")).orElse(0.0) + 100 * whole("transpose", 0), -12_700.0, 12_700.0));
        if (opcodes.containsKey("seq_length") || opcodes.containsKey("seq_position")) {
            int length = Math.clamp(whole("seq_length", 1), 1, 100);
            zone = zone.with(Parameter.TURN, new Turn(Math.clamp(whole("seq_position", 1), 1, length), length));
        }
        if (opcodes.containsKey("lorand") || opcodes.containsKey("hirand"))
            zone = zone.with(Parameter.CHANCE, new Chance(SfzOpcodes.number(opcodes.getOrDefault("lorand", "0")).orElse(0.0),
                    Math.min(1, SfzOpcodes.number(opcodes.getOrDefault("hirand", "1")).orElse(1.0))));
        zone = withExtras(switched(zone));
        if (zone.said(Parameter.CUTOFF).isPresent() && zone.said(Parameter.FILTER).isEmpty()) zone = zone.with(Parameter.FILTER, FilterKind.LOW_PASS);
        return Optional.of(played(zone));
    }

    /// A text that is no value of the opcode is told and left out.
    private <T> Zone put(Zone zone, SfzOpcodes.Opcode<T> opcode, String value) {
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

    private Optional<Zone> keys(Zone zone) {
        Optional<Integer> key = note("key"), low = note("lokey"), high = note("hikey"), root = note("pitch_keycenter");
        if (low.filter(n -> n < 0).isPresent() || high.filter(n -> n < 0).isPresent()) {
            problems.add(Problem.note("a region is on no key (" + (opcodes.get("lokey") + " to " + opcodes.get("hikey")) + ") and is left out", line));
            return Optional.empty();
        }
        Zone out = zone;
        if (key.isPresent() || low.isPresent() || high.isPresent())
            out = out.with(Parameter.KEYS, Span.lenient(low.or(() -> key).orElse(0) + noteOffset, high.or(() -> key).orElse(127) + noteOffset));
        if (opcodes.getOrDefault("pitch_keycenter", "").equals("sample"))
            root = metadata().flatMap(f -> f.mapping().rootKey()).map(k -> k - noteOffset);
        Optional<Integer> center = root.or(() -> key);
        if (center.isPresent()) out = out.with(Parameter.ROOT_KEY, shifted(center.get()));
        return Optional.of(out);
    }

    /// What is not understood goes along as it is, but for what counts in frames, whose number changes with the rate.
    private Zone withExtras(Zone zone) {
        List<Extras.Setting> extras = opcodes.entrySet().stream().filter(e -> isExtra(e.getKey()) && !IN_FRAMES.matcher(e.getKey()).find())
                .map(e -> new Extras.Setting(e.getKey(), SfzWriter.plain(e.getValue()))).sorted(Comparator.comparing(Extras.Setting::name)).toList();
        return extras.isEmpty() ? zone : zone.with(Parameter.EXTRAS, new Extras(SfzFormat.ID, extras));
    }

    /// Whether it is understood nowhere: it goes along as it is.
    static boolean isExtra(String opcode) { return !TOGETHER.contains(opcode) && SfzOpcodes.named(opcode).isEmpty(); }

    private Zone switched(Zone zone) {
        Optional<Integer> key = note("sw_last").map(this::shifted);
        if (key.isEmpty()) return zone;
        int low = shifted(note("sw_lokey").orElse(switches.getMin())), high = shifted(note("sw_hikey").orElse(switches.getMax()));
        OptionalInt first = note("sw_default").map(k -> OptionalInt.of(shifted(k))).orElse(OptionalInt.empty());
        return zone.with(Parameter.SWITCH,
                Optional.of(
                        new KeySwitch(new Span(Math.min(low, key.get()), Math.max(high, key.get())), key.get(), first, opcodes.getOrDefault("sw_label", ""))));
    }

    private int shifted(int key) { return Math.clamp(key + noteOffset, 0, 127); }

    private Optional<SoundMetadata> metadata() { return file.map(SoundFile::metadata); }

    private Zone span(Zone zone, Parameter<Span> parameter, String low, String high, int lowest) {
        if (!opcodes.containsKey(low) && !opcodes.containsKey(high)) return zone;
        int from = Math.max(lowest, whole(low, lowest));
        return zone.with(parameter, Span.lenient(from, Math.max(from, whole(high, 127))));
    }

    private Zone fade(Zone zone, Parameter<Optional<Span>> parameter, String low, String high) {
        if (!opcodes.containsKey(low) && !opcodes.containsKey(high)) return zone;
        boolean isIn = low.startsWith("xfin");
        int from = note(low).orElse(isIn ? 0 : 127), to = note(high).orElse(isIn ? 0 : 127);
        return zone.with(parameter, Optional.of(Span.lenient(from, to)));
    }

    /// Where the sound starts, ends and loops. A loop in the sample's own chunk counts where nothing is said.
    private Zone played(Zone zone) {
        Zone out = zone;
        long frames = file.map(SoundFile::frames).orElse(Long.MAX_VALUE);
        Optional<Long> offset = position("offset"), end = position("end").map(e -> e + 1);
        if (offset.isPresent()) out = out.with(Parameter.START, Math.min(offset.get(), Math.max(0, frames - 1)));
        if (end.isPresent() && end.get() < frames && end.get() > out.get(Parameter.START)) out = out.with(Parameter.END, end);
        List<Loop> own = metadata().map(SoundMetadata::loops).orElse(List.of());
        Optional<Long> loopStart = position("loop_start"), loopEnd = position("loop_end").map(e -> e + 1);
        String mode = opcodes.getOrDefault("loop_mode", own.isEmpty() && loopEnd.isEmpty() ? "no_loop" : "loop_continuous");
        if (opcodes.containsKey("loop_mode") || !own.isEmpty()) switch (mode) {
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

    private Optional<Long> position(String opcode) {
        return Optional.ofNullable(opcodes.get(opcode)).flatMap(SfzOpcodes::number).filter(v -> v >= 0 && v < 1L << 52).map(Double::longValue);
    }

    private int whole(String opcode, int otherwise) { return SfzOpcodes.whole(opcodes.get(opcode), otherwise); }

    private Optional<Integer> note(String opcode) { return SfzOpcodes.note(opcodes.get(opcode)); }
}
