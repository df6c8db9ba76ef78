package ablecrate.cli;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
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
import ablecrate.plan.LevelTarget;
import ablecrate.plan.MapBy;
import ablecrate.plan.Mending;
import ablecrate.plan.MonoLaw;
import ablecrate.plan.OptionConflict;
import ablecrate.plan.PackOptions;
import ablecrate.plan.Treatment;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import picocli.CommandLine.Option;

/// The options that decide how sounds are packed; what is not said stays as it was.
final class OptionsMixin {
    @Option(names = "--container", paramLabel = "wav|aiff|flac|mp3|opus|sfz|sf2|dls|keep", description = "Of sounds, or of instruments; sfz, sf2 and dls make instruments of loose sounds.") private String container;
    @Option(names = "--rate", paramLabel = "HZ|keep") private String rate;
    @Option(names = "--depth", paramLabel = "8|16|24|32|32f|64f|keep") private String depth;
    @Option(names = "--channels", paramLabel = "keep|mono|stereo|split") private String channels;
    @Option(names = "--mono", paramLabel = "mid|left|right", description = "What a stereo sound becomes in mono; default mid.") private MonoLaw mono;
    @Option(names = "--dither", paramLabel = "none|tpdf|shaped", description = "Where depth falls; default tpdf.") private Dither dither;
    @Option(names = "--name", paramLabel = "PATTERN", description = "Names of results, with (name) (folder) (number) (root) (rate) (depth) (channel) (kit) (pad); dots are digits: (number...) makes 007.") private String name;
    @Option(names = "--existing", paramLabel = "skip|replace|number", description = "Where a file of that name is there; default skip.") private ExistingFiles existing;
    @Option(names = "--mirror", description = "Rebuild the folders of the source.") private boolean mirror;

    @Option(names = "--level", paramLabel = "MEASURE:VALUE", description = "Set levels; measures: peak (dBFS), truepeak (dBTP), lufs-i, lufs-m, lufs-s (LUFS).") private String level;
    @Option(names = "--together", description = "One gain for all sounds of a folder, so that their steps stay.") private boolean together;
    @Option(names = "--ceiling", paramLabel = "DBTP|none", description = "True peak that nothing goes beyond; default with a loudness target: -1.") private String ceiling;
    @Option(names = "--ceiling-by", paramLabel = "limiter|gain", description = "Lower the peaks, or the whole sound; default limiter, with --together gain.") private String ceilingBy;
    @Option(names = "--fade-in", paramLabel = "MS", description = "Outside of loops.") private Double fadeIn;
    @Option(names = "--fade-out", paramLabel = "MS", description = "Outside of loops.") private Double fadeOut;
    @Option(names = "--fade-in-shape", paramLabel = "SHAPE", description = "linear, equal-power, fast-start, slow-start, s; default fast-start.") private String fadeInShape;
    @Option(names = "--fade-out-shape", paramLabel = "SHAPE", description = "As above; default s.") private String fadeOutShape;
    @Option(names = "--trim", paramLabel = "DB", description = "Take silence off start and end: what lies below this level, e.g. -60.") private Double trim;
    @Option(names = "--dc", description = "Take a constant offset off.") private boolean dc;
    @Option(names = "--loop-crossfade", paramLabel = "MS", description = "Blend the end of loops into what comes before their start.") private Double loopCrossfade;

    @Option(names = "--quality", paramLabel = "small|good|high|best", description = "Of MP3 and Opus, variable rate; default high.") private String quality;
    @Option(names = "--bit-rate", paramLabel = "KBPS", description = "Of MP3 and Opus, one rate throughout instead.") private Integer kbps;
    @Option(names = "--check", description = "Listen to each sound for clicks, dropouts and other damage.") private boolean check;
    @Option(names = "--mend-clicks", description = "Fill short clicks in; up to 2 ms each.") private boolean mendClicks;
    @Option(names = "--line-up", description = "Take the encoder's likely delay off where a compressed file does not say it.") private boolean lineUp;

    @Option(names = "--facts", paramLabel = "all|none|as-they-are|KIND,…", description = "What sound files say of themselves: loops, mapping, cues, broadcast, texts; as-they-are leaves files beside a map untouched; default all.") private String facts;

    @Option(names = "--map", paramLabel = "auto|chunks|names|kit", description = "How loose sounds become an instrument: by their chunks, by their names, or one a key; default auto.") private MapBy mapBy;
    @Option(names = "--gaps", paramLabel = "half|up|down", description = "Keys between two roots: half-way, to the lower root, to the higher; default half.") private KeyGaps gaps;
    @Option(names = "--start-key", paramLabel = "KEY", description = "First key of a kit; a number or a name, C4 is 60; default 36.") private String startKey;
    @Option(names = "--kit-step", paramLabel = "KEYS", description = "From one sound of a kit to the next; default 1, neighbouring keys.") private Integer kitStep;
    @Option(names = "--one-kit", description = "With --map kit: the sounds of all folders make one kit, in the order of their names.") private boolean oneKit;
    @Option(names = "--middle-c", paramLabel = "heard|c3|c4|c5", description = "What names call key 60; default heard: as the sounds themselves tell, else c4.") private String middleC;
    @Option(names = "--name-part", paramLabel = "N=MEANING", description = "What the Nth part of names means: key, loudness, turn, side or nothing; -1 is the last; may be repeated.") private Map<Integer, String> nameParts = Map
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
        if (name != null) o = o.withNamePattern(Optional.of(name));
        if (existing != null) o = o.withExisting(existing);
        if (mirror) o = o.withMirror(Optional.of(true));
        return o.withTreatment(treatment(o.treatment())).withInstruments(instruments(o.instruments())).withQuality(quality(o.quality()))
                .withFacts(facts(o.facts()))
                .withMending(
                        new Mending(o.mending().looksForDamage() || check, o.mending().mendsClicks() || mendClicks, o.mending().takesLikelyDelay() || lineUp));
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
        Set<String> kinds = Set.of("loops", "mapping", "cues", "broadcast", "texts"), said = new TreeSet<>(List.of(facts.split(",")));
        if (facts.equals("none")) said.clear();
        for (String kind : said)
            if (!kinds.contains(kind)) throw unknown("--facts", kind);
        return new FactsChoice(
                new Keeps(said.contains("loops"), said.contains("mapping"), said.contains("cues"), said.contains("broadcast"), said.contains("texts")), false);
    }

    private Treatment treatment(Treatment base) throws OptionConflict {
        Treatment t = base;
        if (level != null) {
            LevelTarget target = target(level);
            boolean isLoudness = target.measure() != LevelMeasure.PEAK && target.measure() != LevelMeasure.TRUE_PEAK;
            t = t.withLevel(Optional.of(target));
            if (isLoudness && t.ceilingDbtp().isEmpty()) t = t.withCeiling(Optional.of(Treatment.USUAL_CEILING));
        }
        if (together) t = t.withTogether(true);
        if (ceiling != null) t = t.withCeiling(ceiling.equals("none") ? Optional.empty() : Optional.of(number("--ceiling", ceiling)));
        if (ceilingBy != null) t = t.withCeilingBy(CeilingBy.byId(ceilingBy).orElseThrow(() -> unknown("--ceiling-by", ceilingBy)));
        t = t.withFadeIn(fade(t.fadeIn(), "--fade-in", fadeIn, fadeInShape)).withFadeOut(fade(t.fadeOut(), "--fade-out", fadeOut, fadeOutShape));
        if (trim != null) t = t.withTrim(Optional.of(trim));
        if (dc) t = t.withOffsetRemoved(true);
        return loopCrossfade == null ? t : t.withLoopCrossfade(loopCrossfade);
    }

    private Quality quality(Quality base) throws OptionConflict {
        if (kbps != null && (kbps < 6 || kbps > 512)) throw new OptionConflict("--bit-rate: " + kbps + " is no rate from 6 to 512 kbit/s");
        if (kbps != null) return Quality.constant(kbps);
        return quality == null ? base : Quality.of(Quality.Word.byId(quality).orElseThrow(() -> unknown("--quality", quality)));
    }

    private static LevelTarget target(String text) throws OptionConflict {
        int colon = text.indexOf(':');
        LevelMeasure measure = LevelMeasure.byId(colon < 0 ? text : text.substring(0, colon)).orElseThrow(() -> unknown("--level", text));
        return new LevelTarget(measure, number("--level", text.substring(colon + 1)));
    }

    private static double number(String option, String text) throws OptionConflict {
        try {
            double value = Double.parseDouble(text);
            if (value >= -100 && value <= 24) return value;
        } catch (NumberFormatException e) {
            // Told below.
        }
        throw new OptionConflict(option + ": '" + text + "' is no level in dB from -100 to 24");
    }

    private static Fade fade(Fade usual, String option, Double ms, String shape) throws OptionConflict {
        if (ms != null && !(ms >= 0 && ms <= 60_000)) throw new OptionConflict(option + ": " + ms + " is no time from 0 to 60000 ms");
        Fade fade = ms == null ? usual : usual.withMs(ms);
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
            return hz >= 1000 && hz <= 1_000_000 ? Optional.of(hz) : Optional.empty();
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private static OptionConflict unknown(String option, String value) {
        return new OptionConflict(option + ": '" + value + "' is none of its values; 'ablecrate plan --help' lists them");
    }
}
