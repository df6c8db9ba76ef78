package ablecrate.cli;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.instrument.NoteName;
import ablecrate.plan.CeilingBy;
import ablecrate.plan.Choice;
import ablecrate.plan.ExistingFiles;
import ablecrate.plan.Fade;
import ablecrate.plan.InstrumentOptions;
import ablecrate.plan.KeyGaps;
import ablecrate.plan.LevelTarget;
import ablecrate.plan.MapBy;
import ablecrate.plan.Mending;
import ablecrate.plan.MonoLaw;
import ablecrate.plan.OptionConflict;
import ablecrate.plan.PackOptions;
import ablecrate.plan.Treatment;
import java.util.List;
import java.util.Optional;
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

    @Option(names = "--map", paramLabel = "auto|chunks|names|kit", description = "How loose sounds become an instrument: by their chunks, by their names, or one a key; default auto.") private MapBy mapBy;
    @Option(names = "--gaps", paramLabel = "half|up|down", description = "Keys between two roots: half-way, to the lower root, to the higher; default half.") private KeyGaps gaps;
    @Option(names = "--start-key", paramLabel = "KEY", description = "First key of a kit; a number or a name, C4 is 60; default 36.") private String startKey;
    @Option(names = "--one-bank", description = "All instruments into one bank.") private boolean oneBank;
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
                .withMending(
                        new Mending(o.mending().looksForDamage() || check, o.mending().mendsClicks() || mendClicks, o.mending().takesLikelyDelay() || lineUp));
    }

    private InstrumentOptions instruments(InstrumentOptions base) throws OptionConflict {
        int key = startKey == null
                ? base.startKey()
                : NoteName.parse(startKey, 4).filter(k -> k >= 0 && k <= 127)
                        .orElseThrow(() -> new OptionConflict("--start-key: '" + startKey + "' is no key from 0 to 127"));
        return new InstrumentOptions(mapBy == null ? base.mapBy() : mapBy, gaps == null ? base.gaps() : gaps, key, base.oneBank() || oneBank,
                base.playingDefaults() && !noPlayingDefaults,
                only.isEmpty() ? base.only() : only);
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
