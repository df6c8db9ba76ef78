package ablecrate.option;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.destination.NamePattern;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
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
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// All options. A new one is a line here, and a component of the record that keeps it.
public final class Options {
    private static final List<Integer> USUAL_RATES = List.of(22_050, 32_000, 44_100, 48_000, 88_200, 96_000);
    private static final String KEEP = "keep", DESTINATION = "destination", NONE = "none";
    private static final int LOWEST_KBPS = 6, HIGHEST_KBPS = 512;

    private static final Option<Choice<String>> CONTAINER = Option.of("container", OptionGroup.FORMAT, "Container",
            "Of sounds, or of instruments; sfz, sf2 and dls make instruments of loose sounds.",
            choice(formatIds(), Optional::of, id -> id, Options::formatName), PackOptions::container,
            PackOptions::withContainer).offering(sheet -> choices(containers(sheet)));
    private static final Option<Choice<Integer>> RATE = Option.of("rate", OptionGroup.FORMAT, "Rate", "Sample rate of the results.",
            choice("HZ", Options::hertz, hz -> Integer.toString(hz), hz -> String.format(Locale.ROOT, "%,d Hz", hz)), PackOptions::rateHz,
            PackOptions::withRate).offering(sheet -> choices(sheet.accepts().ratesHz().isEmpty() ? USUAL_RATES : sheet.accepts().ratesHz()));
    private static final Option<Choice<Depth>> DEPTH = Option.of("depth", OptionGroup.FORMAT, "Depth", "Bits of a sample; f is float.",
            choice("8|16|24|32|32f|64f", Depth::byId, Depth::id, Depth::label), PackOptions::depth, PackOptions::withDepth)
            .offering(sheet -> choices(sheet.accepts().depths().isEmpty() ? List.of(Depth.values()) : sheet.accepts().depthList()));
    private static final Option<Optional<ChannelChoice>> CHANNELS = Option.of("channels", OptionGroup.FORMAT, "Channels",
            "split makes a mono file of each channel.", channels(), PackOptions::channels, PackOptions::withChannels)
            .offering(sheet -> Stream.concat(Stream.of(Optional.<ChannelChoice>empty()), Stream.of(ChannelChoice.values())
                    .filter(c -> c == ChannelChoice.KEEP || takes(sheet, c == ChannelChoice.STEREO ? 2 : 1)).map(Optional::of)).toList());
    private static final Option<MonoLaw> MONO = Option.of("mono", OptionGroup.FORMAT, "Stereo to mono", "What a stereo sound becomes in mono.",
            Kind.Words.of(List.of(MonoLaw.values()), MonoLaw::id, law -> switch (law) {
                case MID -> "middle, (L+R)/2";
                case LEFT -> "left only";
                case RIGHT -> "right only";
            }), PackOptions::monoLaw, PackOptions::withMonoLaw).openWhere((sheet, _) -> takes(sheet, 1));
    private static final Option<Dither> DITHER = Option.of("dither", OptionGroup.FORMAT, "Dither", "What is done about rounding where depth falls.",
            Kind.Words.of(List.of(Dither.values()), Dither::id, Dither::label), PackOptions::dither, PackOptions::withDither);
    private static final Option<Quality.Word> QUALITY = Option.of("quality", OptionGroup.FORMAT, "MP3 and Opus", "Of MP3 and Opus, at a variable rate.",
            Kind.Words.of(List.of(Quality.Word.values()), Quality.Word::id, Quality.Word::id), o -> o.quality().word(),
            (o, word) -> o.withQuality(Quality.of(word))).openWhere((sheet, _) -> isLossy(sheet));
    private static final Option<OptionalInt> BIT_RATE = Option.of("bit-rate", OptionGroup.FORMAT, "Constant bit rate",
            "Of MP3 and Opus, one rate throughout instead, in kbit/s.", new Kind.Number<>("KBPS", NONE, Options::kbps, Options::number, true),
            o -> o.quality().constantKbps(), (o, kbps) -> o.withQuality(new Quality(o.quality().word(), kbps))).openWhere((sheet, _) -> isLossy(sheet));
    private static final Option<MetadataChoice> METADATA = Option.of("metadata", OptionGroup.FORMAT, "Metadata in files",
            "What sound files say of themselves: any of loops, mapping, cues, broadcast, texts; unknown keeps chunks that nothing is known of in changed "
                    + "files too; as-they-are leaves files beside a map untouched.",
            metadata(), PackOptions::metadata, PackOptions::withMetadata);

    private static final Option<Optional<LevelTarget>> LEVEL = Option.ofSounds("level", "Set levels by",
            "Set levels; measures: peak (dBFS), truepeak (dBTP), lufs-i, lufs-m, lufs-s (LUFS). A loudness brings a ceiling of −1 dBTP where none is said.",
            new Kind.Text<>("MEASURE:VALUE|none", Options::target, t -> t.map(l -> l.measure().id() + ":" + number(l.value())).orElse(NONE)),
            Treatment::level, Treatment::aimedAt);
    private static final Option<Boolean> TOGETHER = Option.ofSounds("together", "Folder as one",
            "One gain for all sounds of a folder, so that their steps stay.", Kind.Flag.of("folder as one", "each by itself"), Treatment::together,
            Treatment::withTogether);
    private static final Option<Optional<Double>> CEILING = Option.ofSounds("ceiling", "Ceiling", "True peak that nothing goes beyond, in dBTP.",
            some("DBTP"), Treatment::ceilingDbtp, Treatment::withCeiling);
    private static final Option<CeilingBy> CEILING_BY = Option.ofSounds("ceiling-by", "Ceiling kept by",
            "Lower the peaks, or the whole sound; with --together always the gain.",
            Kind.Words.of(List.of(CeilingBy.values()), CeilingBy::id, c -> c == CeilingBy.LIMITER ? "limiter" : "lower gain"), Treatment::ceilingBy,
            Treatment::withCeilingBy);
    private static final Option<Double> LIMITING = Option.ofSounds("limiting", "Limiting up to",
            "How far a limiter may lower peaks so that a sound becomes as loud as asked, in dB.", plain("DB"), t -> t.limits().mostLimitingDb(),
            (t, db) -> t.withLimits(t.limits().withMostLimiting(db)));
    private static final Option<Overs> OVERS = Option.ofSounds("overs", "Over full scale",
            "What is done where samples would lie beyond full scale and there is no ceiling: limit them, lower the sound, lower its instrument or folder, "
                    + "or cut them off.",
            Kind.Words.of(List.of(Overs.values()), Overs::id, Overs::label), t -> t.limits().overs(), (t, o) -> t.withLimits(t.limits().withOvers(o)));
    private static final Option<Double> FADE_IN = Option.ofSounds("fade-in", "Fade in", "Outside of loops, in ms.", plain("MS"), t -> t.fadeIn().ms(),
            (t, ms) -> t.withFadeIn(t.fadeIn().withMs(ms)));
    private static final Option<Double> FADE_OUT = Option.ofSounds("fade-out", "Fade out", "Outside of loops, in ms.", plain("MS"), t -> t.fadeOut().ms(),
            (t, ms) -> t.withFadeOut(t.fadeOut().withMs(ms)));
    private static final Option<FadeShape> FADE_IN_SHAPE = shape("fade-in-shape", "Shape of the fade-in", Treatment::fadeIn, Treatment::withFadeIn);
    private static final Option<FadeShape> FADE_OUT_SHAPE = shape("fade-out-shape", "Shape of the fade-out", Treatment::fadeOut, Treatment::withFadeOut);
    private static final Option<Optional<Double>> TRIM = Option.ofSounds("trim", "Silence below",
            "Take silence off start and end: what lies below this level in dBFS, as -60.", some("DB"), Treatment::trimDbfs, Treatment::withTrim);
    private static final Option<Boolean> DC = Option.ofSounds("dc", "DC offset", "Take a constant offset off.", Kind.Flag.of("taken off", "left"),
            Treatment::removesOffset, Treatment::withOffsetRemoved);
    private static final Option<Double> LOOP_CROSSFADE = Option.ofSounds("loop-crossfade", "Loop crossfade",
            "Blend the end of loops into what comes before their start, in ms.", plain("MS"), Treatment::loopCrossfadeMs, Treatment::withLoopCrossfade);

    private static final Option<Boolean> CHECK = Option.of("check", OptionGroup.DAMAGE, "Damage",
            "Listen to each sound for clicks, dropouts and other damage.", Kind.Flag.of("look for it", "not looked for"), o -> o.mending().looksForDamage(),
            (o, v) -> o.withMending(o.mending().withLooking(v)));
    private static final Option<Boolean> MEND_CLICKS = Option.of("mend-clicks", OptionGroup.DAMAGE, "Short clicks", "Fill short clicks in; up to 2 ms each.",
            Kind.Flag.of("mend them", "leave them"), o -> o.mending().mendsClicks(), (o, v) -> o.withMending(o.mending().withMending(v)));
    private static final Option<Boolean> DAMAGE = Option.of("damage", OptionGroup.DAMAGE, "Damage that stays",
            "Whether damage that was found and stays counts as a failure, exit 1.",
            Kind.Words.of(List.of(true, false), fails -> fails ? "fail" : "tell", fails -> fails ? "counts as a failure" : "is told"),
            o -> o.mending().damageFails(), (o, v) -> o.withMending(o.mending().withDamageFailing(v)));
    private static final Option<Boolean> LINE_UP = Option.of("line-up", OptionGroup.DAMAGE, "Delay not said",
            "Take the encoder's likely delay off where a compressed file does not say it.", Kind.Flag.of("take the likely one off", "leave it"),
            o -> o.mending().takesLikelyDelay(), (o, v) -> o.withMending(o.mending().withLikelyDelay(v)));

    private static final Option<MapBy> MAP = Option.of("map", OptionGroup.INSTRUMENTS, "Loose sounds",
            "How loose sounds become an instrument: by their chunks, by their names, or one a key.",
            Kind.Words.of(List.of(MapBy.values()), MapBy::id, by -> switch (by) {
                case AUTO -> "as they tell";
                case CHUNKS -> "by their chunks";
                case NAMES -> "by their names";
                case KIT -> "a kit, one a key";
            }), o -> o.instruments().mapBy(), (o, v) -> o.withInstruments(o.instruments().withMapBy(v))).openWhere((_, o) -> makesInstruments(o));
    private static final Option<KeyGaps> GAPS = Option.of("gaps", OptionGroup.INSTRUMENTS, "Between roots",
            "Keys between two roots: half-way, to the lower root, to the higher.",
            Kind.Words.of(List.of(KeyGaps.values()), KeyGaps::id, gaps -> switch (gaps) {
                case HALF -> "half-way each";
                case UP -> "to the lower root";
                case DOWN -> "to the higher root";
            }), o -> o.instruments().gaps(), (o, v) -> o.withInstruments(o.instruments().withGaps(v))).openWhere((_, o) -> makesInstruments(o));
    private static final Option<Integer> START_KEY = Option.of("start-key", OptionGroup.INSTRUMENTS, "First key of a kit",
            "First key of a kit; a number or a name, C4 is 60.", new Kind.Text<>("KEY", Options::key, k -> Integer.toString(k)),
            o -> o.instruments().kit().startKey(), (o, v) -> o.withInstruments(o.instruments().withKit(o.instruments().kit().withStartKey(v))))
            .openWhere((_, o) -> makesInstruments(o));
    private static final Option<Integer> KIT_STEP = Option.of("kit-step", OptionGroup.INSTRUMENTS, "Keys of a kit",
            "From one sound of a kit to the next; 1 for neighbouring keys.",
            Kind.Words.of(List.of(1, 2, 3), k -> Integer.toString(k), Options::stepText).orElse("KEYS", Options::whole, k -> Integer.toString(k)),
            o -> o.instruments().kit().stepKeys(), (o, v) -> o.withInstruments(o.instruments().withKit(o.instruments().kit().withStep(v))))
            .openWhere((_, o) -> makesInstruments(o));
    private static final Option<Boolean> ONE_KIT = Option.of("one-kit", OptionGroup.INSTRUMENTS, "Kits",
            "With --map kit: the sounds of all folders make one kit, in the order of their names.", Kind.Flag.of("one of all", "one a folder"),
            o -> o.instruments().kit().isOfAll(), (o, v) -> o.withInstruments(o.instruments().withKit(o.instruments().kit().withAll(v))))
            .openWhere((_, o) -> makesInstruments(o));
    private static final Option<OptionalInt> MIDDLE_C = Option.of("middle-c", OptionGroup.INSTRUMENTS, "Middle C",
            "What names call key 60; heard: as the sounds themselves tell, else c4.", middleC(), o -> o.instruments().names().shiftKeys(),
            (o, v) -> o.withInstruments(o.instruments().withNames(o.instruments().names().withShift(v)))).openWhere((_, o) -> makesInstruments(o));
    private static final Option<Map<Integer, String>> NAME_PART = Option.of("name-part", OptionGroup.INSTRUMENTS, "Parts of names",
            "What the Nth part of names means: key, loudness, turn, side, release or nothing; -1 is the last; may be repeated.",
            new Kind.Numbered("N=MEANING"), Options::nameParts, Options::withNameParts).openWhere((_, o) -> makesInstruments(o));
    private static final Option<Banks> BANKS = Option.of("banks", OptionGroup.INSTRUMENTS, "Instruments",
            "How instruments are shared out among banks: as in the source, all in one, or a bank each.",
            Kind.Words.of(List.of(Banks.values()), b -> b.name().toLowerCase(Locale.ROOT).replace('_', '-'), banks -> switch (banks) {
                case AS_SOURCE -> "as the source";
                case ONE -> "all in one bank";
                case EACH -> "a bank each";
            }), o -> o.instruments().banks(), (o, v) -> o.withInstruments(o.instruments().withBanks(v))).openWhere((_, o) -> makesInstruments(o));
    private static final Option<List<String>> INSTRUMENT = Option.of("instrument", OptionGroup.INSTRUMENTS, "Only these",
            "Only this instrument of a bank; may be repeated.", new Kind.Texts("NAME"), o -> o.instruments().only(),
            (o, v) -> o.withInstruments(o.instruments().withOnly(v)));
    private static final Option<Boolean> PLAYING_DEFAULTS = Option.of("playing-defaults", OptionGroup.INSTRUMENTS, "If no release",
            "A release that suits the instrument where the source has none.", Kind.Flag.of("a fitting one", "leave it so"),
            o -> o.instruments().playingDefaults(), (o, v) -> o.withInstruments(o.instruments().withPlayingDefaults(v)))
            .openWhere((_, o) -> makesInstruments(o));

    /// The form in the window shows it by itself, with what the first file will be called.
    public static final Option<Optional<String>> NAME = Option.of("name", OptionGroup.NAMES, "Names",
            "Names of results, with (name) (folder) (number) (root) (rate) (depth) (channel) (kit) (pad); dots are digits: (number...) makes 007.",
            new Kind.Text<>("PATTERN", s -> s.isEmpty() ? Optional.<String>empty() : Optional.of(s), p -> p.orElse("")), PackOptions::namePattern,
            PackOptions::withNamePattern);
    private static final Option<Optional<Boolean>> MIRROR = Option.of("mirror", OptionGroup.NAMES, "Source folders", "Rebuild the folders of the source.",
            new Kind.Flag<>(Optional.of(true), Optional.of(false), m -> m.map(yes -> yes ? "rebuilt" : "left out").orElse("by the destination")),
            PackOptions::mirror, PackOptions::withMirror);
    private static final Option<OptionalInt> FIRST_KIT = Option.of("first-kit", OptionGroup.NAMES, "First new kit",
            "Number of the first new kit; next: one more than the highest that is there.", new Kind.Number<>("N", "next", Options::optionalInt,
                    Options::number, true),
            o -> o.placing().kits().first(), (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withFirst(v))))
            .openWhere((sheet, _) -> numbersKits(sheet));
    private static final Option<List<String>> KIT_NAME = Option.of("kit-name", OptionGroup.NAMES, "Names of kits",
            "Name of a new kit instead of its folder's; may be repeated, in the order of the kits.", new Kind.Texts("NAME"), o -> o.placing().kits().names(),
            (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withNames(v)))).openWhere((sheet, _) -> numbersKits(sheet));
    private static final Option<PadOrder> PAD_ORDER = Option.of("pad-order", OptionGroup.NAMES, "Pads", "How a folder's sounds come onto pads.",
            Kind.Words.of(List.of(PadOrder.values()), PadOrder::id, PadOrder::label), o -> o.placing().kits().order(),
            (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withOrder(v)))).openWhere((sheet, _) -> numbersKits(sheet));
    private static final Option<Map<Integer, String>> PAD = Option.of("pad", OptionGroup.NAMES, "Sounds on pads",
            "Which sound comes onto pad N, by a pattern of its name such as 'kick*'; may be repeated.", new Kind.Numbered("N=PATTERN"),
            o -> o.placing().kits().pads(), (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withPads(v))))
            .openWhere((sheet, _) -> numbersKits(sheet));

    private static final Option<ExistingFiles> EXISTING = Option.of("existing", OptionGroup.THERE, "If it is there",
            "Where a file of that name is there; update writes anew what a run wrote and nobody touched, where its source or the options changed.",
            Kind.Words.of(List.of(ExistingFiles.values()), ExistingFiles::id, existing -> switch (existing) {
                case SKIP -> "leave it";
                case UPDATE -> "update what changed";
                case REPLACE -> "replace it";
                case NUMBER -> "number the new";
            }), PackOptions::existing, PackOptions::withExisting);
    private static final Option<Boolean> VERIFY = Option.of("verify", OptionGroup.THERE, "Trust what is there",
            "Compare every file that is there with its checksum on the slip, not only those whose size or time changed.",
            Kind.Flag.of("by its checksum", "by size and time"), o -> o.placing().verifies(), (o, v) -> o.withPlacing(o.placing().withVerifying(v)));

    /// In the order in which people are told of them.
    public static final List<Option<?>> ALL = List.of(CONTAINER, RATE, DEPTH, CHANNELS, MONO, DITHER, QUALITY, BIT_RATE, METADATA, LEVEL, TOGETHER, CEILING,
            CEILING_BY, LIMITING, OVERS, FADE_IN, FADE_OUT, FADE_IN_SHAPE, FADE_OUT_SHAPE, TRIM, DC, LOOP_CROSSFADE, CHECK, DAMAGE, MEND_CLICKS, LINE_UP, MAP,
            GAPS, START_KEY, KIT_STEP, ONE_KIT, MIDDLE_C, NAME_PART, BANKS, INSTRUMENT, PLAYING_DEFAULTS, NAME, MIRROR, FIRST_KIT, KIT_NAME, PAD_ORDER, PAD,
            EXISTING, VERIFY);

    private Options() {}

    public static Optional<Option<?>> byId(String id) { return ALL.stream().filter(o -> o.id().equals(id)).findFirst(); }

    /// What may be said of single sounds.
    public static List<Option<?>> ofSounds() { return ALL.stream().filter(Option::isOfSounds).toList(); }

    /// All options as Markdown, a table for each group.
    public static String markdown() {
        StringBuilder out = new StringBuilder();
        for (OptionGroup group : OptionGroup.values()) {
            out.append("## ").append(group.title()).append("\n\n| option | in the window | what it does | default |\n|---|---|---|---|\n");
            ALL.stream().filter(o -> o.group() == group).forEach(o -> out.append(row(o)));
            if (group == OptionGroup.LEVELS) out.append("\n¹ of chosen sounds too, with `--treat` and in the window\n");
            out.append('\n');
        }
        return out.toString();
    }

    private static <T> String row(Option<T> option) {
        String said = String.join(", ", option.kind().texts(option.usual()));
        String usual = option.kind() instanceof Kind.Flag<T> ? said.isEmpty() ? option.kind().label(option.usual()) : said.equals("true") ? "yes" : "no" : said;
        String sample = option.kind().sample().isEmpty() ? "" : " " + option.kind().sample().replace("|", "\\|");
        return "| `--" + option.id() + sample + "`" + (option.isOfSounds() ? " ¹" : "") + " | " + option.title() + " | " + option.help().replace("|", "\\|")
                + " | " + usual + " |\n";
    }

    private static <T> Kind<Choice<T>> choice(String sample, Function<String, Optional<T>> read, Function<T, String> id, Function<T, String> label) {
        Map<String, Choice<T>> words = new LinkedHashMap<>();
        words.put(KEEP, Choice.keep());
        words.put(DESTINATION, Choice.asDestination());
        return new Kind.Words<>(words, c -> switch (c) {
            case Choice.AsDestination<T>() -> "by the destination";
            case Choice.Keep<T>() -> "as the source";
            case Choice.Of<T>(T v) -> label.apply(v);
        }, "", Optional.empty()).orElse(sample + "|" + KEEP + "|" + DESTINATION, text -> read.apply(text).map(Choice::of),
                c -> id.apply(((Choice.Of<T>) c).value()));
    }

    private static <T> List<Choice<T>> choices(List<T> values) {
        // One value alone leaves nothing to choose.
        if (values.size() < 2) return List.of();
        List<Choice<T>> all = new ArrayList<>(List.of(Choice.<T>asDestination(), Choice.<T>keep()));
        values.forEach(v -> all.add(Choice.of(v)));
        return all;
    }

    private static List<String> containers(DestinationSheet sheet) {
        List<String> all = new ArrayList<>(sheet.accepts().containers().isEmpty()
                ? SoundFormats.WRITTEN.stream().map(SoundFormat::id).toList()
                : sheet.accepts().containers());
        all.addAll(sheet.accepts().instruments());
        return all;
    }

    private static boolean isLossy(DestinationSheet sheet) {
        return containers(sheet).stream().anyMatch(id -> SoundFormats.written(id).filter(f -> f.capabilities().compressing().isLossy()).isPresent());
    }

    private static boolean takes(DestinationSheet sheet, int channels) {
        return sheet.accepts().channels().isEmpty() || sheet.accepts().channels().contains(channels);
    }

    private static boolean makesInstruments(PackOptions options) {
        return options.container() instanceof Choice.Of<String>(String id) && InstrumentFormats.byId(id).isPresent();
    }

    private static boolean numbersKits(DestinationSheet sheet) {
        return !sheet.layout().folder().isEmpty() && NamePattern.parse(sheet.layout().folder()).uses(NamePattern.Word.KIT);
    }

    private static String formatIds() {
        return Stream.concat(SoundFormats.WRITTEN.stream().map(SoundFormat::id), InstrumentFormats.ALL.stream().map(InstrumentFormat::id))
                .collect(Collectors.joining("|"));
    }

    private static String formatName(String id) {
        return SoundFormats.byId(id).map(SoundFormat::name).or(() -> InstrumentFormats.byId(id).map(InstrumentFormat::name)).orElse(id);
    }

    private static Optional<Integer> hertz(String text) {
        return Optional.of(whole(text).filter(hz -> hz >= DestinationSheet.LOWEST_RATE_HZ && hz <= DestinationSheet.HIGHEST_RATE_HZ)
                .orElseThrow(() -> new IllegalArgumentException(String.format(Locale.ROOT, "'%s' is no rate from %,d to %,d Hz, nor %s or %s", text,
                        DestinationSheet.LOWEST_RATE_HZ, DestinationSheet.HIGHEST_RATE_HZ, KEEP, DESTINATION))));
    }

    private static Optional<Integer> whole(String text) {
        return text.matches("-?\\d{1,9}") ? Optional.of(Integer.valueOf(text)) : Optional.empty();
    }

    private static Kind<Optional<ChannelChoice>> channels() {
        Map<String, Optional<ChannelChoice>> words = new LinkedHashMap<>();
        Stream.of(ChannelChoice.values()).forEach(c -> words.put(c.id(), Optional.of(c)));
        words.put(DESTINATION, Optional.empty());
        return new Kind.Words<>(words, c -> c.map(choice -> switch (choice) {
            case KEEP -> "as the source";
            case MONO -> "mono";
            case STEREO -> "stereo";
            case SPLIT -> "split into mono files";
        }).orElse("by the destination"), "", Optional.empty());
    }

    private static OptionalInt kbps(Optional<Double> number) {
        number.filter(n -> n < LOWEST_KBPS || n > HIGHEST_KBPS).ifPresent(n -> {
            throw new IllegalArgumentException(number(n) + " is no rate from " + LOWEST_KBPS + " to " + HIGHEST_KBPS + " kbit/s");
        });
        return optionalInt(number);
    }

    private static OptionalInt optionalInt(Optional<Double> number) {
        return number.map(n -> OptionalInt.of((int) Math.clamp(n, Integer.MIN_VALUE, Integer.MAX_VALUE))).orElse(OptionalInt.empty());
    }

    private static double number(OptionalInt value) { return value.isPresent() ? value.getAsInt() : Double.NaN; }

    private static String number(double value) { return value == Math.rint(value) ? Long.toString((long) value) : Double.toString(value); }

    private static Kind<MetadataChoice> metadata() {
        Map<String, MetadataChoice> words = new LinkedHashMap<>();
        words.put("all", MetadataChoice.ALL);
        words.put("all,unknown", MetadataChoice.WITH_UNKNOWN);
        words.put("as-they-are", MetadataChoice.AS_THEY_ARE);
        words.put("loops,mapping,cues", new MetadataChoice(new Keeps(true, true, true, false, false), false, false));
        words.put("loops,mapping", new MetadataChoice(new Keeps(true, true, false, false, false), false, false));
        words.put(NONE, new MetadataChoice(new Keeps(false, false, false, false, false), false, false));
        return new Kind.Words<>(words, f -> f.equals(MetadataChoice.ALL)
                ? "all of them"
                : f.equals(MetadataChoice.WITH_UNKNOWN)
                        ? "all, unknown chunks too"
                        : f.leavesFiles()
                                ? "files as they are"
                                : kindsText(f, "map", "dates",
                                        "unknown chunks"),
                "", Optional.empty()).orElse("all|none|as-they-are|KIND,…", Options::someMetadata,
                        f -> kindsText(f, "mapping", "broadcast", "unknown").replace(
                                ", ", ","));
    }

    private static String kindsText(MetadataChoice f, String mapping, String broadcast, String unknown) {
        Map<String, Boolean> kinds = new LinkedHashMap<>();
        kinds.put("loops", f.written().loops());
        kinds.put(mapping, f.written().mapping());
        kinds.put("cues", f.written().cues());
        kinds.put(broadcast, f.written().broadcast());
        kinds.put("texts", f.written().texts());
        kinds.put(unknown, f.keepsUnknown());
        String said = kinds.entrySet().stream().filter(Map.Entry::getValue).map(Map.Entry::getKey).collect(Collectors.joining(", "));
        return said.isEmpty() ? NONE : said;
    }

    private static Optional<MetadataChoice> someMetadata(String text) {
        Set<String> kinds = Set.of("all", "loops", "mapping", "cues", "broadcast", "texts", "unknown"), said = new TreeSet<>(List.of(text.split(",")));
        if (!kinds.containsAll(said)) return Optional.empty();
        if (said.remove("all")) said.addAll(List.of("loops", "mapping", "cues", "broadcast", "texts"));
        return Optional.of(new MetadataChoice(
                new Keeps(said.contains("loops"), said.contains("mapping"), said.contains("cues"), said.contains("broadcast"), said.contains("texts")), false,
                said.contains("unknown")));
    }

    private static Optional<LevelTarget> target(String text) {
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

    private static Kind<Optional<Double>> some(String unit) { return new Kind.Number<>(unit, NONE, v -> v, v -> v.orElse(Double.NaN), false); }

    private static Kind<Double> plain(String unit) { return new Kind.Number<>(unit, "", v -> v.orElseThrow(), v -> v, false); }

    private static Option<FadeShape> shape(String id, String title, Function<Treatment, Fade> get, BiFunction<Treatment, Fade, Treatment> with) {
        return Option.ofSounds(id, title, "How the fade goes.", Kind.Words.of(List.of(FadeShape.values()), FadeShape::id, FadeShape::label),
                t -> get.apply(t).shape(), (t, s) -> with.apply(t, get.apply(t).withShape(s)));
    }

    private static int key(String text) {
        return NoteName.parse(text, 4).filter(k -> k >= 0 && k <= 127)
                .orElseThrow(() -> new IllegalArgumentException("'" + text + "' is no key from 0 to 127"));
    }

    private static String stepText(int keys) {
        return switch (keys) {
            case 1 -> "neighbours";
            case 2 -> "every second";
            case 3 -> "every third";
            default -> "every " + keys + "th";
        };
    }

    private static Kind<OptionalInt> middleC() {
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

    private static Map<Integer, String> nameParts(PackOptions options) {
        Map<Integer, String> parts = new TreeMap<>();
        options.instruments().names().parts().forEach((place, meaning) -> parts.put(place, meaning.id()));
        return parts;
    }

    private static PackOptions withNameParts(PackOptions options, Map<Integer, String> parts) {
        NameReading reading = NameReading.FOUND.withShift(options.instruments().names().shiftKeys());
        for (Map.Entry<Integer, String> part : parts.entrySet()) {
            if (part.getKey() == 0) throw new IllegalArgumentException("parts are counted from 1, or from -1 for the last");
            reading = reading.withPart(NamePlace.ofNumber(part.getKey()), NamePart.byId(part.getValue()).orElseThrow(() -> new IllegalArgumentException(
                    "'" + part.getValue() + "' is none of " + Stream.of(NamePart.values()).map(NamePart::id).collect(Collectors.joining(", ")))));
        }
        return options.withInstruments(options.instruments().withNames(reading));
    }
}
