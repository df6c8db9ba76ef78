package ablecrate.codec.w64;

import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.FormatException;
import ablecrate.codec.Losses;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import ablecrate.codec.riff.FmtChunk;
import ablecrate.codec.riff.RiffMetadata;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Set;

/// W64: WAV with 64-bit sizes under names of 16 bytes. Read only.
///
/// | offset | type | field |
/// |-------:|------|-------|
/// | 0 | 16 bytes | name: four characters in lower case and a fixed rest |
/// | 16 | u64 | size, these 24 bytes included |
/// | 24 | … | contents, filled up to a multiple of 8 |
///
/// The file itself is such a chunk, `riff`, whose contents start with the name `wave`. Source: the layout is common practice; checked against
/// files that libsndfile wrote.
public final class W64Format implements SoundFormat {
    private static final byte[] RIFF = HexFormat.of().parseHex("726966662e91cf11a5d628db04c10000");
    private static final int HEADER = 24, FIRST = 40, MAX_CONTENTS = 4 << 20, MOST_CHUNKS = 1000;

    @Override public String id() { return "w64"; }

    @Override public String name() { return "W64"; }

    @Override public List<String> extensions() { return List.of("w64"); }

    @Override public boolean recognises(byte[] head) { return head.length >= 16 && Arrays.equals(head, 0, 16, RIFF, 0, 16); }

    @Override public ChunkRole role(String chunkId) { return ChunkRole.of(chunkId, Set.of("fmt ", "data", "fact", "junk"), RiffMetadata.IDS, Set.of()); }

    private record Part(String id, ChunkReader open) implements RiffMetadata.Part {}

    @Override public SoundFile read(Path path) throws IOException, FormatException {
        List<Problem> problems = new ArrayList<>();
        List<ChunkInfo> chunks = new ArrayList<>();
        List<Part> metadata = new ArrayList<>();
        try (FileBytes file = new FileBytes(path)) {
            FmtChunk fmt = null;
            ChunkInfo data = null;
            long missing = 0;
            for (long at = FIRST; at + HEADER <= file.size() && chunks.size() < MOST_CHUNKS;) {
                ChunkReader head = new ChunkReader("chunk", at, file.read(at, HEADER), ByteOrder.LITTLE_ENDIAN);
                String four = head.id("name"), id = four.equals("list") ? "LIST" : four;
                head.array(12, "name");
                long declared = head.s64("size") - HEADER, from = at + HEADER;
                if (declared < 0) {
                    problems.add(Problem.mend("a size of " + declared + " bytes; what follows is not read", FormatException.place(id, at)));
                    break;
                }
                ChunkInfo chunk = new ChunkInfo(id, from, Math.min(declared, file.size() - from));
                chunks.add(chunk);
                ChunkReader in = id.equals("data")
                        ? head
                        : new ChunkReader(id, from, file.read(from, (int) Math.min(chunk.bytes(), MAX_CONTENTS)),
                                ByteOrder.LITTLE_ENDIAN);
                if (id.equals("fmt ") && fmt == null) fmt = FmtChunk.read(in);
                if (id.equals("data") && data == null) {
                    data = chunk;
                    missing = declared - chunk.bytes();
                }
                if (RiffMetadata.IDS.contains(id)) metadata.add(new Part(id, in));
                at = from + (declared + 7 & ~7L);
                if (at < from) break;
            }
            if (fmt == null || data == null)
                throw new FormatException("the file has no '" + (fmt == null ? "fmt " : "data") + "' chunk", "", "It is incomplete; get it again.");
            int frameBytes = fmt.encoding().containerBytes() * fmt.channels();
            long frames = data.bytes() / frameBytes;
            if (missing >= frameBytes) problems.add(Losses.cut(frames, frames + missing / frameBytes, fmt.rateHz()));
            SoundMetadata read = RiffMetadata.read(metadata, frames, problems);
            return new SoundFile(path, file.size(), id(), "W64", fmt.encoding().isFloat() ? "float" : "PCM", fmt.encoding(), fmt.rateHz(), fmt.channels(),
                    frames,
                    new AudioPlace.Interleaved(data.at()), read, chunks, problems);
        }
    }
}
