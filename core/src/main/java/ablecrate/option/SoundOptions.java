package ablecrate.option;

import static ablecrate.option.OptionKinds.NONE;
import static ablecrate.option.OptionKinds.number;
import static ablecrate.option.OptionKinds.plain;
import static ablecrate.option.OptionKinds.shape;
import static ablecrate.option.OptionKinds.some;
import static ablecrate.option.OptionKinds.takes;

import ablecrate.dsp.FadeShape;
import java.util.List;
import java.util.Optional;

/// What is done to single sounds: their levels, ends and loops, and what they are cut into.
public final class SoundOptions {
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
    private static final Option<LoopFinds.Decay> LOOP_DECAY = Option.ofSounds("loop-decay", "Decay in loops",
            "How held notes of an instrument go on in a loop that is found, where its sound dies away: they die away as the sound does, by the envelope of their zone, or stay as loud.",
            Kind.Words.of(List.of(LoopFinds.Decay.values()), LoopFinds.Decay::id, LoopFinds.Decay::label), t -> t.finds().loops().decay(),
            (t, v) -> t.withFinds(t.finds().withLoops(t.finds().loops().withDecay(v)))).meaningfulWhere(t -> t.finds().loops().missing());
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

    /// In the order in which people are told of them.
    static final List<Option<?>> ALL = List.of(LEVEL, TOGETHER, STEMS, EQUAL_LENGTH, CEILING, CEILING_BY, LIMITING, OVERS, FADE_IN, FADE_OUT, FADE_IN_SHAPE,
            FADE_OUT_SHAPE, TRIM, ON_ATTACK, PRE_ROLL, CLICKLESS, DC, LOOP_CROSSFADE, FIND_LOOPS, RENEW_LOOPS, LEVEL_LOOPS, LOOP_WAY, LOOP_DECAY, CHOP, AS_CUES,
            WHOLE_KEY,
            SENSITIVITY, BPM, DOWNBEAT, TO_TEMPO, PART, RHYTHM, QUANTISE, STRENGTH, SWING);

    private SoundOptions() {}
}
