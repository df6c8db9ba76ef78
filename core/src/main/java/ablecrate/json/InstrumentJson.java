package ablecrate.json;

import ablecrate.audio.FrameRange;
import ablecrate.instrument.About;
import ablecrate.instrument.Chance;
import ablecrate.instrument.Extras;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.KeySwitch;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.PlayingSettings;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.NullNode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Instruments in JSON: what each zone says, by the labels of the parameters.
public final class InstrumentJson {
    private static final ObjectMapper MAPPER = new ObjectMapper();
    private static final Map<String, Parameter<?>> BY_LABEL = Parameter.ALL.stream().collect(Collectors.toMap(Parameter::label, p -> p));

    public record InstrumentEntry(String name, String category, String creator, String description, String keywords, String licence,
            Optional<Instrument.Program> program, Optional<PlayingSettings> playing, List<GroupEntry> groups) {}

    public record GroupEntry(String name, List<ZoneEntry> zones) {}

    public record ZoneEntry(int sample, Map<String, JsonNode> settings) {}

    private InstrumentJson() {}

    public static InstrumentEntry entry(Instrument i) {
        About a = i.about();
        return new InstrumentEntry(a.name(), a.category(), a.creator(), a.description(), a.keywords(), a.licence(), i.program(),
                Optional.of(i.playing()),
                i.groups().stream().map(g -> new GroupEntry(g.name(), g.zones().stream().map(InstrumentJson::entry).toList())).toList());
    }

    /// @throws IllegalArgumentException if it has a setting that is none, or out of bounds
    public static Instrument instrument(InstrumentEntry e) {
        return new Instrument(new About(e.name(), e.category(), e.creator(), e.description(), e.keywords(), e.licence()), e.program(),
                e.playing().orElse(PlayingSettings.NONE),
                e.groups().stream().map(g -> new ZoneGroup(g.name(), g.zones().stream().map(InstrumentJson::zone).toList())).toList());
    }

    private static ZoneEntry entry(Zone zone) {
        Map<String, JsonNode> settings = new LinkedHashMap<>();
        zone.said().forEach(p -> settings.put(p.label(), node(zone.get(p))));
        return new ZoneEntry(zone.sample(), settings);
    }

    private static Zone zone(ZoneEntry entry) {
        Zone zone = Zone.of(entry.sample());
        for (Map.Entry<String, JsonNode> setting : entry.settings().entrySet())
            zone = put(zone,
                    Optional.ofNullable(BY_LABEL.get(setting.getKey()))
                            .orElseThrow(() -> new IllegalArgumentException("no setting '" + setting.getKey() + "'")),
                    setting.getValue());
        return zone;
    }

    /// A value of a setting.
    public static JsonNode node(Object value) {
        return switch (value) {
            case Optional<?> o -> o.map(InstrumentJson::node).orElse(NullNode.getInstance());
            case List<?> l -> MAPPER.valueToTree(l.stream().map(InstrumentJson::node).toList());
            case Span s -> MAPPER.valueToTree(List.of(s.low(), s.high()));
            case Loop l -> MAPPER.valueToTree(
                    List.of(l.frames().start(), l.frames().end(), l.mode().name(), l.use().name(), l.playCount(), l.tuningFraction(), l.cueId()));
            case Turn t -> MAPPER.valueToTree(List.of(t.position(), t.length()));
            case KeySwitch s -> MAPPER.valueToTree(Arrays.asList(s.keys().low(), s.keys().high(), s.key(), s.first().orElse(-1), s.label()));
            case Chance c -> MAPPER.valueToTree(List.of(c.low(), c.high()));
            case Extras x ->
                MAPPER.valueToTree(
                        Stream.concat(Stream.of(x.formatId()), x.settings().stream().flatMap(s -> Stream.of(s.name(), s.value(), s.isMissed()))).toList());
            case Enum<?> e -> MAPPER.valueToTree(e.name());
            default -> MAPPER.valueToTree(value);
        };
    }

    @SuppressWarnings("unchecked") private static <T> Zone put(Zone zone, Parameter<T> p, JsonNode n) {
        Object value = switch (p.usual()) {
            case Span _ -> span(n);
            case Optional<?> _ ->
                n.isNull() ? Optional.empty() : Optional.of(p == Parameter.END ? n.longValue() : p == Parameter.SWITCH ? keySwitch(n) : span(n));
            case List<?> _ -> loops(n);
            case Turn _ -> new Turn(n.get(0).intValue(), n.get(1).intValue());
            case Chance _ -> new Chance(n.get(0).doubleValue(), n.get(1).doubleValue());
            case Extras _ -> extras(n);
            case Enum<?> e -> Enum.valueOf(e.getDeclaringClass(), n.textValue());
            case Integer _ -> n.intValue();
            case Long _ -> n.longValue();
            case Boolean _ -> n.booleanValue();
            default -> n.doubleValue();
        };
        return zone.with(p, (T) value);
    }

    private static Extras extras(JsonNode n) {
        List<Extras.Setting> settings = new ArrayList<>();
        for (int i = 1; i + 2 < n.size(); i += 3)
            settings.add(new Extras.Setting(n.get(i).textValue(), n.get(i + 1).textValue(), n.get(i + 2).booleanValue()));
        return new Extras(n.get(0).textValue(), settings);
    }

    private static KeySwitch keySwitch(JsonNode n) {
        return new KeySwitch(span(n), n.get(2).intValue(), n.get(3).intValue() < 0 ? OptionalInt.empty() : OptionalInt.of(n.get(3).intValue()),
                n.get(4).textValue());
    }

    private static Span span(JsonNode n) { return new Span(n.get(0).intValue(), n.get(1).intValue()); }

    private static List<Loop> loops(JsonNode n) {
        List<Loop> out = new ArrayList<>();
        n.forEach(l -> out.add(loop(l)));
        return out;
    }

    public static Loop loop(JsonNode l) {
        return new Loop(new FrameRange(l.get(0).longValue(), l.get(1).longValue()), LoopMode.valueOf(l.get(2).textValue()),
                Loop.Use.valueOf(l.get(3).textValue()), l.get(4).longValue(), l.path(5).longValue(), l.path(6).longValue());
    }
}
