package ablecrate.planner.sound;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WrittenFormat;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.fit.Size;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.option.Choice;
import ablecrate.option.Mending;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/// What a sheet and the options together leave for each source. Checks the options once, at the door.
public final class Accepted {
    private final DestinationSheet sheet;
    private final PackOptions options;
    private final Optional<Double> sessionBpm;

    private Accepted(DestinationSheet sheet, PackOptions options, Optional<Double> sessionBpm) {
        this.sheet = sheet;
        this.options = options;
        this.sessionBpm = sessionBpm;
    }

    /// @param sessionBpm tempo of the session that is packed into; empty where it is none
    /// @throws OptionConflict if an option asks for what the sheet does not accept
    public static Accepted of(DestinationSheet sheet, PackOptions options, Optional<Double> sessionBpm) throws OptionConflict {
        Accepted accepted = new Accepted(sheet, options, sessionBpm);
        accepted.check();
        return accepted;
    }

    private void check() throws OptionConflict {
        DestinationSheet.Accepts accepts = sheet.accepts();
        if (options.container() instanceof Choice.Of<String>(String id)) {
            check(sheet.containers().contains(id), "container " + id, sheet.containers());
        }
        if (options.rateHz() instanceof Choice.Of<Integer>(Integer hz))
            check(accepts.takesRate(hz), hz + " Hz", accepts.rateChoices());
        if (options.depth() instanceof Choice.Of<Depth>(Depth depth))
            check(accepts.depths().isEmpty() || accepts.depthList().contains(depth), "depth " + depth.id(), accepts.depths());
        if (sheet.layout().oneFolder() && options.mirror().orElse(false))
            throw new OptionConflict(sheet.id() + " looks into no folders; do not recreate those of the source");
        ChannelChoice choice = options.channels().orElse(ChannelChoice.KEEP);
        if (choice == ChannelChoice.MONO || choice == ChannelChoice.SPLIT) check(acceptsChannels(1), "channels " + choice.id(), accepts.channels());
        if (choice == ChannelChoice.STEREO) check(acceptsChannels(2), "channels stereo", accepts.channels());
    }

    public DestinationSheet sheet() { return sheet; }

    public PackOptions options() { return options; }

    Optional<Double> sessionBpm() { return sessionBpm; }

    private Accepted with(PackOptions other) { return new Accepted(sheet, other, sessionBpm); }

    /// The same for a sound that is made smaller than it would have to be.
    public Accepted reduced(Size size, SoundFile sound) {
        PackOptions lower = options.withRate(new Choice.Of<>(size.rateHz())), less = size.depth().map(d -> lower.withDepth(new Choice.Of<>(d))).orElse(lower);
        return with(size.isFolded() && sound.channels() == 2 ? less.withChannels(Optional.of(ChannelChoice.MONO)) : less);
    }

    /// The same for sounds that are to have a rate and channels in common.
    public Accepted alike(int rateHz, ChannelChoice channels) {
        return with(options.withRate(new Choice.Of<>(rateHz)).withChannels(Optional.of(channels)));
    }

    /// The same for a sound that has had its levels, ends and repairs, and is written in a depth.
    public Accepted untreated(Depth depth) {
        return with(options.withTreatment(Treatment.NONE).withMending(Mending.NONE).withDepth(new Choice.Of<>(depth)));
    }

    private void check(boolean holds, String what, List<?> accepted) throws OptionConflict {
        if (!holds) throw conflict(what, accepted);
    }

    private OptionConflict conflict(String what, List<?> accepted) {
        return new OptionConflict(
                sheet.id() + " does not take " + what + "; it takes " + accepted.stream().map(Object::toString).collect(Collectors.joining(", ")));
    }

    /// The format that instruments of this one become; empty where their sounds go alone.
    public Optional<InstrumentFormat> instruments(String sourceFormat) {
        if (options.container() instanceof Choice.Of<String>(String id)) return InstrumentFormats.byId(id);
        List<String> accepted = sheet.accepts().instruments();
        // Sounds of a folder are instruments only where they are asked to be.
        if (InstrumentFormats.byId(sourceFormat).isEmpty()) return assembles();
        if (accepted.isEmpty()) return Optional.empty();
        return InstrumentFormats.byId(accepted.contains(sourceFormat) ? sourceFormat : accepted.getFirst());
    }

    /// Whether loose sounds are asked to become instruments.
    public Optional<InstrumentFormat> assembles() {
        return options.container().or(sheet.defaults().container()).flatMap(InstrumentFormats::byId);
    }

    public WrittenFormat container(String sourceFormat) {
        List<String> accepted = sheet.accepts().containers();
        // One that is chosen for instruments is none of sounds; the sounds beside them are as the source then.
        Optional<String> chosen = options.container().or(sheet.defaults().container()).filter(id -> SoundFormats.written(id).isPresent());
        return SoundFormats
                .written(chosen.orElseGet(() -> accepted.contains(sourceFormat) || accepted.isEmpty() && SoundFormats.written(sourceFormat).isPresent()
                        ? sourceFormat
                        : accepted.isEmpty() ? SoundFormats.WRITTEN.getFirst().id() : accepted.getFirst()))
                .orElseThrow();
    }

    public int rateHz(int sourceHz) {
        List<Integer> accepted = sheet.accepts().rateChoices();
        // The nearest that loses nothing, else the highest.
        return options.rateHz().or(sheet.defaults().rateHz()).orElseGet(() -> sheet.accepts().takesRate(sourceHz)
                ? sourceHz
                : accepted.stream().filter(r -> r >= sourceHz).findFirst().orElse(accepted.getLast()));
    }

    public Depth depth(Depth source) {
        List<Depth> accepted = sheet.accepts().depthList();
        return options.depth().or(sheet.defaults().depth().map(id -> Depth.byId(id).orElse(source)))
                .orElseGet(() -> accepted.isEmpty() || accepted.contains(source)
                        ? source
                        : accepted.stream().filter(d -> d.resolutionBits() >= source.resolutionBits()).findFirst().orElse(accepted.getLast()));
    }

    /// [ChannelChoice#KEEP] only where the source's number of channels is accepted.
    public ChannelChoice channels(int sourceChannels) {
        ChannelChoice choice = options.channels().orElse(sheet.defaults().channels().orElse(ChannelChoice.KEEP));
        if (choice != ChannelChoice.KEEP || acceptsChannels(sourceChannels)) return choice;
        if (sourceChannels == 1) return ChannelChoice.STEREO;
        // Explicitly asked to keep where only mono is taken: the destination's own way.
        return sourceChannels == 2 ? sheet.defaults().channels().filter(c -> c != ChannelChoice.KEEP).orElse(ChannelChoice.MONO) : ChannelChoice.KEEP;
    }

    public boolean acceptsChannels(int channels) { return sheet.accepts().channels().isEmpty() || sheet.accepts().channels().contains(channels); }
}
