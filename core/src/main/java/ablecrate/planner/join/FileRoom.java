package ablecrate.planner.join;

import ablecrate.codec.OutputShape;
import ablecrate.codec.WrittenFormat;
import ablecrate.destination.DestinationSheet;
import ablecrate.plan.PackingItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.LongBinaryOperator;

/// What one file of joined sounds holds; what is more goes on in another.
record FileRoom(List<Limit> limits) {
    /// What headers may take of a file, and what is said of a cue point.
    private static final long HEADERS = 1 << 20, CUE_BYTES = 512;

    /// @param told in words
    /// @param used of it by so many frames and so many cues
    private record Limit(String told, long most, LongBinaryOperator used) {
        boolean isPassed(long frames, long cues) { return used.applyAsLong(frames, cues) > most; }
    }

    /// Sounds that share a file.
    /// @param full what has no room for the next one, in words; empty for the last file
    record Share(List<PackingItem> sounds, String full) {}

    /// @param shape of the file; its length does not count
    static FileRoom of(DestinationSheet sheet, WrittenFormat format, OutputShape shape) {
        List<Limit> limits = new ArrayList<>();
        long plain = format.plainFileBytes(), card = sheet.card().fileBytes() == 0 ? Long.MAX_VALUE : sheet.card().fileBytes(), bytes = Math.min(plain, card),
                ofFrame = (long) shape.channels() * shape.depth().bytes();
        // Compressed ones are smaller than their samples, by how much shows when they are written.
        if (bytes < Long.MAX_VALUE)
            limits.add(new Limit(String.format(Locale.ROOT, "%s takes files of up to %,d bytes", card < plain ? sheet.name() : format.name(), bytes), bytes,
                    (frames, cues) -> HEADERS + frames * ofFrame + cues * CUE_BYTES));
        double seconds = sheet.accepts().maxSeconds();
        if (seconds > 0)
            limits.add(new Limit(String.format(Locale.ROOT, "%s takes up to %.0f s", sheet.name(), seconds), (long) (seconds * shape.rateHz()),
                    (frames, _) -> frames));
        if (format.capabilities().cues() > 0)
            limits.add(new Limit(String.format(Locale.ROOT, "%s takes up to %,d cue points", format.name(), format.capabilities().cues()),
                    format.capabilities().cues(), (_, cues) -> cues));
        return new FileRoom(limits);
    }

    /// As many to a file as it holds, in their order; one that is too much for any file has one for itself.
    /// @param gapFrames between two
    List<Share> shared(List<PackingItem> sounds, long gapFrames) {
        List<Share> shares = new ArrayList<>();
        List<PackingItem> now = new ArrayList<>();
        long length = 0, points = 0;
        for (PackingItem sound : sounds) {
            long frames = sound.outputs().getFirst().sourceChain().frames(), cues = 1 + sound.outputs().getFirst().metadata().cues().size(),
                    longer = length + gapFrames + frames, more = points + cues;
            Optional<Limit> passed = now.isEmpty() ? Optional.empty() : limits.stream().filter(l -> l.isPassed(longer, more)).findFirst();
            if (passed.isPresent()) {
                shares.add(new Share(now, passed.get().told()));
                now = new ArrayList<>();
            }
            length = now.isEmpty() ? frames : longer;
            points = now.isEmpty() ? cues : more;
            now.add(sound);
        }
        shares.add(new Share(now, ""));
        return shares;
    }
}
