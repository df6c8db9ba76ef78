package ablecrate.instrument;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Everything that a sound says of itself besides its audio.
public record SoundMetadata(List<Loop> loops, Mapping mapping, List<Cue> cues, Optional<Broadcast> broadcast,
        Map<TextField, String> texts) {
    public static final SoundMetadata NONE = new SoundMetadata(List.of(), Mapping.NONE, List.of(), Optional.empty(), Map.of());

    public SoundMetadata {
        loops = List.copyOf(loops);
        cues = List.copyOf(cues);
        texts = Map.copyOf(texts);
    }

    public SoundMetadata withLoops(List<Loop> others) { return new SoundMetadata(others, mapping, cues, broadcast, texts); }

    public SoundMetadata withMapping(Mapping other) { return new SoundMetadata(loops, other, cues, broadcast, texts); }

    public SoundMetadata withCues(List<Cue> others) { return new SoundMetadata(loops, mapping, others, broadcast, texts); }

    public SoundMetadata withBroadcast(Optional<Broadcast> other) { return new SoundMetadata(loops, mapping, cues, other, texts); }

    public SoundMetadata withTexts(Map<TextField, String> others) { return new SoundMetadata(loops, mapping, cues, broadcast, others); }
}
