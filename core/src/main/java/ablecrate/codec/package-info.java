/// Files of single sounds: telling kinds apart, and the formats that are read and written.
///
/// Bytes ↔ audio and what the file says of itself. Each format is one folder below, with the same things at the
/// same place: `…Format` (name, extensions, capabilities), one class a part with its layout, and the reader and writer.
/// Two formats never know each other; [ablecrate.codec.SoundFormats] lists them.
package ablecrate.codec;
