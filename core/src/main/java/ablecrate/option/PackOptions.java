package ablecrate.option;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.Dither;
import java.util.Optional;

/// What the user chose. What a destination fixes cannot be chosen against it, see [ablecrate.planner.Planner].
/// @param quality where a lossy format is written
/// @param metadata that are written into sound files
public record PackOptions(Choice<String> container, Choice<Integer> rateHz, Choice<Depth> depth, Optional<ChannelChoice> channels, MonoLaw monoLaw,
        Dither dither, Placing placing, Treatment treatment, InstrumentOptions instruments, Quality quality, Mending mending, MetadataChoice metadata,
        SessionOptions session) {
    public static final PackOptions DEFAULT = new PackOptions(Choice.asDestination(), Choice.asDestination(), Choice.asDestination(), Optional.empty(),
            MonoLaw.MID, Dither.TPDF, Placing.USUAL, Treatment.NONE, InstrumentOptions.DEFAULT, Quality.DEFAULT, Mending.NONE, MetadataChoice.ALL,
            SessionOptions.DEFAULT);

    public Optional<String> namePattern() { return placing.namePattern(); }

    public ExistingFiles existing() { return placing.existing(); }

    public Optional<Boolean> mirror() { return placing.mirror(); }

    public PackOptions withContainer(Choice<String> c) {
        return new PackOptions(c, rateHz, depth, channels, monoLaw, dither, placing, treatment, instruments, quality, mending, metadata, session);
    }

    public PackOptions withRate(Choice<Integer> r) {
        return new PackOptions(container, r, depth, channels, monoLaw, dither, placing, treatment, instruments, quality, mending, metadata, session);
    }

    public PackOptions withDepth(Choice<Depth> d) {
        return new PackOptions(container, rateHz, d, channels, monoLaw, dither, placing, treatment, instruments, quality, mending, metadata, session);
    }

    public PackOptions withChannels(Optional<ChannelChoice> c) {
        return new PackOptions(container, rateHz, depth, c, monoLaw, dither, placing, treatment, instruments, quality, mending, metadata, session);
    }

    public PackOptions withMonoLaw(MonoLaw l) {
        return new PackOptions(container, rateHz, depth, channels, l, dither, placing, treatment, instruments, quality, mending, metadata, session);
    }

    public PackOptions withDither(Dither d) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, d, placing, treatment, instruments, quality, mending, metadata, session);
    }

    public PackOptions withPlacing(Placing p) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, p, treatment, instruments, quality, mending, metadata, session);
    }

    public PackOptions withTreatment(Treatment t) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, placing, t, instruments, quality, mending, metadata, session);
    }

    public PackOptions withInstruments(InstrumentOptions i) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, placing, treatment, i, quality, mending, metadata, session);
    }

    public PackOptions withQuality(Quality q) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, placing, treatment, instruments, q, mending, metadata, session);
    }

    public PackOptions withMending(Mending m) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, placing, treatment, instruments, quality, m, metadata, session);
    }

    public PackOptions withMetadata(MetadataChoice f) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, placing, treatment, instruments, quality, mending, f, session);
    }

    public PackOptions withSession(SessionOptions s) {
        return new PackOptions(container, rateHz, depth, channels, monoLaw, dither, placing, treatment, instruments, quality, mending, metadata, s);
    }

    public PackOptions withNamePattern(Optional<String> p) { return withPlacing(placing.withNamePattern(p)); }

    public PackOptions withExisting(ExistingFiles e) { return withPlacing(placing.withExisting(e)); }

    public PackOptions withMirror(Optional<Boolean> m) { return withPlacing(placing.withMirror(m)); }
}
