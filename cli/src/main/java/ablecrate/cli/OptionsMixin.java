package ablecrate.cli;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NamePlace;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.NoteName;
import ablecrate.plan.Banks;
import ablecrate.plan.CeilingBy;
import ablecrate.plan.Choice;
import ablecrate.plan.ExistingFiles;
import ablecrate.plan.FactsChoice;
import ablecrate.plan.Fade;
import ablecrate.plan.InstrumentOptions;
import ablecrate.plan.KeyGaps;
import ablecrate.plan.KitLayout;
import ablecrate.plan.ItemEdit;
import ablecrate.plan.Kits;
import ablecrate.plan.LevelTarget;
import ablecrate.plan.MapBy;
import ablecrate.plan.Mending;
import ablecrate.plan.MonoLaw;
import ablecrate.plan.NameGlob;
import ablecrate.plan.OptionConflict;
import ablecrate.plan.Overs;
import ablecrate.plan.PackOptions;
import ablecrate.plan.PadOrder;
import ablecrate.plan.Placing;
import ablecrate.plan.Treatment;
import ablecrate.library.Gathered;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiFunction;
import picocli.CommandLine;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;

/// The options that decide how sounds are packed; what is not said stays as it was.
final class OptionsMixin {
    @Option(names = "--container", paramLabel = "wav|aiff|flac|mp3|opus|sfz|sf2|dls|keep", description = "Of sounds, or of instruments; sfz, sf2 and dls make instruments of loose sounds.") private String container;
    @Option(names = "--rate", paramLabel = "HZ|keep", description = "Of the results; default as the destination has it.") private String rate;
    @Option(names = "--depth", paramLabel = "8|16|24|32|32f|64f|keep", description = "Bits of a sample; f is float.") private String depth;
    @Option(names = "--channels", paramLabel = "keep|mono|stereo|split", description = "split makes a mono file of each channel.") private String channels;
    @Option(names = "--mono", paramLabel = "mid|left|right", description = "What a stereo sound becomes in mono; default mid.") private MonoLaw mono;
    @Option(names = "--dither", paramLabel = "none|tpdf|shaped", description = "Where depth falls; default tpdf.") private Dither dither;
    @Option(names = "--name", paramLabel = "PATTERN", description = "Names of results, with (name) (folder) (number) (root) (rate) (depth) (channel) (kit) (pad); dots are digits: (number...) makes 007.") private String name;
    @Option(names = "--existing", paramLabel = "skip|update|replace|number", description = "Where a file of that name is there; update writes anew what a run wrote and nobody touched, where its source or the options changed; default skip.") private ExistingFiles existing;
    @Option(names = "--mirror", description = "Rebuild the folders of the source.") private boolean mirror;

    @Option(names = "--verify", description = "Compare every file that is there with its checksum on the slip, not only those whose size or time changed.") private boolean verify;
    @Option(names = "--first-kit", paramLabel = "N", description = "Number of the first new kit; default: one more than the highest that is there.") private Integer firstKit;
    @Option(names = "--kit-name", paramLabel = "NAME", description = "Name of a new kit instead of its folder's; may be repeated, in the order of the kits.") private List<String> kitNames = List
            .of();
    @Option(names = "--pad-order", paramLabel = "listed|root|length", description = "How a folder's sounds come onto pads; default listed.") private String padOrder;
    @Option(names = "--pad", paramLabel = "N=PATTERN", description = "Which sound comes onto pad N, by a pattern of its name such as 'kick*'; may be repeated.") private Map<Integer, String> pads = Map
            .of();

    @Option(names = "--level", paramLabel = "MEASURE:VALUE", description = "Set levels; measures: peak (dBFS), truepeak (dBTP), lufs-i, lufs-m, lufs-s (LUFS).") private String level;
    @Option(names = "--together", description = "One gain for all sounds of a folder, so that their steps stay.") private boolean together;
    @Option(names = "--ceiling", paramLabel = "DBTP|none", description = "True peak that nothing goes beyond; default with a loudness target: -1.") private String ceiling;
    @Option(names = "--ceiling-by", paramLabel = "limiter|gain", description = "Lower the peaks, or the whole sound; default limiter, with --together gain.") private String ceilingBy;
    @Option(names = "--limiting", paramLabel = "DB", description = "How far a limiter may lower peaks so that a sound becomes as loud as asked; default 6.") private Double limiting;
    @Option(names = "--overs", paramLabel = "limit|lower|lower-together|clip", description = "What is done where samples would lie beyond full scale and there is no ceiling: limit them, lower the sound, lower its instrument or folder, or cut them off; default limit.") private String overs;
    @Option(names = "--fade-in", paramLabel = "MS", description = "Outside of loops.") private Double fadeIn;
    @Option(names = "--fade-out", paramLabel = "MS", description = "Outside of loops.") private Double fadeOut;
    @Option(names = "--fade-in-shape", paramLabel = "SHAPE", description = "linear, equal-power, fast-start, slow-start, s; default fast-start.") private String fadeInShape;
    @Option(names = "--fade-out-shape", paramLabel = "SHAPE", description = "As above; default s.") private String fadeOutShape;
    @Option(names = "--trim", paramLabel = "DB", description = "Take silence off start and end: what lies below this level, e.g. -60.") private String trim;
    @Option(names = "--dc", description = "Take a constant offset off.") private boolean dc;
    @Option(names = "--loop-crossfade", paramLabel = "MS", description = "Blend the end of loops into what comes before their start.") private Double loopCrossfade;

    @Option(names = "--treat", paramLabel = "PATTERN:SETTINGS", description = "Levels, ends and loops of the sounds with such names alone: '--treat \"kick*: level peak:-1, fade-out 30\"'; settings are the options of this group without their hyphens. May be repeated; a later one goes on from an earlier.") private List<String> treats = List
            .of();

    @Option(names = "--quality", paramLabel = "small|good|high|best", description = "Of MP3 and Opus, variable rate; default high.") private String quality;
    @Option(names = "--bit-rate", paramLabel = "KBPS", description = "Of MP3 and Opus, one rate throughout instead.") private Integer kbps;
    @Option(names = "--check", description = "Listen to each sound for clicks, dropouts and other damage.") private boolean check;
    @Option(names = "--damage", paramLabel = "fail|tell", description = "Whether damage that was found and stays counts as a failure, exit 1; default fail.") private String damage;
    @Option(names = "--mend-clicks", description = "Fill short clicks in; up to 2 ms each.") private boolean mendClicks;
    @Option(names = "--line-up", description = "Take the encoder's likely delay off where a compressed file does not say it.") private boolean lineUp;

    @Option(names = "--facts", paramLabel = "all|none|as-they-are|KIND,…", description = "What sound files say of themselves: loops, mapping, cues, broadcast, texts; unknown keeps chunks that nothing is known of in changed files too; as-they-are leaves files beside a map untouched; default all, but for unknown.") private String facts;

    @Option(names = "--map", paramLabel = "auto|chunks|names|kit", description = "How loose sounds become an instrument: by their chunks, by their names, or one a key; default auto.") private MapBy mapBy;
    @Option(names = "--gaps", paramLabel = "half|up|down", description = "Keys between two roots: half-way, to the lower root, to the higher; default half.") private KeyGaps gaps;
    @Option(names = "--start-key", paramLabel = "KEY", description = "First key of a kit; a number or a name, C4 is 60; default 36.") private String startKey;
    @Option(names = "--kit-step", paramLabel = "KEYS", description = "From one sound of a kit to the next; default 1, neighbouring keys.") private Integer kitStep;
    @Option(names = "--one-kit", description = "With --map kit: the sounds of all folders make one kit, in the order of their names.") private boolean oneKit;
    @Option(names = "--middle-c", paramLabel = "heard|c3|c4|c5", description = "What names call key 60; default heard: as the sounds themselves tell, else c4.") private String middleC;
    @Option(names = "--name-part", paramLabel = "N=MEANING", description = "What the Nth part of names means: key, loudness, turn, side, release or nothing; -1 is the last; may be repeated.") private Map<Integer, String> nameParts = Map
            .of();
    @Option(names = "--one-bank", description = "All instruments into one bank.") private boolean oneBank;
    @Option(names = "--bank-each", description = "Each instrument of a bank into a bank of its own.") private boolean bankEach;
    @Option(names = "--instrument", paramLabel = "NAME", description = "Only this instrument of a bank; may be repeated.") private List<String> only = List
            .of();
    @Option(names = "--no-playing-defaults", description = "No release where the source has none.") private boolean noPlayingDefaults;

    /// The options said, on top of what holds without them.
    PackOptions options(PackOptions base) throws OptionConflict {
        PackOptions o = base;
        if (container != null) o = o.withContainer(choice(container, Optional::of, "--container"));
        if (rate != null) o = o.withRate(choice(rate, OptionsMixin::hertz, "--rate"));
        if (depth != null) o = o.withDepth(choice(depth, Depth::byId, "--depth"));
        if (channels != null) o = o.withChannels(Optional.of(ChannelChoice.byId(channels).orElseThrow(() -> unknown("--channels", channels))));
        if (mono != null) o = o.withMonoLaw(mono);
        if (dither != null) o = o.withDither(dither);
        o = o.withPlacing(placing(o.placing()));
        return o.withTreatment(treatment(o.treatment())).withInstruments(instruments(o.instruments())).withQuality(quality(o.quality()))
                .withFacts(facts(o.facts())).withMending(mending(o.mending()));
    }

    private Mending mending(Mending base) throws OptionConflict {
        if (damage != null && !damage.equals("fail") && !damage.equals("tell")) throw unknown("--damage", damage);
        return new Mending(base.looksForDamage() || check, base.mendsClicks() || mendClicks, base.takesLikelyDelay() || lineUp,
                damage == null ? base.damageFails() : damage.equals("fail"));
    }

    private Placing placing(Placing base) throws OptionConflict {
        Placing p = base;
        if (name != null) p = p.withNamePattern(Optional.of(name));
        if (existing != null) p = p.withExisting(existing);
        if (verify) p = p.withVerifying(true);
        if (mirror) p = p.withMirror(Optional.of(true));
        Kits kits = p.kits();
        if (firstKit != null) kits = kits.withFirst(OptionalInt.of(within("--first-kit", firstKit, 0)));
        if (!kitNames.isEmpty()) kits = kits.withNames(kitNames);
        if (padOrder != null) kits = kits.withOrder(PadOrder.byId(padOrder).orElseThrow(() -> unknown("--pad-order", padOrder)));
        for (int pad : pads.keySet())
            within("--pad", pad, 1);
        return p.withKits(pads.isEmpty() ? kits : kits.withPads(pads));
    }

    private static int within(String option, int number, int least) throws OptionConflict {
        if (number < least) throw new OptionConflict(option + ": " + number + " is less than " + least);
        return number;
    }

    /// Settings of single sounds on top of those that a job has for them.
    Map<Path, ItemEdit> edits(List<Gathered> gathered, Map<Path, ItemEdit> base, Treatment ofAll) throws OptionConflict {
        Map<Path, ItemEdit> edits = new HashMap<>(base);
        for (String treat : treats) {
            int colon = treat.indexOf(':');
            if (colon < 1) throw new OptionConflict("--treat: '" + treat + "' has no ':' between the names and their settings, as in \"kick*: fade-out 30\"");
            NameGlob names = new NameGlob(treat.substring(0, colon).strip());
            OptionsMixin settings = settings(treat.substring(colon + 1));
            List<Gathered> named = gathered.stream().filter(g -> names.matches(g.relative())).toList();
            if (named.isEmpty()) throw new OptionConflict("--treat: no sound is named '" + treat.substring(0, colon).strip() + "'");
            for (Gathered g : named) {
                ItemEdit edit = edits.getOrDefault(g.path(), ItemEdit.NONE);
                edits.put(g.path(), edit.withTreatment(Optional.of(settings.treatment(edit.treatment().orElse(ofAll)))));
            }
        }
        return edits;
    }

    /// What may be said of single sounds.
    private static final Set<String> TREATMENT = Set.of("level", "together", "ceiling", "ceiling-by", "limiting", "overs", "fade-in", "fade-out",
            "fade-in-shape",
            "fade-out-shape", "trim", "dc", "loop-crossfade");

    /// `level peak:-1, fade-out 30` read as the options of these names.
    private static OptionsMixin settings(String text) throws OptionConflict {
        List<String> arguments = new ArrayList<>();
        for (String setting : text.split(",")) {
            String[] words = setting.strip().split("[\\s=]+", 2);
            if (!TREATMENT.contains(words[0]))
                throw new OptionConflict(
                        "--treat: '" + words[0] + "' is no setting of levels, ends or loops; they are " + String.join(", ", new TreeSet<>(TREATMENT)));
            arguments.add("--" + words[0]);
            if (words.length > 1) arguments.add(words[1].strip());
        }
        OptionsMixin settings = new OptionsMixin();
        try {
            new CommandLine(settings).parseArgs(arguments.toArray(String[]::new));
        } catch (ParameterException e) {
            throw new OptionConflict("--treat: " + e.getMessage());
        }
        return settings;
    }

    private InstrumentOptions instruments(InstrumentOptions base) throws OptionConflict {
        int key = startKey == null
                ? base.kit().startKey()
                : NoteName.parse(startKey, 4).filter(k -> k >= 0 && k <= 127)
                        .orElseThrow(() -> new OptionConflict("--start-key: '" + startKey + "' is no key from 0 to 127"));
        if (oneBank && bankEach) throw new OptionConflict("--one-bank and --bank-each ask for opposite things");
        return new InstrumentOptions(mapBy == null ? base.mapBy() : mapBy, names(base.names()), gaps == null ? base.gaps() : gaps,
                kit(base.kit().withStartKey(key)),
                oneBank ? Banks.ONE : bankEach ? Banks.EACH : base.banks(), base.playingDefaults() && !noPlayingDefaults, only.isEmpty() ? base.only() : only);
    }

    private KitLayout kit(KitLayout base) throws OptionConflict {
        if (kitStep != null && (kitStep < 1 || kitStep > 12)) throw new OptionConflict("--kit-step: " + kitStep + " is no step from 1 to 12 keys");
        return base.withStep(kitStep == null ? base.stepKeys() : kitStep).withAll(base.isOfAll() || oneKit);
    }

    private NameReading names(NameReading base) throws OptionConflict {
        NameReading reading = base;
        for (Map.Entry<Integer, String> part : nameParts.entrySet()) {
            if (part.getKey() == 0) throw new OptionConflict("--name-part: parts are counted from 1, or from -1 for the last");
            reading = reading.withPart(NamePlace.ofNumber(part.getKey()),
                    NamePart.byId(part.getValue()).orElseThrow(() -> unknown("--name-part", part.getValue())));
        }
        if (middleC == null) return reading;
        return reading.withShift(switch (middleC) {
            case "heard" -> OptionalInt.empty();
            case "c3" -> OptionalInt.of(12);
            case "c4" -> OptionalInt.of(0);
            case "c5" -> OptionalInt.of(-12);
            default -> throw unknown("--middle-c", middleC);
        });
    }

    private FactsChoice facts(FactsChoice base) throws OptionConflict {
        if (facts == null) return base;
        if (facts.equals("all")) return FactsChoice.ALL;
        if (facts.equals("as-they-are")) return FactsChoice.AS_THEY_ARE;
        Set<String> kinds = Set.of("all", "loops", "mapping", "cues", "broadcast", "texts", "unknown"), said = new TreeSet<>(List.of(facts.split(",")));
        if (facts.equals("none")) said.clear();
        for (String kind : said)
            if (!kinds.contains(kind)) throw unknown("--facts", kind);
        if (said.remove("all")) said.addAll(List.of("loops", "mapping", "cues", "broadcast", "texts"));
        return new FactsChoice(
                new Keeps(said.contains("loops"), said.contains("mapping"), said.contains("cues"), said.contains("broadcast"), said.contains("texts")), false,
                said.contains("unknown"));
    }

    private Treatment treatment(Treatment base) throws OptionConflict {
        Treatment t = base;
        if (level != null && level.equals("none")) t = t.withLevel(Optional.empty());
        if (level != null && !level.equals("none")) {
            LevelTarget target = target(level);
            boolean isLoudness = target.measure() != LevelMeasure.PEAK && target.measure() != LevelMeasure.TRUE_PEAK;
            t = t.withLevel(Optional.of(target));
            if (isLoudness && t.ceilingDbtp().isEmpty()) t = t.withCeiling(Optional.of(Treatment.USUAL_CEILING));
        }
        if (together) t = t.withTogether(true);
        if (ceiling != null)
            t = within("--ceiling", t, ceiling.equals("none") ? Optional.empty() : Optional.of(number("--ceiling", ceiling)), Treatment::withCeiling);
        if (ceilingBy != null) t = t.withCeilingBy(CeilingBy.byId(ceilingBy).orElseThrow(() -> unknown("--ceiling-by", ceilingBy)));
        if (limiting != null) t = within("--limiting", t, limiting, (now, db) -> now.withLimits(now.limits().withMostLimiting(db)));
        if (overs != null) t = t.withLimits(t.limits().withOvers(Overs.byId(overs).orElseThrow(() -> unknown("--overs", overs))));
        t = t.withFadeIn(fade(t.fadeIn(), "--fade-in", fadeIn, fadeInShape)).withFadeOut(fade(t.fadeOut(), "--fade-out", fadeOut, fadeOutShape));
        if (trim != null) t = within("--trim", t, trim.equals("none") ? Optional.empty() : Optional.of(number("--trim", trim)), Treatment::withTrim);
        if (dc) t = t.withOffsetRemoved(true);
        return loopCrossfade == null ? t : within("--loop-crossfade", t, loopCrossfade, Treatment::withLoopCrossfade);
    }

    /// What the values themselves refuse, in the same words as in presets and jobs, with the option's name.
    private static <T, V> T within(String option, T now, V value, BiFunction<T, V, T> with) throws OptionConflict {
        try {
            return with.apply(now, value);
        } catch (IllegalArgumentException e) {
            throw new OptionConflict(option + ": " + e.getMessage());
        }
    }

    private Quality quality(Quality base) throws OptionConflict {
        if (kbps != null && (kbps < 6 || kbps > 512)) throw new OptionConflict("--bit-rate: " + kbps + " is no rate from 6 to 512 kbit/s");
        if (kbps != null) return Quality.constant(kbps);
        return quality == null ? base : Quality.of(Quality.Word.byId(quality).orElseThrow(() -> unknown("--quality", quality)));
    }

    private static LevelTarget target(String text) throws OptionConflict {
        int colon = text.indexOf(':');
        LevelMeasure measure = LevelMeasure.byId(colon < 0 ? text : text.substring(0, colon)).orElseThrow(() -> unknown("--level", text));
        return within("--level", new LevelTarget(measure, 0), number("--level", text.substring(colon + 1)), (_, value) -> new LevelTarget(measure, value));
    }

    private static double number(String option, String text) throws OptionConflict {
        try {
            return Double.parseDouble(text);
        } catch (NumberFormatException e) {
            throw new OptionConflict(option + ": '" + text + "' is no level in dB");
        }
    }

    private static Fade fade(Fade usual, String option, Double ms, String shape) throws OptionConflict {
        Fade fade = ms == null ? usual : within(option, usual, ms, Fade::withMs);
        return shape == null ? fade : fade.withShape(FadeShape.byId(shape).orElseThrow(() -> unknown(option + "-shape", shape)));
    }

    private interface Parser<T> {
        Optional<T> parse(String text);
    }

    private static <T> Choice<T> choice(String text, Parser<T> parser, String option) throws OptionConflict {
        if (text == null) return Choice.asDestination();
        if (text.equals("keep")) return Choice.keep();
        return Choice.of(parser.parse(text).orElseThrow(() -> unknown(option, text)));
    }

    private static Optional<Integer> hertz(String text) {
        try {
            int hz = Integer.parseInt(text);
            return hz >= DestinationSheet.LOWEST_RATE_HZ && hz <= DestinationSheet.HIGHEST_RATE_HZ ? Optional.of(hz) : Optional.empty();
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private static OptionConflict unknown(String option, String value) {
        return new OptionConflict(option + ": '" + value + "' is none of its values; 'ablecrate plan --help' lists them");
    }
}
