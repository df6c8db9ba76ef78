package ablecrate.codec;

/// A named stretch of a file.
/// @param at where its contents start in the file
/// @param bytes how many bytes of it are there; a cut file has fewer than the chunk declares
public record ChunkInfo(String id, long at, long bytes) {
    public long end() { return at + bytes; }
}
