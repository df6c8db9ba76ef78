package ablecrate.format.sfz;

import ablecrate.audio.FrameRange;
import ablecrate.instrument.About;
import ablecrate.instrument.Chance;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/// Writes an SFZ file: what all zones share stands once in `global`, what a group shares in `group`.
final class SfzWriter {
    /// What the number in a bank is called, in a comment.
    static final String PROGRAM = "Program";

    private SfzWriter() {}

    static byte[] write(Instrument instrument, List<String> sounds) {
        List<List<Map<String, String>>> groups = instrument.groups().stream().map(g -> g.zones().stream().map(z -> opcodes(z, sounds)).toList()).toList();
        StringBuilder out = new StringBuilder();
        for (About.Field field : About.Field.values()) {
            String text = field.of(instrument.about());
            if (!text.isEmpty()) out.append("// ").append(field.label()).append(": ").append(text.replaceAll("\\R+", " ")).append('\n');
        }
        instrument.program().ifPresent(p -> out.append("// ").append(PROGRAM).append(": ").append(p).append('\n'));
        Map<String, String> global = shared(groups.stream().flatMap(List::stream).toList());
        out.append("\n<global>");
        line(out, global, Map.of());
        for (int g = 0; g < groups.size(); g++) {
            Map<String, String> group = new LinkedHashMap<>(shared(groups.get(g)));
            group.keySet().removeAll(global.keySet());
            String name = instrument.groups().get(g).name();
            out.append("\n<group>");
            if (!name.isEmpty()) out.append(" group_label=").append(plain(name));
            line(out, group, Map.of());
            Map<String, String> above = new LinkedHashMap<>(global);
            above.putAll(group);
            for (Map<String, String> zone : groups.get(g)) {
                out.append("<region>");
                line(out, zone, above);
            }
        }
        return out.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static void line(StringBuilder out, Map<String, String> opcodes, Map<String, String> said) {
        opcodes.forEach((name, value) -> {
            if (!said.containsKey(name)) out.append(' ').append(name).append('=').append(value);
        });
        out.append('\n');
    }

    /// A value must not look like the next opcode, header or comment.
    static String plain(String text) { return text.replaceAll("[=<>\\r\\n$]|//|/\\*", "_"); }

    private static Map<String, String> shared(List<Map<String, String>> zones) {
        Map<String, String> shared = new LinkedHashMap<>(zones.isEmpty() ? Map.of() : zones.getFirst());
        zones.forEach(zone -> shared.entrySet().removeIf(e -> !e.getValue().equals(zone.get(e.getKey()))));
        return shared;
    }

    private static Map<String, String> opcodes(Zone zone, List<String> sounds) {
        Map<String, String> out = new LinkedHashMap<>();
        out.put("sample", sounds.get(zone.sample()));
        zone.said(Parameter.KEYS).ifPresent(s -> put(out, s, "lokey", "hikey"));
        zone.said(Parameter.ROOT_KEY).ifPresent(k -> out.put("pitch_keycenter", Integer.toString(k)));
        zone.said(Parameter.VELOCITIES).ifPresent(s -> put(out, s, "lovel", "hivel"));
        zone.get(Parameter.KEY_FADE_IN).ifPresent(s -> put(out, s, "xfin_lokey", "xfin_hikey"));
        zone.get(Parameter.KEY_FADE_OUT).ifPresent(s -> put(out, s, "xfout_lokey", "xfout_hikey"));
        zone.get(Parameter.VELOCITY_FADE_IN).ifPresent(s -> put(out, s, "xfin_lovel", "xfin_hivel"));
        zone.get(Parameter.VELOCITY_FADE_OUT).ifPresent(s -> put(out, s, "xfout_lovel", "xfout_hivel"));
        zone.said(Parameter.TUNING).ifPresent(cents -> {
            long semitones = Math.round(cents / 100);
            if (semitones != 0) out.put("transpose", Long.toString(semitones));
            out.put("tune", SfzOpcodes.text(cents - 100 * semitones));
        });
        zone.said(Parameter.START).filter(s -> s > 0).ifPresent(s -> out.put("offset", Long.toString(s)));
        zone.get(Parameter.END).ifPresent(e -> out.put("end", Long.toString(e - 1)));
        if (zone.get(Parameter.LOOPS).isEmpty())
            // Said always: without it, a loop in the sample's own chunk would count.
            out.put("loop_mode", zone.get(Parameter.ONE_SHOT) ? "one_shot" : "no_loop");
        else {
            FrameRange loop = zone.get(Parameter.LOOPS).getFirst().frames();
            out.put("loop_mode", zone.get(Parameter.LOOP_UNTIL_RELEASE) ? "loop_sustain" : "loop_continuous");
            out.put("loop_start", Long.toString(loop.start()));
            out.put("loop_end", Long.toString(loop.end() - 1));
        }
        Turn turn = zone.get(Parameter.TURN);
        if (turn.length() > 1) {
            out.put("seq_length", Integer.toString(turn.length()));
            out.put("seq_position", Integer.toString(turn.position()));
        }
        zone.get(Parameter.SWITCH).ifPresent(s -> {
            put(out, s.keys(), "sw_lokey", "sw_hikey");
            out.put("sw_last", Integer.toString(s.key()));
            s.first().ifPresent(k -> out.put("sw_default", Integer.toString(k)));
            if (!s.label().isEmpty()) out.put("sw_label", plain(s.label()));
        });
        zone.said(Parameter.CHANCE).filter(c -> !c.equals(Chance.ALWAYS)).ifPresent(c -> {
            out.put("lorand", SfzOpcodes.text(c.low()));
            out.put("hirand", SfzOpcodes.text(c.high()));
        });
        SfzOpcodes.ALL.forEach(opcode -> put(out, zone, opcode));
        zone.get(Parameter.EXTRAS).in(SfzFormat.ID).settings().forEach(s -> out.put(s.name(), plain(s.value())));
        return out;
    }

    private static <T> void put(Map<String, String> out, Zone zone, SfzOpcodes.Opcode<T> opcode) {
        zone.said(opcode.parameter()).map(opcode.write()).filter(v -> !v.isEmpty()).ifPresent(v -> out.put(opcode.name(), v));
    }

    private static void put(Map<String, String> out, Span span, String low, String high) {
        out.put(low, Integer.toString(span.low()));
        out.put(high, Integer.toString(span.high()));
    }
}
