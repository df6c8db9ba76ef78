package ablecrate.instrument;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Everything that a sound says of itself besides its audio.
public record SoundFacts(List<Loop> loops, Mapping mapping, List<Cue> cues, Optional<Broadcast> broadcast,
        Map<TextField, String> texts) {
    public static final SoundFacts NONE = new SoundFacts(List.of(), Mapping.NONE, List.of(), Optional.empty(), Map.of());

    public SoundFacts {
        loops = List.copyOf(loops);
        cues = List.copyOf(cues);
        texts = Map.copyOf(texts);
    }

    public SoundFacts withLoops(List<Loop> others) { return new SoundFacts(others, mapping, cues, broadcast, texts); }

    public SoundFacts withMapping(Mapping other) { return new SoundFacts(loops, other, cues, broadcast, texts); }

    public SoundFacts withCues(List<Cue> others) { return new SoundFacts(loops, mapping, others, broadcast, texts); }

    public SoundFacts withBroadcast(Optional<Broadcast> other) { return new SoundFacts(loops, mapping, cues, other, texts); }

    public SoundFacts withTexts(Map<TextField, String> others) { return new SoundFacts(loops, mapping, cues, broadcast, others); }
}
