/// Decoding Opus by libopus: its classes are made by the build, see `core/src/main/opus`.
package ablecrate.codec.opus;
