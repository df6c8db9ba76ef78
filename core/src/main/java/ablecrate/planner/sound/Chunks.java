package ablecrate.planner.sound;

import ablecrate.change.Change;
import ablecrate.change.MetadataChange;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.Problem;
import java.util.ArrayList;
import java.util.List;

/// Chunks of the source that are no metadata of the model: those that go along, and what becomes of the others.
record Chunks(List<ChunkInfo> kept, List<Change> changes) {
    static Chunks of(SoundTask task, boolean audioChanges) {
        List<ChunkInfo> kept = task.file().chunks().stream().filter(c -> stays(task, c, audioChanges)).toList(),
                lost = task.file().chunks().stream().filter(c -> !stays(task, c, audioChanges) && isSaying(task, c)).toList(),
                unmoved = kept.stream().filter(c -> audioChanges && role(task, c) == ChunkRole.UNKNOWN).toList();
        List<String> own = task.staysInFormat()
                ? List.of()
                : task.file().problems().stream().filter(p -> p.effect() == Problem.Effect.OWN).map(Problem::text).toList();
        List<Change> changes = new ArrayList<>();
        if (!own.isEmpty()) changes.add(new MetadataChange.ItemsDropped(own, task.target().name()));
        if (!unmoved.isEmpty()) changes.add(new MetadataChange.ChunksKept(unmoved));
        if (!lost.isEmpty()) changes.add(new MetadataChange.ChunksDropped(lost));
        return new Chunks(kept, changes);
    }

    /// Of a source that is none of our formats nothing is known.
    private static ChunkRole role(SoundTask task, ChunkInfo chunk) { return task.format().map(f -> f.role(chunk.id())).orElse(ChunkRole.FILLER); }

    /// What may hold positions of its own stays only where the audio does, or where the user wants it.
    private static boolean stays(SoundTask task, ChunkInfo chunk, boolean audioChanges) {
        return task.staysInFormat() && task.format().isPresent()
                && (role(task, chunk) != ChunkRole.UNKNOWN || !audioChanges || task.options().metadata().keepsUnknown());
    }

    /// Whether anything is lost without it that is not told elsewhere.
    private static boolean isSaying(SoundTask task, ChunkInfo chunk) {
        return role(task, chunk) == ChunkRole.TRAVELLER || role(task, chunk) == ChunkRole.UNKNOWN;
    }
}
