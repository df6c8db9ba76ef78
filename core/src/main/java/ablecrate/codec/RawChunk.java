package ablecrate.codec;

/// A chunk with its contents, as it stands in a file.
public record RawChunk(String id, Bytes contents) {}
