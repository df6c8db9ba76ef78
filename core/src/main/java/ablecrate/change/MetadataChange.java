package ablecrate.change;

import ablecrate.audio.Figures;
import ablecrate.codec.ChunkInfo;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/// What becomes of what a sound says of itself, loops aside.
public sealed interface MetadataChange extends Change {
    record MappingDropped(Mapping mapping, Lack why) implements MetadataChange {
        @Override public Property property() { return Property.MAPPING; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(told(mapping), "none", "key mapping dropped: " + (why == Lack.CHOSEN ? Told.AS_CHOSEN : "the destination has no use for it"));
        }
    }

    /// `root 60, keys 36…59, velocities 1…80`
    private static String told(Mapping mapping) {
        List<String> parts = new ArrayList<>();
        mapping.rootKey().ifPresent(k -> parts.add("root " + k));
        mapping.keys().filter(s -> !s.equals(new Span(0, 127))).ifPresent(s -> parts.add("keys " + s.low() + "…" + s.high()));
        mapping.velocities().filter(s -> !s.equals(new Span(1, 127))).ifPresent(s -> parts.add("velocities " + s.low() + "…" + s.high()));
        return parts.isEmpty() ? "mapping" : String.join(", ", parts);
    }

    /// @param isAtEnd whether it is held as there is no further key, and not rounded to whole cents
    record TuningMoved(double fromCents, double toCents, boolean isAtEnd) implements MetadataChange {
        @Override public Property property() { return Property.MAPPING; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            double by = Math.abs(fromCents - toCents);
            return new Text(cents(fromCents), cents(toCents), isAtEnd
                    ? String.format(Locale.ROOT, "tuning moved by %.2f cents: there is no key further", by)
                    : String.format(Locale.ROOT, "fine tuning moved by %.2f cents", by));
        }

        private static String cents(double cents) { return String.format(Locale.ROOT, "%+.2f cents", cents); }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(fromCents, toCents, "cents")); }
    }

    record GainMoved(double fromDb, double toDb) implements MetadataChange {
        @Override public Property property() { return Property.MAPPING; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%+.1f dB", fromDb), String.format(Locale.ROOT, "%+.1f dB", toDb),
                    String.format(Locale.ROOT, "gain moved by %.1f dB", Math.abs(fromDb - toDb)));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(fromDb, toDb, "dB")); }
    }

    /// What an instrument says of a sound, written into the sound.
    record MappingWritten(Mapping from, Mapping to) implements MetadataChange {
        @Override public Property property() { return Property.MAPPING; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() { return new Text(told(from), told(to), "mapping and loops of the instrument written into the file"); }
    }

    /// Cue points where slices begin, beside those of the file.
    record CuesSet(int from, int to) implements MetadataChange {
        @Override public Property property() { return Property.CUES; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(from == 0 ? "none" : Told.count(from, "cue"), Told.count(to, "cue"), "cue points set where slices begin");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from, to, "cues")); }
    }

    /// Cues that lie outside of the part that is used.
    record CuesOutside(int from, int to) implements MetadataChange {
        @Override public Property property() { return Property.CUES; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(from, "cue"), Told.count(to, "cue"),
                    Told.count(from - to, "cue") + " dropped: outside of the part that is used");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from, to, "cues")); }
    }

    /// More cues than the format holds.
    record CuesBeyond(int from, int to, String format) implements MetadataChange {
        @Override public Property property() { return Property.CUES; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(from, "cue"), Told.count(to, "cue"), Told.count(from - to, "cue") + " dropped: " + format + " holds no more");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from, to, "cues")); }
    }

    record CuesDropped(int count, Lack why) implements MetadataChange {
        @Override public Property property() { return Property.CUES; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            String cues = Told.count(count, "cue");
            return new Text(cues, "none", cues + " dropped: " + (why == Lack.CHOSEN ? Told.AS_CHOSEN : "the destination has no use for them"));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(count, 0, "cues")); }
    }

    /// @param shortened how many lose their note or their length
    record CueNotesDropped(int count, int shortened, String format) implements MetadataChange {
        @Override public Property property() { return Property.CUES; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            String cues = Told.count(count, "cue");
            return new Text(cues, cues, "note or length of " + Told.count(shortened, "cue") + " dropped: " + format + " has only points with names");
        }
    }

    /// @param shiftFrames how far the farthest is from where it would be exactly
    record CuesMoved(int count, double shiftFrames) implements MetadataChange {
        private static final double WHOLE = 1e-9;

        @Override public Property property() { return Property.CUES; }

        @Override public Verdict verdict() { return shiftFrames < WHOLE ? Verdict.CONVERTED : Verdict.ADJUSTED; }

        @Override public Text text() {
            String cues = Told.count(count, "cue");
            return new Text(cues, cues, shiftFrames < WHOLE
                    ? cues + " moved with the rate, exactly"
                    : String.format(Locale.ROOT, "%s moved, at most %.1f frames", cues, Math.max(shiftFrames, 0.05)));
        }
    }

    record BroadcastDropped(Lack why, String format) implements MetadataChange {
        @Override public Property property() { return Property.BROADCAST; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text("present", "none", "broadcast data dropped, time stamp with it: " + switch (why) {
                case CHOSEN -> Told.AS_CHOSEN;
                case DESTINATION -> "the destination has no use for it";
                case FORMAT -> format + " cannot carry it";
            });
        }
    }

    /// @param shiftFrames how far it is from where it would be exactly
    record TimeStampMoved(long fromFrames, long toFrames, double shiftFrames) implements MetadataChange {
        private static final double WHOLE = 1e-6;

        @Override public Property property() { return Property.BROADCAST; }

        @Override public Verdict verdict() { return shiftFrames < WHOLE ? Verdict.CONVERTED : Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(Figures.grouped(fromFrames), Figures.grouped(toFrames), shiftFrames < WHOLE
                    ? "time stamp moved with the rate, exactly"
                    : String.format(Locale.ROOT, "time stamp moved by %.1f frames", Math.max(shiftFrames, 0.05)));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(fromFrames, toFrames, "frames")); }
    }

    /// @param fromFrames absent where the file had none
    /// @param toFrames frames since midnight, at the rate of the result
    record TimeStamped(Optional<Long> fromFrames, long toFrames) implements MetadataChange {
        @Override public Property property() { return Property.BROADCAST; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(fromFrames.map(Figures::grouped).orElse("none"), Figures.grouped(toFrames), "time stamp of its place on the time line");
        }
    }

    record TextsDropped(int texts, List<TextField> dropped, boolean isChosen) implements MetadataChange {
        @Override public Property property() { return Property.TEXTS; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(texts, "text"), Told.count(texts - dropped.size(), "text"),
                    Told.count(dropped.size(), "text") + " dropped" + (isChosen ? " " + Told.AS_CHOSEN : "") + ": "
                            + dropped.stream().map(TextField::label).sorted().collect(Collectors.joining(", ")));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(texts, texts - dropped.size(), "texts")); }
    }

    /// What only the source's own format has.
    record ItemsDropped(List<String> items, String format) implements MetadataChange {
        @Override public Property property() { return Property.CHUNKS; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(items.size(), "item"), "none", format + " has no place for " + String.join(", ", items));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(items.size(), 0, "items")); }
    }

    /// Unknown chunks that go along though the audio changes.
    record ChunksKept(List<ChunkInfo> chunks) implements MetadataChange {
        @Override public Property property() { return Property.CHUNKS; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(Told.count(chunks.size(), "chunk"), "as they are", Told.count(chunks.size(), "unknown chunk") + " kept as chosen: " + names(chunks)
                    + "; positions in them, if any, are not moved");
        }
    }

    record ChunksDropped(List<ChunkInfo> chunks) implements MetadataChange {
        @Override public Property property() { return Property.CHUNKS; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(chunks.size(), "chunk"), "none", Told.count(chunks.size(), "unknown chunk") + " dropped: " + names(chunks));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(chunks.size(), 0, "chunks")); }
    }

    private static String names(List<ChunkInfo> chunks) {
        return chunks.stream().map(c -> String.format(Locale.ROOT, "'%s' (%,d bytes)", c.id(), c.bytes())).collect(Collectors.joining(", "));
    }
}
