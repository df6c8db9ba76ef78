package ablecrate.option;

import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.PlayingSettings;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NamePlace;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.NoteName;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// How the values of options are read and told, and where there is something to choose.
final class OptionKinds {
    static final String KEEP = "keep", DESTINATION = "destination", NONE = "none", AS_THEY_ARE = "as-they-are";
    private static final int LOWEST_KBPS = 6, HIGHEST_KBPS = 512;

    private OptionKinds() {}

    static <T> Kind<Choice<T>> choice(String sample, Function<String, Optional<T>> read, Function<T, String> id, Function<T, String> label) {
        Map<String, Choice<T>> words = new LinkedHashMap<>();
        words.put(KEEP, Choice.keep());
        words.put(DESTINATION, Choice.asDestination());
        return new Kind.Words<>(words, c -> switch (c) {
            case Choice.AsDestination<T>() -> "destination";
            case Choice.Keep<T>() -> "as the source";
            case Choice.Of<T>(T v) -> label.apply(v);
        }, "", Optional.empty()).orElse(sample + "|" + KEEP + "|" + DESTINATION, text -> read.apply(text).map(Choice::of),
                c -> id.apply(((Choice.Of<T>) c).value()));
    }

    static <T> List<Choice<T>> choices(List<T> values) {
        // One value alone leaves nothing to choose.
        if (values.size() < 2) return List.of();
        List<Choice<T>> all = new ArrayList<>(List.of(Choice.<T>asDestination(), Choice.<T>keep()));
        values.forEach(v -> all.add(Choice.of(v)));
        return all;
    }

    static boolean isLossy(DestinationSheet sheet) {
        return sheet.containers().stream().anyMatch(id -> SoundFormats.written(id).filter(f -> f.capabilities().compressing().isLossy()).isPresent());
    }

    static boolean takes(DestinationSheet sheet, int channels) {
        return sheet.accepts().channels().isEmpty() || sheet.accepts().channels().contains(channels);
    }

    static boolean makesInstruments(DestinationSheet sheet, PackOptions options) {
        return options.container().or(sheet.defaults().container()).flatMap(InstrumentFormats::byId).isPresent();
    }

    /// Whether descriptions of instruments say how they are played as a whole.
    static boolean saysPlaying(DestinationSheet sheet, PackOptions options) {
        return options.container().or(sheet.defaults().container()).or(() -> sheet.accepts().instruments().stream().findFirst())
                .flatMap(InstrumentFormats::byId)
                .filter(InstrumentFormat::saysPlaying).isPresent();
    }

    static Kind.Number<Integer> wholeNumber(String unit) { return new Kind.Number<>(unit, "", n -> n.orElseThrow().intValue(), n -> n, true); }

    /// A whole number, or what the source says.
    static Kind.Number<Optional<Integer>> orAsSource(String unit) {
        return new Kind.Number<>(unit, "source", n -> n.map(Double::intValue), v -> v.map(Integer::doubleValue).orElse(Double.NaN), true);
    }

    static PackOptions playing(PackOptions options, UnaryOperator<PlayingSettings> change) {
        Playing playing = options.instruments().playing();
        return options.withInstruments(options.instruments().withPlaying(playing.withSettings(change.apply(playing.settings()))));
    }

    /// Whether a device has limits for instruments, or the user has set one.
    static boolean isLimited(DestinationSheet sheet, PackOptions options) {
        return !sheet.limits().isNone() || options.instruments().fitting().memoryMb().isPresent();
    }

    static boolean numbersKits(DestinationSheet sheet) {
        return !sheet.layout().folder().isEmpty() && NamePattern.parse(sheet.layout().folder()).uses(NamePattern.Word.KIT);
    }

    static String formatIds() {
        return Stream.concat(SoundFormats.WRITTEN.stream().map(SoundFormat::id), InstrumentFormats.ALL.stream().map(InstrumentFormat::id))
                .collect(Collectors.joining("|"));
    }

    static String formatName(String id) {
        return SoundFormats.byId(id).map(SoundFormat::name).or(() -> InstrumentFormats.byId(id).map(InstrumentFormat::name)).orElse(id);
    }

    static Optional<Integer> hertz(String text) {
        return Optional.of(whole(text).filter(hz -> hz >= DestinationSheet.LOWEST_RATE_HZ && hz <= DestinationSheet.HIGHEST_RATE_HZ)
                .orElseThrow(() -> new IllegalArgumentException(String.format(Locale.ROOT, "'%s' is no rate from %,d to %,d Hz, nor %s or %s", text,
                        DestinationSheet.LOWEST_RATE_HZ, DestinationSheet.HIGHEST_RATE_HZ, KEEP, DESTINATION))));
    }

    static Optional<Integer> whole(String text) {
        return text.matches("-?\\d{1,9}") ? Optional.of(Integer.valueOf(text)) : Optional.empty();
    }

    static Kind<Optional<ChannelChoice>> channels() {
        Map<String, Optional<ChannelChoice>> words = new LinkedHashMap<>();
        Stream.of(ChannelChoice.values()).forEach(c -> words.put(c.id(), Optional.of(c)));
        words.put(DESTINATION, Optional.empty());
        return new Kind.Words<>(words, c -> c.map(choice -> switch (choice) {
            case KEEP -> "as the source";
            case MONO -> "mono";
            case STEREO -> "stereo";
            case SPLIT -> "split into mono files";
        }).orElse("destination"), "", Optional.empty());
    }

    static OptionalInt kbps(Optional<Double> number) {
        number.filter(n -> n < LOWEST_KBPS || n > HIGHEST_KBPS).ifPresent(n -> {
            throw new IllegalArgumentException(number(n) + " is no rate from " + LOWEST_KBPS + " to " + HIGHEST_KBPS + " kbit/s");
        });
        return optionalInt(number);
    }

    static OptionalInt optionalInt(Optional<Double> number) {
        return number.map(n -> OptionalInt.of((int) Math.clamp(n, Integer.MIN_VALUE, Integer.MAX_VALUE))).orElse(OptionalInt.empty());
    }

    static double number(OptionalInt value) { return value.isPresent() ? value.getAsInt() : Double.NaN; }

    static String number(double value) { return value == Math.rint(value) ? Long.toString((long) value) : Double.toString(value); }

    static Kind<MetadataChoice> metadata() {
        Map<String, MetadataChoice> words = new LinkedHashMap<>();
        words.put("all", MetadataChoice.ALL);
        words.put("all,unknown", MetadataChoice.WITH_UNKNOWN);
        words.put(AS_THEY_ARE, MetadataChoice.AS_THEY_ARE);
        words.put("loops,mapping,cues", new MetadataChoice(new Keeps(true, true, true, false, false), false, false));
        words.put("loops,mapping", new MetadataChoice(new Keeps(true, true, false, false, false), false, false));
        words.put(NONE, new MetadataChoice(new Keeps(false, false, false, false, false), false, false));
        return new Kind.Words<>(words, OptionKinds::metadataLabel, "", Optional.empty()).orElse("all|none|as-they-are|KIND,…", OptionKinds::someMetadata,
                f -> kindsText(f, "mapping", "broadcast", "unknown", AS_THEY_ARE).replace(", ", ","));
    }

    private static String metadataLabel(MetadataChoice choice) {
        if (choice.equals(MetadataChoice.ALL)) return "all of it";
        if (choice.equals(MetadataChoice.WITH_UNKNOWN)) return "all, and unknown chunks";
        if (choice.equals(MetadataChoice.AS_THEY_ARE)) return "leave files as they are";
        return kindsText(choice, "mapping", "time stamps", "unknown chunks", "files as they are");
    }

    static String kindsText(MetadataChoice f, String mapping, String broadcast, String unknown, String asTheyAre) {
        Map<String, Boolean> kinds = new LinkedHashMap<>();
        kinds.put("loops", f.written().loops());
        kinds.put(mapping, f.written().mapping());
        kinds.put("cues", f.written().cues());
        kinds.put(broadcast, f.written().broadcast());
        kinds.put("texts", f.written().texts());
        kinds.put(unknown, f.keepsUnknown());
        kinds.put(asTheyAre, f.leavesFiles());
        String said = kinds.entrySet().stream().filter(Map.Entry::getValue).map(Map.Entry::getKey).collect(Collectors.joining(", "));
        return said.isEmpty() ? NONE : said;
    }

    static Optional<MetadataChoice> someMetadata(String text) {
        Set<String> kinds = Set.of("all", "loops", "mapping", "cues", "broadcast", "texts", "unknown", AS_THEY_ARE),
                said = new TreeSet<>(List.of(text.split(",")));
        if (!kinds.containsAll(said)) return Optional.empty();
        if (said.remove("all")) said.addAll(List.of("loops", "mapping", "cues", "broadcast", "texts"));
        return Optional.of(new MetadataChoice(
                new Keeps(said.contains("loops"), said.contains("mapping"), said.contains("cues"), said.contains("broadcast"), said.contains("texts")),
                said.contains(AS_THEY_ARE),
                said.contains("unknown")));
    }

    static Optional<LevelTarget> target(String text) {
        if (text.equals(NONE)) return Optional.empty();
        int colon = text.indexOf(':');
        LevelMeasure measure = LevelMeasure.byId(colon < 0 ? text : text.substring(0, colon)).orElseThrow(() -> new IllegalArgumentException(
                "'" + text + "' has none of the measures " + Stream.of(LevelMeasure.values()).map(LevelMeasure::id).collect(Collectors.joining(", "))));
        try {
            return Optional.of(new LevelTarget(measure, Double.parseDouble(text.substring(colon + 1).replace('−', '-'))));
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("'" + text + "' has no level in dB behind its measure, as in " + measure.id() + ":-3");
        }
    }

    static Kind<Optional<Double>> some(String unit) { return new Kind.Number<>(unit, NONE, v -> v, v -> v.orElse(Double.NaN), false); }

    static Kind<Double> plain(String unit) { return new Kind.Number<>(unit, "", v -> v.orElseThrow(), v -> v, false); }

    static Option<FadeShape> shape(String id, String title, Function<Treatment, Fade> get, BiFunction<Treatment, Fade, Treatment> with) {
        return Option.ofSounds(id, title, "How the fade goes.", Kind.Words.of(List.of(FadeShape.values()), FadeShape::id, FadeShape::label),
                t -> get.apply(t).shape(), (t, s) -> with.apply(t, get.apply(t).withShape(s))).meaningfulWhere(t -> get.apply(t).ms() > 0);
    }

    static Kind<Chop> chop() {
        Map<String, Chop> words = new LinkedHashMap<>();
        Stream.of("none", "onsets", "grid:1/4", "grid:1/8", "grid:1/16", "cues", "gaps")
                .forEach(id -> words.put(id, Chop.read(id).orElseGet(() -> Chop.by(Chop.By.valueOf(id.toUpperCase(Locale.ROOT))))));
        // A tempo is told by an option of its own.
        return new Kind.Words<>(words, Chop::label, "onsets|grid:1/16|cues|gaps|N|at:FRAME,…|none", Optional.of(new Kind.Words.Others<>(Chop::read, Chop::id)));
    }

    static int key(String text) {
        return NoteName.parse(text, 4).filter(k -> k >= 0 && k <= 127)
                .orElseThrow(() -> new IllegalArgumentException("'" + text + "' is no key from 0 to 127"));
    }

    static String stepText(int keys) {
        return switch (keys) {
            case 1 -> "neighbours";
            case 2 -> "every second";
            case 3 -> "every third";
            default -> "every " + keys + "th";
        };
    }

    static Kind<OptionalInt> middleC() {
        Map<String, OptionalInt> words = new LinkedHashMap<>();
        words.put("heard", OptionalInt.empty());
        words.put("c4", OptionalInt.of(0));
        words.put("c3", OptionalInt.of(12));
        words.put("c5", OptionalInt.of(-12));
        // Shifts that jobs hold beside these have no word.
        return new Kind.Words<>(words, shift -> shift.isEmpty() ? "as it sounds" : switch (shift.getAsInt()) {
            case 0 -> "is C4";
            case 12 -> "is C3";
            case -12 -> "is C5";
            default -> String.format(Locale.ROOT, "keys moved by %+d", shift.getAsInt());
        }, "", Optional.empty()).orElse("heard|c3|c4|c5", _ -> Optional.empty(), shift -> Integer.toString(shift.getAsInt()));
    }

    static Map<Integer, String> nameParts(PackOptions options) {
        Map<Integer, String> parts = new TreeMap<>();
        options.instruments().names().parts().forEach((place, meaning) -> parts.put(place, meaning.id()));
        return parts;
    }

    static PackOptions withNameParts(PackOptions options, Map<Integer, String> parts) {
        NameReading reading = NameReading.FOUND.withShift(options.instruments().names().shiftKeys());
        for (Map.Entry<Integer, String> part : parts.entrySet()) {
            if (part.getKey() == 0) throw new IllegalArgumentException("parts are counted from 1, or from -1 for the last");
            reading = reading.withPart(NamePlace.ofNumber(part.getKey()), NamePart.byId(part.getValue()).orElseThrow(() -> new IllegalArgumentException(
                    "'" + part.getValue() + "' is none of " + Stream.of(NamePart.values()).map(NamePart::id).collect(Collectors.joining(", ")))));
        }
        return options.withInstruments(options.instruments().withNames(reading));
    }
}
