package ablecrate.planner.sound;

import ablecrate.change.AudioChange;
import ablecrate.change.Change;
import ablecrate.destination.ChannelChoice;
import ablecrate.option.MonoLaw;
import ablecrate.signal.ChannelMix;
import ablecrate.signal.Measurement;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/// Which channels come out.
/// @param mixes one an output; none where they do not fit
record Channels(List<ChannelMix> mixes, Optional<AudioChange> change) {
    static Channels of(SoundTask task) {
        int n = task.file().channels();
        ChannelChoice choice = task.accepted().channels(n);
        if (isKept(task, choice)) return new Channels(List.of(ChannelMix.keep(n)), Optional.empty());
        if (choice == ChannelChoice.MONO && n == 2) return folded(task.edit().monoLaw().orElse(task.options().monoLaw()));
        if (choice == ChannelChoice.STEREO && n == 1) return new Channels(List.of(ChannelMix.doubled()), Optional.of(new AudioChange.Doubled()));
        return choice == ChannelChoice.SPLIT
                ? new Channels(IntStream.range(0, n).mapToObj(c -> ChannelMix.only(c, n)).toList(), Optional.of(new AudioChange.ChannelsSplit(n)))
                : new Channels(List.of(), Optional.of(new AudioChange.ChannelsRefused(n)));
    }

    private static boolean isKept(SoundTask task, ChannelChoice choice) {
        int n = task.file().channels();
        return switch (choice) {
            case MONO, SPLIT -> n == 1;
            case STEREO -> n == 2;
            case KEEP -> task.accepted().acceptsChannels(n) && n <= task.target().capabilities().maxChannels();
        };
    }

    private static Channels folded(MonoLaw law) {
        return new Channels(List.of(switch (law) {
            case MID -> ChannelMix.middle();
            case LEFT -> ChannelMix.only(0, 2);
            case RIGHT -> ChannelMix.only(1, 2);
        }), Optional.of(new AudioChange.Folded(law, Optional.empty())));
    }

    boolean isNone() { return mixes.isEmpty(); }

    /// Whether both sides go into one.
    boolean isFolded() { return mixes.size() == 1 && mixes.getFirst().isMiddle(); }

    /// Whether samples differ for it.
    boolean changesAudio() { return change.filter(c -> !(c instanceof AudioChange.ChannelsRefused)).isPresent(); }

    /// With what the sides do to each other, where they are folded.
    Optional<Change> change(Optional<Measurement.Survey> survey) {
        return isFolded()
                ? Optional.of(new AudioChange.Folded(MonoLaw.MID, survey.flatMap(Measurement.Survey::sides)))
                : change.map(Change.class::cast);
    }
}
