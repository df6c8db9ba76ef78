/// Chunked files (EA IFF 85 and its little-endian descendant RIFF): finding chunks, reading and building their contents.
/// Knows no chunk's inside.
package ablecrate.codec.chunk;
