package ablecrate.option;

import static ablecrate.option.OptionKinds.NONE;
import static ablecrate.option.OptionKinds.channels;
import static ablecrate.option.OptionKinds.choice;
import static ablecrate.option.OptionKinds.choices;

import static ablecrate.option.OptionKinds.formatIds;
import static ablecrate.option.OptionKinds.isLossy;
import static ablecrate.option.OptionKinds.metadata;
import static ablecrate.option.OptionKinds.middleC;
import static ablecrate.option.OptionKinds.number;
import static ablecrate.option.OptionKinds.numbersKits;
import static ablecrate.option.OptionKinds.plain;
import static ablecrate.option.OptionKinds.playing;
import static ablecrate.option.OptionKinds.takes;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.Dither;
import ablecrate.session.TempoMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.Stream;

/// All options. A new one is a line here, and a component of the record that keeps it.
public final class Options {
    private static final List<Integer> USUAL_RATES = List.of(22_050, 32_000, 44_100, 48_000, 88_200, 96_000);

    private static final Option<Choice<String>> CONTAINER = Option.of("container", OptionGroup.FORMAT, "Container",
            "Of sounds, or of instruments; a format of instruments makes instruments of loose sounds.",
            choice(formatIds(), Optional::of, id -> id, OptionKinds::formatName), PackOptions::container,
            PackOptions::withContainer).offering(sheet -> choices(sheet.containers()));
    private static final Option<Choice<Integer>> RATE = Option.of("rate", OptionGroup.FORMAT, "Rate", "Sample rate of the results.",
            choice("HZ", OptionKinds::hertz, hz -> Integer.toString(hz), hz -> String.format(Locale.ROOT, "%,d Hz", hz)), PackOptions::rateHz,
            PackOptions::withRate).offering(sheet -> choices(sheet.accepts().rateChoices().isEmpty() ? USUAL_RATES : sheet.accepts().rateChoices()));
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
    private static final Option<Dither> DITHER = Option.of("dither", OptionGroup.FORMAT, "Dither", "Noise that is added where the bit depth gets smaller.",
            Kind.Words.of(List.of(Dither.values()), Dither::id, Dither::label), PackOptions::dither, PackOptions::withDither);
    private static final Option<Quality.Word> QUALITY = Option.of("quality", OptionGroup.FORMAT, "MP3 and Opus", "Of MP3 and Opus, at a variable rate.",
            Kind.Words.of(List.of(Quality.Word.values()), Quality.Word::id, Quality.Word::id), o -> o.quality().word(),
            (o, word) -> o.withQuality(Quality.of(word))).openWhere((sheet, _) -> isLossy(sheet));
    private static final Option<OptionalInt> BIT_RATE = Option.of("bit-rate", OptionGroup.FORMAT, "Constant bit rate",
            "Of MP3 and Opus, one rate throughout instead, in kbit/s.", new Kind.Number<>("KBPS", NONE, OptionKinds::kbps, OptionKinds::number, true),
            o -> o.quality().constantKbps(), (o, kbps) -> o.withQuality(new Quality(o.quality().word(), kbps))).openWhere((sheet, _) -> isLossy(sheet));
    private static final Option<MetadataChoice> METADATA = Option.of("metadata", OptionGroup.FORMAT, "Metadata in files",
            "What sound files say of themselves: any of loops, mapping, cues, broadcast, texts; unknown keeps chunks that nothing is known of in changed "
                    + "files too; as-they-are leaves files beside a map untouched.",
            metadata(), PackOptions::metadata, PackOptions::withMetadata);

    private static final Option<Boolean> CHECK = Option.of("check", OptionGroup.DAMAGE, "Check for damage",
            "Listen to each sound for clicks, dropouts and other damage.", Kind.Flag.of("yes", "no"), o -> o.mending().looksForDamage(),
            (o, v) -> o.withMending(o.mending().withLooking(v)));
    private static final Option<Boolean> MEND_CLICKS = Option.of("mend-clicks", OptionGroup.DAMAGE, "Short clicks", "Repair short clicks; up to 2 ms each.",
            Kind.Flag.of("repair", "keep"), o -> o.mending().mendsClicks(), (o, v) -> o.withMending(o.mending().withMending(v)));
    private static final Option<Boolean> DAMAGE = Option.of("damage", OptionGroup.DAMAGE, "Unrepaired damage",
            "Whether damage that was found and not repaired counts as a failure, exit 1.",
            Kind.Words.of(List.of(true, false), fails -> fails ? "fail" : "tell", fails -> fails ? "is a failure" : "is only reported"),
            o -> o.mending().damageFails(), (o, v) -> o.withMending(o.mending().withDamageFailing(v)));
    private static final Option<Boolean> LINE_UP = Option.of("line-up", OptionGroup.DAMAGE, "Encoder delay",
            "Remove the likely encoder delay where a compressed file does not state one.", Kind.Flag.of("remove the likely one", "keep"),
            o -> o.mending().takesLikelyDelay(), (o, v) -> o.withMending(o.mending().withLikelyDelay(v)));

    private static final Option<MapBy> MAP = Option.of("map", OptionGroup.INSTRUMENTS, "Map loose sounds",
            "How loose sounds become an instrument: by their own metadata, by their names, or one to a key.",
            Kind.Words.of(List.of(MapBy.values()), MapBy::id, by -> switch (by) {
                case AUTO -> "automatically";
                case CHUNKS -> "by their metadata";
                case NAMES -> "by their names";
                case KIT -> "as a kit, one to a key";
            }), o -> o.instruments().mapBy(), (o, v) -> o.withInstruments(o.instruments().withMapBy(v))).openWhere(OptionKinds::makesInstruments);
    private static final Option<KeyGaps> GAPS = Option.of("gaps", OptionGroup.INSTRUMENTS, "Keys between roots",
            "Which root the keys between two roots go to: half to each, all to the lower, all to the higher.",
            Kind.Words.of(List.of(KeyGaps.values()), KeyGaps::id, gaps -> switch (gaps) {
                case HALF -> "half to each";
                case UP -> "to the lower root";
                case DOWN -> "to the higher root";
            }), o -> o.instruments().gaps(), (o, v) -> o.withInstruments(o.instruments().withGaps(v))).openWhere(OptionKinds::makesInstruments);
    private static final Option<Integer> START_KEY = Option.of("start-key", OptionGroup.INSTRUMENTS, "First key",
            "First key of a kit; a number or a name, C4 is 60.", new Kind.Text<>("KEY", OptionKinds::key, k -> Integer.toString(k)),
            o -> o.instruments().kit().startKey(), (o, v) -> o.withInstruments(o.instruments().withKit(o.instruments().kit().withStartKey(v))))
            .openWhere(OptionKinds::makesInstruments);
    private static final Option<Integer> KIT_STEP = Option.of("kit-step", OptionGroup.INSTRUMENTS, "Key spacing",
            "Keys from one sound of a kit to the next; 1 for neighbouring keys.",
            Kind.Words.of(List.of(1, 2, 3), k -> Integer.toString(k), OptionKinds::stepText).orElse("KEYS", OptionKinds::whole, k -> Integer.toString(k)),
            o -> o.instruments().kit().stepKeys(), (o, v) -> o.withInstruments(o.instruments().withKit(o.instruments().kit().withStep(v))))
            .openWhere(OptionKinds::makesInstruments);
    private static final Option<Boolean> ONE_KIT = Option.of("one-kit", OptionGroup.INSTRUMENTS, "Kits",
            "With --map kit: the sounds of all folders make one kit, in the order of their names.",
            Kind.Flag.of("one for all", "one per folder"),
            o -> o.instruments().kit().isOfAll(), (o, v) -> o.withInstruments(o.instruments().withKit(o.instruments().kit().withAll(v))))
            .openWhere(OptionKinds::makesInstruments);
    private static final Option<OptionalInt> MIDDLE_C = Option.of("middle-c", OptionGroup.INSTRUMENTS, "Middle C",
            "What names call key 60; heard: as the sounds themselves tell, else c4.", middleC(), o -> o.instruments().names().shiftKeys(),
            (o, v) -> o.withInstruments(o.instruments().withNames(o.instruments().names().withShift(v)))).openWhere(OptionKinds::makesInstruments);
    private static final Option<Map<Integer, String>> NAME_PART = Option.of("name-part", OptionGroup.INSTRUMENTS, "Parts of names",
            "What the Nth part of names means: key, loudness, turn, side, release or nothing; -1 is the last; may be repeated.",
            new Kind.Numbered("N=MEANING"), OptionKinds::nameParts, OptionKinds::withNameParts).openWhere(OptionKinds::makesInstruments);
    private static final Option<Banks> BANKS = Option.of("banks", OptionGroup.INSTRUMENTS, "Instruments",
            "How instruments are shared out among banks: as in the source, all in one, or a bank each.",
            Kind.Words.of(List.of(Banks.values()), b -> b.name().toLowerCase(Locale.ROOT).replace('_', '-'), banks -> switch (banks) {
                case AS_SOURCE -> "as the source";
                case ONE -> "all in one bank";
                case EACH -> "a bank each";
            }), o -> o.instruments().banks(), (o, v) -> o.withInstruments(o.instruments().withBanks(v))).openWhere(OptionKinds::makesInstruments);
    private static final Option<List<String>> INSTRUMENT = Option.of("instrument", OptionGroup.INSTRUMENTS, "Take only",
            "Only this instrument of a bank; may be repeated.", Kind.Several.texts("NAME"), o -> o.instruments().only(),
            (o, v) -> o.withInstruments(o.instruments().withOnly(v)));
    private static final Option<Boolean> PLAYING_DEFAULTS = Option.of("playing-defaults", OptionGroup.INSTRUMENTS, "Missing release",
            "Add a release that suits the instrument where the source has none.", Kind.Flag.of("add one", "leave as it is"),
            o -> o.instruments().playing().defaults(),
            (o, v) -> o.withInstruments(o.instruments().withPlaying(o.instruments().playing().withDefaults(v))))
            .openWhere(OptionKinds::makesInstruments);
    private static final Option<Optional<Integer>> MIDI_CHANNEL = Option.of("midi-channel", OptionGroup.INSTRUMENTS, "MIDI channel",
            "The channel that an instrument listens on, 1 to 16, where its description says one.", OptionKinds.orAsSource("N"),
            o -> o.instruments().playing().settings().channel(), (o, v) -> playing(o, p -> p.withChannel(v))).openWhere(OptionKinds::saysPlaying);
    private static final Option<Optional<Boolean>> MONO_VOICE = Option.of("mono-voice", OptionGroup.INSTRUMENTS, "Voices",
            "Whether a note ends the one before it, where an instrument's description says so.",
            new Kind.Flag<>(Optional.of(true), Optional.of(false), m -> m.map(mono -> mono ? "one at a time" : "many").orElse("source")),
            o -> o.instruments().playing().settings().isMono(), (o, v) -> playing(o, p -> p.withMono(v))).openWhere(OptionKinds::saysPlaying);
    private static final Option<Optional<Integer>> BEND_KEYS = Option.of("bend-keys", OptionGroup.INSTRUMENTS, "Bend range",
            "Keys by which the bend wheel raises and lowers, 0 to 24, where an instrument's description says it.", OptionKinds.orAsSource("KEYS"),
            o -> o.instruments().playing().settings().bendKeys(), (o, v) -> playing(o, p -> p.withBend(v))).openWhere(OptionKinds::saysPlaying);
    private static final Option<Optional<Integer>> WHEEL_VIBRATO = Option.of("wheel-vibrato", OptionGroup.INSTRUMENTS, "Modulation wheel",
            "Cents of vibrato that the raised modulation wheel adds, 0 to 1200, where an instrument's description says it.", OptionKinds.orAsSource("CENTS"),
            o -> o.instruments().playing().settings().wheelCents(), (o, v) -> playing(o, p -> p.withWheel(v))).openWhere(OptionKinds::saysPlaying);
    private static final Option<Optional<Boolean>> SMOOTH = Option.of("smooth-interpolation", OptionGroup.INSTRUMENTS, "Interpolation",
            "Whether a device is to play a smooth curve between samples rather than a straight line, where an instrument's description says so.",
            new Kind.Flag<>(Optional.of(true), Optional.of(false), m -> m.map(smooth -> smooth ? "smooth" : "straight").orElse("source")),
            o -> o.instruments().playing().settings().isSmooth(), (o, v) -> playing(o, p -> p.withSmooth(v))).openWhere(OptionKinds::saysPlaying);

    private static final Option<Fitting.Mode> FIT = Option.of("fit", OptionGroup.INSTRUMENTS, "If too large",
            "What is done with an instrument that has more layers, samples or memory than the device holds, and with loose sounds that take more memory together than it has: made to fit with as little harm as can be, or blocked.",
            Kind.Words.of(List.of(Fitting.Mode.values()), Fitting.Mode::id, Fitting.Mode::label), o -> o.instruments().fitting().mode(),
            (o, v) -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMode(v)))).openWhere(OptionKinds::isLimited);
    private static final Option<Optional<Double>> FIT_MEMORY = Option.of("fit-memory", OptionGroup.INSTRUMENTS, "Memory, in MB",
            "Memory for audio, in MB, where it is to be less than the device has: of each instrument, or of all together where they share one memory; device: what the destination has.",
            new Kind.Number<>("MB", "device", v -> v, v -> v.orElse(Double.NaN), false), o -> o.instruments().fitting().memoryMb(),
            (o, v) -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMemory(v))))
            .openWhere((sheet, _) -> !sheet.accepts().instruments().isEmpty() || sheet.sharesMemory());
    private static final Option<List<String>> FIT_WITHOUT = Option.of("fit-without", OptionGroup.INSTRUMENTS, "Fit without",
            "A step that fitting must not take: " + Fitting.names() + "; may be repeated.", Kind.Several.texts("STEP"),
            o -> o.instruments().fitting().without(),
            (o, v) -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withoutSteps(v)))).openWhere(OptionKinds::isLimited);
    private static final Option<List<String>> FIT_KEEP = Option.of("fit-keep", OptionGroup.INSTRUMENTS, "Fit, but keep",
            "A root that has to stay, by its key (C4, 60), or a layer, by a velocity of it (v100); may be repeated.", Kind.Several.texts("KEY|vN"),
            o -> o.instruments().fitting().keep(),
            (o, v) -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().keeping(v)))).openWhere(OptionKinds::isLimited);

    /// The form in the window shows it by itself, with what the first file will be called.
    public static final Option<Optional<String>> NAME = Option.of("name", OptionGroup.NAMES, "Names",
            "Names of results, with (name) (folder) (number) (root) (rate) (depth) (channel) (kit) (pad); dots are digits: (number...) makes 007.",
            new Kind.Text<>("PATTERN", s -> s.isEmpty() ? Optional.<String>empty() : Optional.of(s), p -> p.orElse("")), PackOptions::namePattern,
            PackOptions::withNamePattern);
    private static final Option<Optional<Boolean>> MIRROR = Option.of("mirror", OptionGroup.NAMES, "Source folders",
            "Recreate the folders of the source.",
            new Kind.Flag<>(Optional.of(true), Optional.of(false), m -> m.map(yes -> yes ? "recreate" : "do not recreate").orElse("destination")),
            PackOptions::mirror, PackOptions::withMirror).openWhere((sheet, o) -> !sheet.layout().oneFolder() || o.mirror().orElse(false));
    private static final Option<String> JOIN = Option.of("join", OptionGroup.NAMES, "Join into one",
            "Name of one long sound that all sounds become, one after another, with a cue point for each; '--part cues' takes it apart again.",
            new Kind.Text<>("NAME", String::strip, n -> n), o -> o.placing().joining().name(),
            (o, v) -> o.withPlacing(o.placing().withJoining(o.placing().joining().withName(v))));
    private static final Option<Double> JOIN_GAP = Option.of("join-gap", OptionGroup.NAMES, "Gap between joined", "Silence between two joined sounds, in ms.",
            new Kind.Number<>("MS", "", v -> v.orElse(0.0), v -> v, false), o -> o.placing().joining().gapMs(),
            (o, v) -> o.withPlacing(o.placing().withJoining(o.placing().joining().withGap(v)))).openWhere((_, o) -> o.placing().joining().isWanted());
    private static final Option<Joining.Order> JOIN_ORDER = Option.of("join-order", OptionGroup.NAMES, "Order of joined",
            "Which of the joined sounds comes first: folder by folder as they are gathered, by name, or the shortest.",
            Kind.Words.of(List.of(Joining.Order.values()), Joining.Order::id, Joining.Order::label), o -> o.placing().joining().order(),
            (o, v) -> o.withPlacing(o.placing().withJoining(o.placing().joining().withOrder(v)))).openWhere((_, o) -> o.placing().joining().isWanted());
    private static final Option<List<String>> JOIN_FIRST = Option.of("join-first", OptionGroup.NAMES, "First of joined",
            "A file that comes before the others in the joined sound, by its name or its path, * for any letters; may be repeated, in the order wanted.",
            Kind.Several.texts("NAME"),
            o -> o.placing().joining().first(), (o, v) -> o.withPlacing(o.placing().withJoining(o.placing().joining().withFirst(v))))
            .openWhere((_, o) -> o.placing().joining().isWanted());
    private static final Option<Joining.Contents> JOIN_CONTENTS = Option.of("join-contents", OptionGroup.NAMES, "List of joined",
            "A list of what lies where in the joined sound, beside it: as a CSV table, as a cue sheet of at most 99, or both.",
            Kind.Words.of(List.of(Joining.Contents.values()), Joining.Contents::id, Joining.Contents::label), o -> o.placing().joining().contents(),
            (o, v) -> o.withPlacing(o.placing().withJoining(o.placing().joining().withContents(v)))).openWhere((_, o) -> o.placing().joining().isWanted());
    private static final Option<OptionalInt> FIRST_KIT = Option.of("first-kit", OptionGroup.NAMES, "First new kit",
            "Number of the first new kit; next: one more than the highest that is there.", new Kind.Number<>("N", "next", OptionKinds::optionalInt,
                    OptionKinds::number, true),
            o -> o.placing().kits().first(), (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withFirst(v))))
            .openWhere((sheet, _) -> numbersKits(sheet));
    private static final Option<List<String>> KIT_NAME = Option.of("kit-name", OptionGroup.NAMES, "Names of kits",
            "Name of a new kit instead of its folder's; may be repeated, in the order of the kits.", Kind.Several.texts("NAME"),
            o -> o.placing().kits().names(),
            (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withNames(v)))).openWhere((sheet, _) -> numbersKits(sheet));
    private static final Option<PadOrder> PAD_ORDER = Option.of("pad-order", OptionGroup.NAMES, "Pads", "How a folder's sounds come onto pads.",
            Kind.Words.of(List.of(PadOrder.values()), PadOrder::id, PadOrder::label), o -> o.placing().kits().order(),
            (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withOrder(v)))).openWhere((sheet, _) -> numbersKits(sheet));
    private static final Option<Map<Integer, String>> PAD = Option.of("pad", OptionGroup.NAMES, "Sounds on pads",
            "Which sound comes onto pad N, by a pattern of its name such as 'kick*'; may be repeated.", new Kind.Numbered("N=PATTERN"),
            o -> o.placing().kits().pads(), (o, v) -> o.withPlacing(o.placing().withKits(o.placing().kits().withPads(v))))
            .openWhere((sheet, _) -> numbersKits(sheet));

    private static final Option<TrackStart> ON_TRACKS = Option.of("on-tracks", OptionGroup.SESSION, "On tracks",
            "Puts each sound on a new track of the session: at its time stamp, or at bar 1 without one; in a row, one after another; or at a bar. "
                    + "off leaves it beside the tracks.",
            new Kind.Words<>(TrackStart.words(), TrackStart::label, "off|stamp|row|BAR",
                    Optional.of(new Kind.Words.Others<>(TrackStart::read, TrackStart::id))),
            o -> o.session().onTracks(), (o, v) -> o.withSession(o.session().withTracks(v))).openWhere((sheet, _) -> sheet.isSession());
    private static final Option<Double> TEMPO = Option
            .of("tempo", OptionGroup.SESSION, "Tempo if new", "Beats a minute of a session that is made new.",
                    plain("BPM"), o -> o.session().bpm(), (o, v) -> o.withSession(o.session().withBpm(v)))
            .openWhere((sheet, _) -> sheet.isSession());
    private static final Option<TempoMap.Meter> METER = Option
            .of("meter", OptionGroup.SESSION, "Meter if new", "Of a session that is made new, as 6/8.",
                    new Kind.Text<>("BEATS/UNIT", SessionOptions::meter, m -> m.beats() + "/" + m.unit()), o -> o.session().meter(),
                    (o, v) -> o.withSession(o.session().withMeter(v)))
            .openWhere((sheet, _) -> sheet.isSession());

    private static final Option<ExistingFiles> EXISTING = Option.of("existing", OptionGroup.THERE, "If a file exists",
            "What happens where a file of that name exists; update writes again what an earlier run wrote and nobody changed, where its source or the options are different.",
            Kind.Words.of(List.of(ExistingFiles.values()), ExistingFiles::id, existing -> switch (existing) {
                case SKIP -> "skip";
                case UPDATE -> "update what changed";
                case REPLACE -> "replace";
                case NUMBER -> "number the new file";
            }), PackOptions::existing, PackOptions::withExisting);
    private static final Option<Boolean> VERIFY = Option.of("verify", OptionGroup.THERE, "Compare by",
            "Compare every existing file with its checksum on the slip, not only those whose size or time changed.",
            Kind.Flag.of("checksum", "size and time"), o -> o.placing().verifies(), (o, v) -> o.withPlacing(o.placing().withVerifying(v)));

    /// In the order in which people are told of them.
    public static final List<Option<?>> ALL = Stream
            .of(List.of(CONTAINER, RATE, DEPTH, CHANNELS, MONO, DITHER, QUALITY, BIT_RATE, METADATA, ON_TRACKS, TEMPO, METER), SoundOptions.ALL,
                    List.of(CHECK, DAMAGE, MEND_CLICKS, LINE_UP, MAP, GAPS, START_KEY, KIT_STEP, ONE_KIT, MIDDLE_C, NAME_PART, BANKS, INSTRUMENT,
                            PLAYING_DEFAULTS, MIDI_CHANNEL, MONO_VOICE, BEND_KEYS, WHEEL_VIBRATO, SMOOTH, FIT, FIT_MEMORY, FIT_WITHOUT, FIT_KEEP, NAME, MIRROR,
                            JOIN, JOIN_GAP,
                            JOIN_ORDER, JOIN_FIRST, JOIN_CONTENTS, FIRST_KIT, KIT_NAME, PAD_ORDER, PAD, EXISTING, VERIFY))
            .<Option<?>>flatMap(List::stream).toList();

    private Options() {}

    public static Optional<Option<?>> byId(String id) { return ALL.stream().filter(o -> o.id().equals(id)).findFirst(); }

    /// What may be said of single sounds.
    public static List<Option<?>> ofSounds() { return ALL.stream().filter(Option::isOfSounds).toList(); }
}
