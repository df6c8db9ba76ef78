package ablecrate.option;

import static ablecrate.option.OptionKinds.NONE;
import static ablecrate.option.OptionKinds.channels;
import static ablecrate.option.OptionKinds.choice;
import static ablecrate.option.OptionKinds.choices;
import static ablecrate.option.OptionKinds.containers;
import static ablecrate.option.OptionKinds.formatIds;
import static ablecrate.option.OptionKinds.isLossy;
import static ablecrate.option.OptionKinds.metadata;
import static ablecrate.option.OptionKinds.middleC;
import static ablecrate.option.OptionKinds.number;
import static ablecrate.option.OptionKinds.numbersKits;
import static ablecrate.option.OptionKinds.plain;
import static ablecrate.option.OptionKinds.playing;
import static ablecrate.option.OptionKinds.shape;
import static ablecrate.option.OptionKinds.some;
import static ablecrate.option.OptionKinds.takes;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
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
            PackOptions::withContainer).offering(sheet -> choices(containers(sheet)));
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

    public static final Option<Optional<LevelTarget>> LEVEL = Option.ofSounds("level", "Set levels by",
            "Set levels; measures: peak (dBFS), truepeak (dBTP), lufs-i, lufs-m, lufs-s (LUFS). A loudness brings a ceiling of −1 dBTP where none is said.",
            new Kind.Text<>("MEASURE:VALUE|none", OptionKinds::target, t -> t.map(l -> l.measure().id() + ":" + number(l.value())).orElse(NONE)),
            Treatment::level, Treatment::aimedAt);
    private static final Option<Boolean> TOGETHER = Option.ofSounds("together", "Gain",
            "One gain for all sounds of a folder, so that the differences between them stay.", Kind.Flag.of("one for the folder", "one for each sound"),
            Treatment::together, Treatment::withTogether).meaningfulWhere(t -> t.level().isPresent());
    private static final Option<Boolean> STEMS = Option.ofSounds("stems", "Stems",
            "Stems that lie in one folder (as long as each other, with names that differ in words) are treated as one: one gain, the same start and end.",
            Kind.Flag.of("as one", "each by itself"), t -> t.asOne().stems(), (t, v) -> t.withAsOne(t.asOne().withStems(v)))
            .meaningfulWhere(t -> t.setsLevels() || t.trimDbfs().isPresent() || t.asOne().pads() || t.limits().overs() == Overs.LOWER);
    private static final Option<Boolean> EQUAL_LENGTH = Option.ofSounds("equal-length", "Length of stems",
            "Silence is added at the end of stems, up to the end of the longest, and in front of those that begin later by their time stamps. All long sounds of a folder whose names differ in words are stems then, however long each is.",
            Kind.Flag.of("as the longest", "as each is"), t -> t.asOne().pads(), (t, v) -> t.withAsOne(t.asOne().withPads(v)))
            .meaningfulWhere(t -> t.asOne().stems());
    private static final Option<Optional<Double>> CEILING = Option.ofSounds("ceiling", "Ceiling", "True peak that nothing goes beyond, in dBTP.",
            some("DBTP"), Treatment::ceilingDbtp, Treatment::withCeiling);
    private static final Option<CeilingBy> CEILING_BY = Option.ofSounds("ceiling-by", "Ceiling kept by",
            "Lower the peaks, or the whole sound; with --together always the gain.",
            Kind.Words.of(List.of(CeilingBy.values()), CeilingBy::id, c -> c == CeilingBy.LIMITER ? "limiter" : "lower gain"), Treatment::ceilingBy,
            Treatment::withCeilingBy).meaningfulWhere(t -> t.ceilingDbtp().isPresent() && !t.together());
    private static final Option<Double> LIMITING = Option.ofSounds("limiting", "Limiting up to",
            "How far a limiter may lower peaks so that a sound becomes as loud as asked, in dB.", plain("DB"), t -> t.limits().mostLimitingDb(),
            (t, db) -> t.withLimits(t.limits().withMostLimiting(db)))
            .meaningfulWhere(t -> t.level().isPresent() && !t.together() && t.ceilingBy() == CeilingBy.LIMITER);
    private static final Option<Overs> OVERS = Option.ofSounds("overs", "Over full scale",
            "What is done where samples would lie beyond full scale and there is no ceiling: limit them, lower the sound, lower its instrument or folder, "
                    + "or cut them off.",
            Kind.Words.of(List.of(Overs.values()), Overs::id, Overs::label), t -> t.limits().overs(), (t, o) -> t.withLimits(t.limits().withOvers(o)))
            .meaningfulWhere(t -> t.ceilingDbtp().isEmpty());
    private static final Option<Double> FADE_IN = Option.ofSounds("fade-in", "Fade in", "Outside of loops, in ms.", plain("MS"), t -> t.fadeIn().ms(),
            (t, ms) -> t.withFadeIn(t.fadeIn().withMs(ms)));
    private static final Option<Double> FADE_OUT = Option.ofSounds("fade-out", "Fade out", "Outside of loops, in ms.", plain("MS"), t -> t.fadeOut().ms(),
            (t, ms) -> t.withFadeOut(t.fadeOut().withMs(ms)));
    private static final Option<FadeShape> FADE_IN_SHAPE = shape("fade-in-shape", "Shape of the fade-in", Treatment::fadeIn, Treatment::withFadeIn);
    private static final Option<FadeShape> FADE_OUT_SHAPE = shape("fade-out-shape", "Shape of the fade-out", Treatment::fadeOut, Treatment::withFadeOut);
    private static final Option<Optional<Double>> TRIM = Option.ofSounds("trim", "Trim silence below",
            "Trim silence at start and end: what lies below this level, as -60.", some("DBFS"), Treatment::trimDbfs, Treatment::withTrim);
    private static final Option<Boolean> ON_ATTACK = Option.ofSounds("on-attack", "Start",
            "Start each sound on its first attack; loops are spared, and stems keep their common start.", Kind.Flag.of("on the first attack", "as it is"),
            t -> t.edges().onAttack(), (t, v) -> t.withEdges(t.edges().withOnAttack(v)));
    private static final Option<Double> PRE_ROLL = Option
            .ofSounds("pre-roll", "Before the attack", "What stays in front of the first attack, faded in, in ms.", plain("MS"),
                    t -> t.edges().preRollMs(), (t, v) -> t.withEdges(t.edges().withPreRoll(v)))
            .meaningfulWhere(t -> t.edges().onAttack());
    private static final Option<Boolean> CLICKLESS = Option.ofSounds("clickless", "Clicks at the ends",
            "Fade ends that step from or to silence, where they click: 1 ms in, 3 ms out.", Kind.Flag.of("fade away", "keep"),
            t -> t.edges().clickless(), (t, v) -> t.withEdges(t.edges().withClickless(v)));
    private static final Option<Boolean> DC = Option.ofSounds("dc", "DC offset", "Remove a constant offset.", Kind.Flag.of("remove", "keep"),
            Treatment::removesOffset, Treatment::withOffsetRemoved);
    private static final Option<Double> LOOP_CROSSFADE = Option.ofSounds("loop-crossfade", "Loop crossfade",
            "Blend the end of loops into what comes before their start, in ms.", plain("MS"), Treatment::loopCrossfadeMs, Treatment::withLoopCrossfade);

    private static final Option<Boolean> FIND_LOOPS = Option.ofSounds("find-loops", "Missing loops",
            "Find a loop for held sounds that have none, with the crossfade that it needs; where no seam passes as the sound changes by itself, it stays as it is.",
            Kind.Flag.of("find", "leave missing"), t -> t.finds().loops().missing(),
            (t, v) -> t.withFinds(t.finds().withLoops(t.finds().loops().withMissing(v))));
    private static final Option<Boolean> RENEW_LOOPS = Option.ofSounds("renew-loops", "Loops that bump",
            "Replace a loop whose seam is heard by one that is not, with the crossfade that it needs; where none is found, it stays as it is.",
            Kind.Flag.of("find better ones", "leave as they are"), t -> t.finds().loops().bumping(),
            (t, v) -> t.withFinds(t.finds().withLoops(t.finds().loops().withBumping(v))));
    private static final Option<Boolean> LEVEL_LOOPS = Option.ofSounds("level-loops", "Level in loops",
            "Make up for the decay within a loop that is found, so that it does not pulse: the sound is raised from its start to its end, by 12 dB at most.",
            Kind.Flag.of("kept even", "as it is"), t -> t.finds().loops().levelled(),
            (t, v) -> t.withFinds(t.finds().withLoops(t.finds().loops().withLevelled(v))))
            .meaningfulWhere(t -> t.finds().loops().missing() || t.finds().loops().bumping());
    private static final Option<LoopFinds.Way> LOOP_WAY = Option.ofSounds("loop-way", "Way of found loops",
            "How a loop goes that is found: forward, alternating, or alternating only where none that goes forward passes.",
            Kind.Words.of(List.of(LoopFinds.Way.values()), LoopFinds.Way::id, LoopFinds.Way::label), t -> t.finds().loops().way(),
            (t, v) -> t.withFinds(t.finds().withLoops(t.finds().loops().withWay(v)))).meaningfulWhere(t -> t.finds().loops().missing());
    static final Option<Chop> CHOP = Option.ofSounds("chop", "Slices",
            "Cut clips into slices: at onsets, on a grid of parts of a whole note, at cue points, at silences, into N equal parts, or at frames that are said. Slices become an instrument, "
                    + "one a key from the first key on, or sounds with numbers.",
            OptionKinds.chop(), t -> t.finds().chop().withBpm(Optional.empty()).withDownbeat(Optional.empty()).withSensitivity(1),
            (t, v) -> t.withFinds(t.finds().withChop(t.finds().chop().withPlaces(v))))
            .meaningfulWhere(t -> t.finds().parts().isEmpty());
    private static final Option<Boolean> AS_CUES = Option.ofSounds("as-cues", "Slices become",
            "Slices become cue points of the clip, which stays whole, instead of an instrument or sounds.",
            Kind.Flag.of("cue points", "instrument or sounds"),
            t -> t.finds().pieces().asCues(), (t, v) -> t.withFinds(t.finds().withPieces(t.finds().pieces().withAsCues(v))))
            .meaningfulWhere(t -> t.finds().chop().by() != Chop.By.NONE);
    private static final Option<Boolean> WHOLE_KEY = Option.ofSounds("whole-key", "The whole clip",
            "Put the whole clip on a key too, behind those of its slices.", Kind.Flag.of("on a key too", "no key"), t -> t.finds().pieces().withWhole(),
            (t, v) -> t.withFinds(t.finds().withPieces(t.finds().pieces().withWhole(v))))
            .meaningfulWhere(t -> t.finds().chop().by() != Chop.By.NONE && !t.finds().pieces().asCues());
    private static final Option<Double> SENSITIVITY = Option.ofSounds("sensitivity", "Sensitivity",
            "How easily an onset is taken for one: above 1 softer ones count as well, below 1 only clear ones.",
            new Kind.Number<>("FACTOR", "", v -> v.orElse(1.0), v -> v, false), t -> t.finds().chop().sensitivity(),
            (t, v) -> t.withFinds(t.finds().withChop(t.finds().chop().withSensitivity(v)))).meaningfulWhere(t -> t.finds().chop().by() == Chop.By.ONSETS);
    private static final Option<Rhythm.As> RHYTHM = Option.ofSounds("rhythm", "MIDI file of pieces",
            "A MIDI file beside the pieces that plays them: as they lie in the clip, quantised to a grid, or one of each.",
            Kind.Words.of(List.of(Rhythm.As.values()), Rhythm.As::id, Rhythm.As::label), t -> t.finds().rhythm().as(),
            (t, v) -> t.withFinds(t.finds().withRhythm(t.finds().rhythm().withAs(v)))).meaningfulWhere(t -> t.finds().cuts());
    private static final Option<NoteValue> QUANTISE = Option.ofSounds("quantise", "Grid of its notes",
            "Grid of the quantised MIDI file, as part of a whole note; 1/12 and 1/24 are triplets.",
            Kind.Words.of(NoteValue.USUAL, NoteValue::id, NoteValue::id).orElse("1/16", NoteValue::read, NoteValue::id),
            t -> t.finds().rhythm().grid(), (t, v) -> t.withFinds(t.finds().withRhythm(t.finds().rhythm().withGrid(v))))
            .meaningfulWhere(t -> t.finds().cuts() && t.finds().rhythm().isQuantised());
    private static final Option<Double> STRENGTH = Option.ofSounds("strength", "Strength of the grid",
            "How far notes are moved to the grid, in percent of the way.", plain("PERCENT"), t -> t.finds().rhythm().strength(),
            (t, v) -> t.withFinds(t.finds().withRhythm(t.finds().rhythm().withStrength(v))))
            .meaningfulWhere(t -> t.finds().cuts() && t.finds().rhythm().isQuantised());
    private static final Option<Double> SWING = Option.ofSounds("swing", "Swing of the grid",
            "Where the second of two steps lies, in percent: 50 is straight, 67 a triplet.", plain("PERCENT"), t -> t.finds().rhythm().swing(),
            (t, v) -> t.withFinds(t.finds().withRhythm(t.finds().rhythm().withSwing(v))))
            .meaningfulWhere(t -> t.finds().cuts() && t.finds().rhythm().isQuantised());
    private static final Option<Optional<Double>> BPM = Option
            .ofSounds("bpm", "Tempo",
                    "Beats a minute of clips, for grid, bars, MIDI files and --to-tempo; auto takes them from the name, as 96 bpm, or listens for them.",
                    new Kind.Number<>("BPM", "auto", v -> v, v -> v.orElse(Double.NaN), false), t -> t.finds().chop().bpm(),
                    (t, v) -> t.withFinds(t.finds().withChop(t.finds().chop().withBpm(v))))
            .meaningfulWhere(t -> t.finds().needsTempo());
    private static final Option<Optional<Double>> DOWNBEAT = Option.ofSounds("downbeat", "Downbeat",
            "Where a bar begins in clips, in seconds from their start: bars are counted from there, and grid and MIDI files follow; start is where what is used of them begins.",
            new Kind.Number<>("SECONDS", "start", v -> v, v -> v.orElse(Double.NaN), false), t -> t.finds().chop().beats().downbeatSeconds(),
            (t, v) -> t.withFinds(t.finds().withChop(t.finds().chop().withDownbeat(v)))).meaningfulWhere(t -> t.finds().needsTempo());
    private static final Option<Optional<TempoTarget>> TO_TEMPO = Option.ofSounds("to-tempo", "Change to tempo",
            "Clips are played faster or slower so that they go at this tempo, half of it or twice, whichever is nearest; their pitch goes along, and the list says by how much. "
                    + "'session' is the tempo of the session that is packed into. To keep the pitch, cut them into slices with a MIDI file.",
            new Kind.Text<>("BPM|session|none", TempoTarget::read, TempoTarget::write), t -> t.finds().toTempo(),
            (t, v) -> t.withFinds(t.finds().withTempo(v))).meaningfulWhere(t -> !t.finds().cuts());
    static final Option<List<ClipPart>> PART = Option.ofSounds("part", "Parts of clips",
            "What of a clip is packed: from a time, bar (of 4 beats), frame to another, a cue point's stretch, or those of all cue points; may be repeated. Of one part the sound keeps its name; "
                    + "several become sounds of their own.",
            new Kind.Several<>("FROM-TO|cue:NAME|cues", ClipPart::read, ClipPart::id), t -> t.finds().parts(), (t, v) -> t.withFinds(t.finds().withParts(v)))
            .meaningfulWhere(t -> t.finds().chop().by() == Chop.By.NONE);

    private static final Option<Boolean> CHECK = Option.of("check", OptionGroup.DAMAGE, "Check for damage",
            "Listen to each sound for clicks, dropouts and other damage.", Kind.Flag.of("yes", "no"), o -> o.mending().looksForDamage(),
            (o, v) -> o.withMending(o.mending().withLooking(v)));
    private static final Option<Boolean> MEND_CLICKS = Option.of("mend-clicks", OptionGroup.DAMAGE, "Short clicks", "Repair short clicks; up to 2 ms each.",
            Kind.Flag.of("repair", "keep"), o -> o.mending().mendsClicks(), (o, v) -> o.withMending(o.mending().withMending(v)));
    private static final Option<Boolean> DAMAGE = Option.of("damage", OptionGroup.DAMAGE, "Unrepaired damage",
            "Whether damage that was found and not repaired counts as a failure, exit 1.",
            Kind.Words.of(List.of(true, false), fails -> fails ? "fail" : "tell", fails -> fails ? "counts as a failure" : "is only reported"),
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
            Kind.Flag.of("one kit of all folders", "a kit for each folder"),
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
    private static final Option<Integer> MIDI_CHANNEL = Option.of("midi-channel", OptionGroup.INSTRUMENTS, "MIDI channel",
            "The channel that an instrument listens on, 1 to 16, where its description says one.",
            OptionKinds.wholeNumber("N"),
            o -> o.instruments().playing().settings().channel(), (o, v) -> playing(o, p -> p.withChannel(v))).openWhere(OptionKinds::saysPlaying);
    private static final Option<Boolean> MONO_VOICE = Option.of("mono-voice", OptionGroup.INSTRUMENTS, "Voices",
            "Whether a note ends the one before it, where an instrument's description says so.", Kind.Flag.of("one at a time", "many"),
            o -> o.instruments().playing().settings().isMono(), (o, v) -> playing(o, p -> p.withMono(v))).openWhere(OptionKinds::saysPlaying);
    private static final Option<Integer> BEND_KEYS = Option.of("bend-keys", OptionGroup.INSTRUMENTS, "Bend range",
            "Keys by which the wheel raises and lowers, 0 to 24, where an instrument's description says it.",
            OptionKinds.wholeNumber("KEYS"), o -> o.instruments().playing().settings().bendKeys(),
            (o, v) -> playing(o, p -> p.withBend(v))).openWhere(OptionKinds::saysPlaying);

    private static final Option<Fitting.Mode> FIT = Option.of("fit", OptionGroup.INSTRUMENTS, "If too large",
            "What is done with an instrument that has more layers, samples or memory than the device holds, and with loose sounds that take more memory together than it has: made to fit with as little harm as can be, or blocked.",
            Kind.Words.of(List.of(Fitting.Mode.values()), Fitting.Mode::id, Fitting.Mode::label), o -> o.instruments().fitting().mode(),
            (o, v) -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMode(v)))).openWhere(OptionKinds::isLimited);
    private static final Option<Optional<Double>> FIT_MEMORY = Option.of("fit-memory", OptionGroup.INSTRUMENTS, "Memory, in MB",
            "Audio of each instrument, or of all sounds of a device that takes no instruments, takes no more than this, in MB; device: what the destination has.",
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
            PackOptions::mirror, PackOptions::withMirror);
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
    public static final List<Option<?>> ALL = List.of(CONTAINER, RATE, DEPTH, CHANNELS, MONO, DITHER, QUALITY, BIT_RATE, METADATA, ON_TRACKS, TEMPO, METER,
            LEVEL, TOGETHER, STEMS, EQUAL_LENGTH, CEILING,
            CEILING_BY, LIMITING, OVERS, FADE_IN, FADE_OUT, FADE_IN_SHAPE, FADE_OUT_SHAPE, TRIM, ON_ATTACK, PRE_ROLL, CLICKLESS, DC, LOOP_CROSSFADE, FIND_LOOPS,
            RENEW_LOOPS, LEVEL_LOOPS, LOOP_WAY,
            CHOP, AS_CUES, WHOLE_KEY, SENSITIVITY, BPM, DOWNBEAT, TO_TEMPO, PART,
            RHYTHM, QUANTISE, STRENGTH, SWING,
            CHECK, DAMAGE,
            MEND_CLICKS, LINE_UP, MAP,
            GAPS, START_KEY, KIT_STEP, ONE_KIT, MIDDLE_C, NAME_PART, BANKS, INSTRUMENT, PLAYING_DEFAULTS, MIDI_CHANNEL, MONO_VOICE, BEND_KEYS, FIT, FIT_MEMORY,
            FIT_WITHOUT, FIT_KEEP, NAME, MIRROR, JOIN,
            JOIN_GAP, JOIN_ORDER, JOIN_FIRST, JOIN_CONTENTS, FIRST_KIT,
            KIT_NAME, PAD_ORDER, PAD,
            EXISTING, VERIFY);

    private Options() {}

    public static Optional<Option<?>> byId(String id) { return ALL.stream().filter(o -> o.id().equals(id)).findFirst(); }

    /// What may be said of single sounds.
    public static List<Option<?>> ofSounds() { return ALL.stream().filter(Option::isOfSounds).toList(); }
}
