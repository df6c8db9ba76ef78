package ablecrate.plan;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.Dither;
import java.util.Optional;

/// What the user chose. What a destination fixes cannot be chosen against it, see [Planner].
/// @param namePattern instead of the destination's
/// @param quality where a lossy format is written
/// @param facts that are written into sound files
/// @param mirror whether the folders of the source are rebuilt; absent is as the destination prefers
public record PackOptions(Choice<String> container, Choice<Integer> rateHz, Choice<Depth> depth, Optional<ChannelChoice> channels, MonoLaw monoLaw,
        Dither dither, Optional<String> namePattern, ExistingFiles existing, Optional<Boolean> mirror, Treatment treatment, InstrumentOptions instruments,
        Quality quality, Mending mending, FactsChoice facts) {
    public static final PackOptions DEFAULT = new PackOptions(Choice.asDestination(), Choice.asDestination(), Choice.asDestination(), Optional.empty(),
            MonoLaw.MID, Dither.TPDF, Optional.empty(), ExistingFiles.SKIP, Optional.empty(), Treatment.NONE, InstrumentOptions.DEFAULT, Quality.DEFAULT,
            Mending.NONE, FactsChoice.ALL);

    public PackOptions withContainer(Choice<String> c) {
        return new PackOptions(c, rateHz, depth, channels, monoLaw, dither, namePattern, existing, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withRate(Choice<Integer> r) {
        return new PackOptions(container, r, depth, channels, monoLaw, dither, namePattern, existing, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withDepth(Choice<Depth> d) {
        return new PackOptions(container, rateHz, d, channels, monoLaw, dither, namePattern, existing, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withChannels(Optional<ChannelChoice> c) {
        return new PackOptions(container, rateHz, depth, c, monoLaw, dither, namePattern, existing, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withMonoLaw(MonoLaw l) {
        return new PackOptions(container, rateHz, depth, channels, l, dither, namePattern, existing, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withDither(Dither d) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, d, namePattern, existing, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withNamePattern(Optional<String> p) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, p, existing, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withExisting(ExistingFiles e) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, namePattern, e, mirror, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withMirror(Optional<Boolean> m) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, namePattern, existing, m, treatment, instruments, quality, mending, facts);
    }

    public PackOptions withTreatment(Treatment t) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, namePattern, existing, mirror, t, instruments, quality, mending, facts);
    }

    public PackOptions withInstruments(InstrumentOptions i) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, namePattern, existing, mirror, treatment, i, quality, mending, facts);
    }

    public PackOptions withQuality(Quality q) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, namePattern, existing, mirror, treatment, instruments, q, mending, facts);
    }

    public PackOptions withMending(Mending m) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, namePattern, existing, mirror, treatment, instruments, quality, m, facts);
    }

    public PackOptions withFacts(FactsChoice f) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, namePattern, existing, mirror, treatment, instruments, quality, mending, f);
    }
}
