package ablecrate.codec.chunk;

import ablecrate.codec.Bytes;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.RawChunk;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/// Finds the chunks of a file after its 12-byte form header, whatever real writers did to them.
///
/// Put right and told: a pad byte left out after odd contents, a chunk that claims more than the file has,
/// an audio chunk whose size was never filled in (0 or all ones, written by streaming programs).
/// Source of the scheme: Electronic Arts, *EA IFF 85: Standard for Interchange Format Files*, 1985, "Chunks".
public final class ChunkScanner {
    /// Larger chunks are known by name and size only.
    private static final int MAX_CONTENTS = 1 << 24;
    private static final int MAX_CHUNKS = 100_000;
    /// How far the audio is searched for when a chunk before it has an impossible size.
    private static final int SEARCH_BYTES = 1 << 20;
    private static final long ALL_ONES = 0xFFFF_FFFFL;

    private final FileBytes file;
    private final ByteOrder order;
    private final String audioId;
    private final Map<String, Long> sizes64;
    private final List<ChunkInfo> chunks = new ArrayList<>();
    private final List<Problem> problems = new ArrayList<>();
    private long claimedAudioBytes;

    /// @param audioId the chunk that holds the samples, `data` or `SSND`
    /// @param sizes64 true sizes of chunks whose 32-bit size is all ones (RF64)
    public ChunkScanner(FileBytes file, ByteOrder order, String audioId, Map<String, Long> sizes64) {
        this.file = file;
        this.order = order;
        this.audioId = audioId;
        this.sizes64 = sizes64;
    }

    public List<ChunkInfo> chunks() { return chunks; }

    public List<Problem> problems() { return problems; }

    /// Bytes that the audio chunk claims beyond the end of the file; 0 where it is whole.
    public long missingAudioBytes() {
        return claimedAudioBytes == 0 ? 0 : claimedAudioBytes - chunks.stream().filter(c -> c.id().equals(audioId)).findFirst().orElseThrow().bytes();
    }

    public void scan() throws IOException {
        long at = 12;
        boolean audioSeen = false;
        while (at + 8 <= file.size() && chunks.size() < MAX_CHUNKS) {
            byte[] header = file.read(at, 8);
            if (!isId(header)) {
                problems.add(Problem.note(String.format(Locale.ROOT, "%,d bytes at the end belong to no chunk", file.size() - at), "byte " + at));
                return;
            }
            String id = new String(header, 0, 4, StandardCharsets.ISO_8859_1);
            long declared = ByteBuffer.wrap(header).order(order).getInt(4) & ALL_ONES;
            if (declared == ALL_ONES && sizes64.containsKey(id)) declared = sizes64.get(id);
            long contentsAt = at + 8, left = file.size() - contentsAt, size = declared;
            boolean isAudio = id.equals(audioId) && !audioSeen;
            String place = FormatException.place(id, at);

            if (isAudio && (declared == ALL_ONES || declared == 0 && left > 0 && !isChunkAt(contentsAt))) {
                size = left;
                problems.add(Problem.mend("the size of the audio was never filled in; it is taken to the end of the file", place));
            } else if (declared > left) {
                if (!isAudio && !audioSeen) {
                    long found = findAudio(contentsAt);
                    if (found >= 0) {
                        size = found - contentsAt;
                        problems.add(Problem.mend(String.format(Locale.ROOT,
                                "the chunk claims %,d bytes, more than the file has; the audio was found %,d bytes on", declared, size), place));
                        chunks.add(new ChunkInfo(id, contentsAt, size));
                        at = found;
                        continue;
                    }
                }
                size = left;
                // What is missing of the audio the reader tells, in frames.
                if (isAudio)
                    claimedAudioBytes = declared;
                else
                    problems.add(Problem.lost(String.format(Locale.ROOT, "the chunk claims %,d bytes, %,d are there", declared, left), place));
            }
            chunks.add(new ChunkInfo(id, contentsAt, size));
            audioSeen |= isAudio;
            at = contentsAt + size;
            if (size % 2 == 1 && at < file.size()) {
                // A pad byte is zero and no id starts with one, so a chunk that starts here has none before it.
                if (isChunkAt(at))
                    problems.add(Problem.mend("the pad byte after the chunk is missing", FormatException.place(id, at)));
                else
                    at++;
            }
        }
    }

    /// The contents of a chunk, cut at a size no sound header reaches.
    public ChunkReader reader(ChunkInfo chunk) throws IOException {
        return new ChunkReader(chunk.id(), chunk.at(), file.read(chunk.at(), (int) Math.min(chunk.bytes(), MAX_CONTENTS)), order);
    }

    /// All chunks but the audio, with their contents; giants are left out.
    public static List<RawChunk> contents(Path path, List<ChunkInfo> chunks, String audioId) throws IOException {
        List<RawChunk> raw = new ArrayList<>();
        try (FileBytes file = new FileBytes(path)) {
            for (ChunkInfo chunk : chunks)
                if (!chunk.id().equals(audioId) && chunk.bytes() <= MAX_CONTENTS)
                    raw.add(new RawChunk(chunk.id(), Bytes.of(file.read(chunk.at(), (int) chunk.bytes()))));
        }
        return raw;
    }

    private boolean isChunkAt(long at) throws IOException {
        byte[] header = file.read(at, 8);
        if (header.length < 8 || !isId(header)) return false;
        long size = ByteBuffer.wrap(header).order(order).getInt(4) & ALL_ONES;
        return at + 8 + size <= file.size();
    }

    private long findAudio(long from) throws IOException {
        byte[] stretch = file.read(from, SEARCH_BYTES);
        byte[] id = audioId.getBytes(StandardCharsets.ISO_8859_1);
        for (int i = 0; i + 8 <= stretch.length; i++)
            if (stretch[i] == id[0] && stretch[i + 1] == id[1] && stretch[i + 2] == id[2] && stretch[i + 3] == id[3] && isChunkAt(from + i))
                return from + i;
        return -1;
    }

    private static boolean isId(byte[] header) {
        for (int i = 0; i < 4; i++)
            if (header[i] < 0x20 || header[i] > 0x7E) return false;
        return true;
    }
}
