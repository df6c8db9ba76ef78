package ablecrate.instrument;

import ablecrate.audio.Figures;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.DoubleFunction;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/// One setting of a zone: what a player does with a sound, in one unit, whatever the format counts in.
///
/// Zones hold values only for what their source says. What nobody said has the value every player takes, [#usual]; a zone
/// that says the usual value says the same as one that is silent about it, but only the silent one may be given a default.
/// Formats declare which parameters they carry and how finely; verdicts, the survival table, shared values in written files
/// and the tests all go over [#ALL].
/// @param <T> type of the value; equal values are the same setting
public final class Parameter<T> {
    /// What of the playing a parameter belongs to; for people.
    public enum Area { MAP, PITCH, LEVEL, SAMPLE, CHOICE, ENVELOPE, FILTER, MODULATION, OTHER }

    /// In cents, up and down.
    public static final double MOST_TUNING = 12_700;
    /// In dB.
    public static final double LEAST_GAIN = -144, MOST_GAIN = 48;

    /// Of full scale, in dB: below the step of 16 bits, 20 log10(1/32,768).
    public static final double SILENT_DB = -90;

    private static final List<Parameter<?>> MADE = new ArrayList<>();

    public static final Parameter<Span> KEYS = new Parameter<>(Area.MAP, "keys", new Span(0, 127), Parameter::span, _ -> true);
    public static final Parameter<Span> VELOCITIES = new Parameter<>(Area.MAP, "velocities", new Span(1, 127), Parameter::span, _ -> true);
    /// Gains rise from nothing at the low end of the span to full at its high end.
    public static final Parameter<Optional<Span>> KEY_FADE_IN = spanOption(Area.MAP, "key fade-in");
    public static final Parameter<Optional<Span>> KEY_FADE_OUT = spanOption(Area.MAP, "key fade-out");
    public static final Parameter<Optional<Span>> VELOCITY_FADE_IN = spanOption(Area.MAP, "velocity fade-in");
    public static final Parameter<Optional<Span>> VELOCITY_FADE_OUT = spanOption(Area.MAP, "velocity fade-out");

    public static final Parameter<FadeCurve> KEY_FADE_CURVE = curve("key fade curve");
    public static final Parameter<FadeCurve> VELOCITY_FADE_CURVE = curve("velocity fade curve");

    /// The key that plays the sound untransposed.
    public static final Parameter<Integer> ROOT_KEY = new Parameter<>(Area.PITCH, "root key", 60, Object::toString, k -> k >= 0 && k <= 127);
    /// What the player adds, in cents.
    public static final Parameter<Double> TUNING = signed(Area.PITCH, "tuning", 0, "cents", 2, -MOST_TUNING, MOST_TUNING);
    /// Cents by which the pitch rises from key to key.
    public static final Parameter<Double> KEY_TRACKING = number(Area.PITCH, "key tracking", 100, "cents a key", 0, -1200, 1200);
    /// Cents by which the bend wheel raises the pitch when it is fully up, and by which it changes it when fully down.
    public static final Parameter<Double> BEND_UP = signed(Area.PITCH, "pitch bend up", 200, "cents", 0, -9600, 9600);
    public static final Parameter<Double> BEND_DOWN = signed(Area.PITCH, "pitch bend down", -200, "cents", 0, -9600, 9600);

    public static final Parameter<Double> GAIN = signed(Area.LEVEL, "gain", 0, "dB", 2, LEAST_GAIN, MOST_GAIN);
    /// −100 left … 100 right.
    public static final Parameter<Double> PAN = signed(Area.LEVEL, "pan", 0, "%", 1, -100, 100);
    /// 100: the level follows velocity by its square, v²/127²; 0: it does not follow.
    public static final Parameter<Double> VELOCITY_TRACKING = number(Area.LEVEL, "velocity to level", 100, "%", 0, -100, 100);

    /// The first frame played.
    public static final Parameter<Long> START = new Parameter<>(Area.SAMPLE, "sample start", 0L, f -> frames(f), f -> f >= 0);
    /// The frame behind the last one played; absent is the sound's end.
    public static final Parameter<Optional<Long>> END = new Parameter<>(Area.SAMPLE, "sample end", Optional.empty(),
            f -> f.map(Parameter::frames).orElse("end"), f -> f.isEmpty() || f.get() > 0);
    public static final Parameter<Boolean> BACKWARD = new Parameter<>(Area.SAMPLE, "played backward", false, b -> b ? "yes" : "no", _ -> true);
    /// Whether it plays to its end whatever happens to the key.
    public static final Parameter<Boolean> ONE_SHOT = new Parameter<>(Area.SAMPLE, "one-shot", false, b -> b ? "yes" : "no", _ -> true);
    public static final Parameter<List<Loop>> LOOPS = new Parameter<>(Area.SAMPLE, "loops", List.of(), Parameter::loops, _ -> true);
    /// Whether the sound leaves its loop when the key is let go, and plays on to its end.
    public static final Parameter<Boolean> LOOP_UNTIL_RELEASE = new Parameter<>(Area.SAMPLE, "loop until release", false, b -> b ? "yes" : "no", _ -> true);
    public static final Parameter<Double> LOOP_CROSSFADE = number(Area.SAMPLE, "loop crossfade", 0, "s", 3, 0, 100);

    public static final Parameter<Trigger> TRIGGER = new Parameter<>(Area.CHOICE, "trigger", Trigger.ATTACK, t -> t.name().toLowerCase(Locale.ROOT), _ -> true);
    public static final Parameter<Turn> TURN = new Parameter<>(Area.CHOICE, "round robin", Turn.EVERY, Turn::toString, _ -> true);
    public static final Parameter<Chance> CHANCE = new Parameter<>(Area.CHOICE, "random choice", Chance.ALWAYS, Chance::toString, _ -> true);
    /// The key that chooses the zone; absent where it sounds whatever was pressed.
    public static final Parameter<Optional<KeySwitch>> SWITCH = new Parameter<>(Area.CHOICE, "keyswitch", Optional.empty(),
            s -> s.map(KeySwitch::toString).orElse("none"), _ -> true);
    /// 0 for none.
    public static final Parameter<Integer> EXCLUSIVE_GROUP = new Parameter<>(Area.CHOICE, "exclusive group", 0, Object::toString, g -> g >= 0);
    /// The exclusive group whose start ends this zone; 0 for none.
    public static final Parameter<Integer> SILENCED_BY = new Parameter<>(Area.CHOICE, "silenced by group", 0, Object::toString, g -> g >= 0);

    public static final Parameter<Double> DELAY = seconds(Area.ENVELOPE, "delay", 0);
    public static final Parameter<Double> ATTACK = seconds(Area.ENVELOPE, "attack", 0);
    public static final Parameter<Double> HOLD = seconds(Area.ENVELOPE, "hold", 0);
    public static final Parameter<Double> DECAY = seconds(Area.ENVELOPE, "decay", 0);
    /// Level while the key is held, of full scale: 0 dB down to −144.
    public static final Parameter<Double> SUSTAIN = number(Area.ENVELOPE, "sustain", 0, "dB", 1, -144, 0);
    public static final Parameter<Double> RELEASE = seconds(Area.ENVELOPE, "release", 0);

    public static final Parameter<FilterKind> FILTER = new Parameter<>(Area.FILTER, "filter", FilterKind.NONE, FilterKind::label, _ -> true);
    public static final Parameter<Double> CUTOFF = number(Area.FILTER, "cutoff", 20_000, "Hz", 0, 1, 100_000);
    public static final Parameter<Double> RESONANCE = number(Area.FILTER, "resonance", 0, "dB", 1, -20, 96);
    public static final Parameter<Double> FILTER_ENVELOPE = signed(Area.FILTER, "envelope to cutoff", 0, "cents", 0, -12_000, 12_000);
    public static final Parameter<Double> FILTER_VELOCITY = signed(Area.FILTER, "velocity to cutoff", 0, "cents", 0, -12_000, 12_000);
    public static final Parameter<Double> FILTER_ATTACK = seconds(Area.FILTER, "filter attack", 0);
    public static final Parameter<Double> FILTER_HOLD = seconds(Area.FILTER, "filter hold", 0);
    public static final Parameter<Double> FILTER_DECAY = seconds(Area.FILTER, "filter decay", 0);
    /// Of the filter's envelope, 0…100.
    public static final Parameter<Double> FILTER_SUSTAIN = number(Area.FILTER, "filter sustain", 100, "%", 1, 0, 100);
    public static final Parameter<Double> FILTER_RELEASE = seconds(Area.FILTER, "filter release", 0);

    public static final Parameter<Double> VIBRATO_RATE = number(Area.MODULATION, "vibrato rate", 8.176, "Hz", 2, 0.0005, 200);
    public static final Parameter<Double> VIBRATO_DELAY = seconds(Area.MODULATION, "vibrato delay", 0);
    public static final Parameter<Double> VIBRATO_DEPTH = number(Area.MODULATION, "vibrato depth", 0, "cents", 0, -12_000, 12_000);
    /// Vibrato that the fully raised modulation wheel adds.
    public static final Parameter<Double> VIBRATO_WHEEL = number(Area.MODULATION, "wheel to vibrato", 0, "cents", 0, -12_000, 12_000);
    /// Vibrato that full pressure on the keys (channel pressure) adds.
    public static final Parameter<Double> VIBRATO_PRESSURE = number(Area.MODULATION, "pressure to vibrato", 0, "cents", 0, -12_000, 12_000);

    /// What only the zone's own format has.
    public static final Parameter<Extras> EXTRAS = new Parameter<>(Area.OTHER, "other settings", Extras.NONE, Extras::toString, _ -> true);

    /// All parameters, in the order people read them.
    public static final List<Parameter<?>> ALL = List.copyOf(MADE);

    private final Area area;
    private final String label, unit;
    private final T usual;
    private final Function<T, String> text;
    private final Predicate<T> allowed;
    private final UnaryOperator<T> nearest;
    private final int place;

    private Parameter(Area area, String label, T usual, Function<T, String> text, Predicate<T> allowed) {
        this(area, label, "", usual, text, allowed, v -> v);
    }

    private Parameter(Area area, String label, String unit, T usual, Function<T, String> text, Predicate<T> allowed, UnaryOperator<T> nearest) {
        this.area = area;
        this.label = label;
        this.unit = unit;
        this.usual = usual;
        this.text = text;
        this.allowed = allowed;
        this.nearest = nearest;
        place = MADE.size();
        MADE.add(this);
    }

    /// @param digits behind the point, as people read it
    private static Parameter<Double> number(Area area, String label, double usual, String unit, int digits, double lowest, double highest) {
        return number(area, label, usual, unit, v -> Figures.decimal(v, digits), lowest, highest);
    }

    private static Parameter<Double> signed(Area area, String label, double usual, String unit, int digits, double lowest, double highest) {
        return number(area, label, usual, unit, v -> Figures.signed(v, digits), lowest, highest);
    }

    private static Parameter<Double> number(Area area, String label, double usual, String unit, DoubleFunction<String> text, double lowest, double highest) {
        return new Parameter<>(area, label, unit, usual, v -> text.apply(v) + " " + unit, v -> v >= lowest && v <= highest,
                v -> Math.clamp(v, lowest, highest));
    }

    private static Parameter<Double> seconds(Area area, String label, double usual) { return number(area, label, usual, "s", 3, 0, 1000); }

    private static Parameter<Optional<Span>> spanOption(Area area, String label) {
        return new Parameter<>(area, label, Optional.empty(), s -> s.map(Parameter::span).orElse("none"), _ -> true);
    }

    private static Parameter<FadeCurve> curve(String label) {
        return new Parameter<>(Area.MAP, label, FadeCurve.POWER, c -> c.name().toLowerCase(Locale.ROOT), _ -> true);
    }

    private static String span(Span span) { return span.low() + "…" + span.high(); }

    private static String frames(long frames) { return String.format(Locale.ROOT, "frame %,d", frames); }

    private static String loops(List<Loop> loops) {
        return loops.isEmpty()
                ? "none"
                : loops.stream().map(l -> String.format(Locale.ROOT, "%,d…%,d %s", l.frames().start(), l.frames().end(), l.mode().label()))
                        .collect(Collectors.joining(", "));
    }

    public Area area() { return area; }

    public String label() { return label; }

    /// Of its number; empty where it has none.
    public String unit() { return unit; }

    /// What a player does where nothing is said.
    public T usual() { return usual; }

    public String text(T value) { return text.apply(value); }

    public boolean allows(T value) { return allowed.test(value); }

    /// Whether nobody hears or reads a difference: levels below [#SILENT_DB] are all silence, and a step finer than the text is none.
    public boolean isSame(T a, T b) {
        if (a.equals(b)) return true;
        if (!(a instanceof Double x && b instanceof Double y)) return false;
        return text(a).equals(text(b)) || this == SUSTAIN && x <= SILENT_DB && y <= SILENT_DB;
    }

    /// For a number that is out of bounds, the bound.
    public T nearest(T value) { return nearest.apply(value); }

    /// Where it stands in [#ALL].
    public int place() { return place; }

    @Override public String toString() { return label; }
}
