package ablecrate.format.sfz;

import ablecrate.format.Precision;
import ablecrate.instrument.FadeCurve;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Trigger;
import java.math.BigDecimal;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/// The opcodes that stand for one parameter each, both ways. What several opcodes make together ([SfzReader], [SfzWriter]) is not here.
final class SfzOpcodes {
    /// Fades below this are silence.
    private static final double SILENT_DB = -144;
    /// Digits that are written behind the point.
    private static final double DIGITS = 1e6;

    /// @param parse of the text; empty if it is no value
    /// @param write the text that `parse` reads as the value that [Precision] says
    record Opcode<T>(String name, Parameter<T> parameter, Function<String, Optional<T>> parse, Function<T, String> write, Precision<T> carried) {}

    static final List<Opcode<?>> ALL = List.of(number("pitch_keytrack", Parameter.KEY_TRACKING, -1200, 1200), number("bend_up", Parameter.BEND_UP, -9600, 9600),
            number("bend_down", Parameter.BEND_DOWN, -9600, 9600), number("volume", Parameter.GAIN, -144, 48), number("pan", Parameter.PAN, -100, 100),
            number("amp_veltrack", Parameter.VELOCITY_TRACKING, -100, 100), number("loop_crossfade", Parameter.LOOP_CROSSFADE, 0, 100),
            number("ampeg_delay", Parameter.DELAY, 0, 100), number("ampeg_attack", Parameter.ATTACK, 0, 100), number("ampeg_hold", Parameter.HOLD, 0, 100),
            number("ampeg_decay", Parameter.DECAY, 0, 100),
            new Opcode<>("ampeg_sustain", Parameter.SUSTAIN, s -> percent(s).map(SfzOpcodes::decibels), v -> text(percentOf(v)),
                    Precision.as("steps of 0.0001 %", v -> decibels(percentOf(v)))),
            number("ampeg_release", Parameter.RELEASE, 0, 100), number("cutoff", Parameter.CUTOFF, 1, 100_000), number("resonance", Parameter.RESONANCE, 0, 40),
            number("fileg_depth", Parameter.FILTER_ENVELOPE, -12_000, 12_000), number("fil_veltrack", Parameter.FILTER_VELOCITY, -9600, 9600),
            number("fileg_attack", Parameter.FILTER_ATTACK, 0, 100), number("fileg_hold", Parameter.FILTER_HOLD, 0, 100),
            number("fileg_decay", Parameter.FILTER_DECAY, 0, 100), number("fileg_sustain", Parameter.FILTER_SUSTAIN, 0, 100),
            number("fileg_release", Parameter.FILTER_RELEASE, 0, 100), number("pitchlfo_freq", Parameter.VIBRATO_RATE, 0.001, 20),
            number("pitchlfo_delay", Parameter.VIBRATO_DELAY, 0, 100), number("pitchlfo_depth", Parameter.VIBRATO_DEPTH, -1200, 1200),
            number("pitchlfo_depthcc1", Parameter.VIBRATO_WHEEL, -1200, 1200), number("pitchlfo_depthchanaft", Parameter.VIBRATO_PRESSURE, -1200, 1200),
            whole("group", Parameter.EXCLUSIVE_GROUP),
            whole("off_by", Parameter.SILENCED_BY),
            new Opcode<>("direction", Parameter.BACKWARD,
                    s -> s.equals("reverse") ? Optional.of(true) : s.equals("forward") ? Optional.of(false) : Optional.empty(),
                    v -> v ? "reverse" : "forward", Precision.exactly()),
            words("trigger", Parameter.TRIGGER, Map.of("attack", Trigger.ATTACK, "release", Trigger.RELEASE, "first", Trigger.FIRST, "legato", Trigger.LEGATO)),
            words("xf_keycurve", Parameter.KEY_FADE_CURVE, Map.of("power", FadeCurve.POWER, "gain", FadeCurve.GAIN)),
            words("xf_velcurve", Parameter.VELOCITY_FADE_CURVE, Map.of("power", FadeCurve.POWER, "gain", FadeCurve.GAIN)),
            words("fil_type", Parameter.FILTER, Map.of("lpf_2p", FilterKind.LOW_PASS, "lpf_1p", FilterKind.LOW_PASS, "hpf_2p", FilterKind.HIGH_PASS, "hpf_1p",
                    FilterKind.HIGH_PASS, "bpf_2p", FilterKind.BAND_PASS)));

    private static final Map<String, Opcode<?>> BY_NAME = ALL.stream().collect(Collectors.toMap(Opcode::name, o -> o));
    /// Other names that programs write for the same.
    private static final Map<String, String> ALIASES = Map.of("loopmode", "loop_mode", "loopstart", "loop_start", "loopend", "loop_end", "gain", "volume",
            "bendup", "bend_up", "benddown", "bend_down", "offby", "off_by", "pitchlfo_depth_cc1", "pitchlfo_depthcc1", "pitchlfo_depth_oncc1",
            "pitchlfo_depthcc1");

    private SfzOpcodes() {}

    static Optional<Opcode<?>> named(String name) { return Optional.ofNullable(BY_NAME.get(name)); }

    static String canonical(String name) { return ALIASES.getOrDefault(name, name); }

    /// @param lowest,highest that are written; what is read may lie beyond, as far as the model goes
    private static Opcode<Double> number(String name, Parameter<Double> parameter, double lowest, double highest) {
        boolean holdsAll = lowest <= parameter.nearest(Double.NEGATIVE_INFINITY) && highest >= parameter.nearest(Double.POSITIVE_INFINITY);
        String how = holdsAll ? "yes" : text(lowest) + "…" + text(highest) + " " + parameter.unit();
        return new Opcode<>(name, parameter, SfzOpcodes::number, SfzOpcodes::text, Precision.parts(how, DIGITS, lowest, highest));
    }

    private static Opcode<Integer> whole(String name, Parameter<Integer> parameter) {
        return new Opcode<>(name, parameter, s -> number(s).filter(v -> v >= 0 && v <= Integer.MAX_VALUE).map(Double::intValue), Object::toString,
                Precision.exactly());
    }

    private static <T> Opcode<T> words(String name, Parameter<T> parameter, Map<String, T> words) {
        return new Opcode<>(name, parameter, s -> Optional.ofNullable(words.get(s)),
                v -> words.entrySet().stream().filter(e -> e.getValue().equals(v)).map(Map.Entry::getKey).max(Comparator.naturalOrder()).orElse(""),
                Precision.exactly());
    }

    static Optional<Double> number(String text) {
        try {
            double value = Double.parseDouble(text);
            return Double.isFinite(value) ? Optional.of(value) : Optional.empty();
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    /// Plain decimals, never in powers of ten.
    static String text(double value) {
        BigDecimal decimal = BigDecimal.valueOf(Math.rint(value * DIGITS) / DIGITS).stripTrailingZeros();
        return (decimal.scale() < 0 ? decimal.setScale(0) : decimal).toPlainString();
    }

    private static Optional<Double> percent(String text) { return number(text).map(v -> Math.clamp(v, 0.0, 100.0)); }

    private static double percentOf(double decibels) { return decibels <= SILENT_DB ? 0 : Math.rint(100 * Math.pow(10, decibels / 20) * 1e4) / 1e4; }

    private static double decibels(double percent) { return percent <= 0 ? SILENT_DB : Math.max(SILENT_DB, 20 * Math.log10(percent / 100)); }

    static int whole(String text, int otherwise) {
        return text == null ? otherwise : number(text).filter(v -> Math.abs(v) < 1e6).map(Double::intValue).orElse(otherwise);
    }

    /// A key by its number or name, c4 = 60; −1 is no key.
    static Optional<Integer> note(String text) { return text == null ? Optional.empty() : NoteName.parse(text, 4); }
}
