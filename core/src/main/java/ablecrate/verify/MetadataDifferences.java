package ablecrate.verify;

import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;

/// What a file says of itself, held against what it shall say, kind by kind; what neither says is no check.
final class MetadataDifferences {
    /// The fraction of a semitone has 32 bits in a sampler chunk: steps of 2.3e-8 cents.
    static final double SAME_CENTS = 1e-6;

    private MetadataDifferences() {}

    static List<Outcome> of(SoundMetadata wanted, SoundMetadata found) {
        List<Outcome> outcomes = new ArrayList<>();
        compare(outcomes, Check.LOOPS, wanted.loops().stream().map(MetadataDifferences::text).toList(),
                found.loops().stream().map(MetadataDifferences::text).toList());
        mapping(outcomes, wanted.mapping(), found.mapping());
        compare(outcomes, Check.CUES, wanted.cues().stream().map(MetadataDifferences::text).toList(),
                found.cues().stream().map(MetadataDifferences::text).toList());
        compare(outcomes, Check.BROADCAST, texts(wanted.broadcast()), texts(found.broadcast()));
        compare(outcomes, Check.TEXTS, texts(wanted.texts()), texts(found.texts()));
        return outcomes;
    }

    private static void compare(List<Outcome> outcomes, Check check, List<String> wanted, List<String> found) {
        if (wanted.isEmpty() && found.isEmpty()) return;
        outcomes.add(wanted.equals(found) ? new Outcome.Held(check, told(found)) : new Outcome.Failed(check, told(wanted), told(found)));
    }

    private static String told(List<String> parts) { return parts.isEmpty() ? "none" : String.join("; ", parts); }

    private static String text(Loop loop) {
        return String.format(Locale.ROOT, "%,d…%,d %s%s%s", loop.frames().start(), loop.frames().end(), loop.mode().label(),
                loop.use() == Loop.Use.RELEASE ? " after release" : "", loop.playCount() == 0 ? "" : " × " + loop.playCount());
    }

    private static String text(Cue cue) {
        return String.format(Locale.ROOT, "%,d", cue.frame()) + (cue.lengthFrames() > 0 ? "+" + cue.lengthFrames() : "")
                + cue.label().map(l -> " '" + l + "'").orElse("") + cue.note().map(n -> " (" + n + ")").orElse("");
    }

    /// A range or a gain that is not stated is the whole range, and none; a root key that nobody asked for is no matter.
    private static void mapping(List<Outcome> outcomes, Mapping wanted, Mapping found) {
        if (wanted.isEmpty() && found.isEmpty()) return;
        Span keys = new Span(0, 127), velocities = new Span(1, 127);
        boolean isSame = (wanted.rootKey().isEmpty() || found.rootKey().equals(wanted.rootKey()))
                && Math.abs(found.fineTuneCents() - wanted.fineTuneCents()) < SAME_CENTS
                && Objects.equals(found.keys().orElse(keys), wanted.keys().orElse(keys))
                && Objects.equals(found.velocities().orElse(velocities), wanted.velocities().orElse(velocities))
                && found.gainDb().orElse(0.0) - wanted.gainDb().orElse(0.0) == 0;
        outcomes.add(isSame ? new Outcome.Held(Check.MAPPING, text(found)) : new Outcome.Failed(Check.MAPPING, text(wanted), text(found)));
    }

    private static String text(Mapping mapping) {
        List<String> parts = new ArrayList<>();
        mapping.rootKey().ifPresent(k -> parts.add("root " + k));
        if (mapping.fineTuneCents() != 0) parts.add(String.format(Locale.ROOT, "%+.2f cents", mapping.fineTuneCents()));
        mapping.keys().ifPresent(s -> parts.add("keys " + s.low() + "…" + s.high()));
        mapping.velocities().ifPresent(s -> parts.add("velocities " + s.low() + "…" + s.high()));
        mapping.gainDb().ifPresent(g -> parts.add(String.format(Locale.ROOT, "%+.1f dB", g)));
        return told(parts);
    }

    private static List<String> texts(Optional<Broadcast> broadcast) {
        return broadcast.map(b -> List.of(b.description(), b.originator(), b.originatorReference(), b.originationDate(), b.originationTime(),
                "time " + b.timeReferenceFrames(), b.umidHex(), b.loudness().map(Object::toString).orElse(""), b.codingHistory())).orElse(List.of());
    }

    private static List<String> texts(Map<?, String> texts) {
        Map<String, String> sorted = new TreeMap<>();
        texts.forEach((field, text) -> sorted.put(field.toString(), text));
        return sorted.entrySet().stream().map(e -> e.getKey() + "=" + e.getValue()).toList();
    }
}
