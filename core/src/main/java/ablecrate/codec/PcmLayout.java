package ablecrate.codec;

import ablecrate.audio.SampleEncoding;

/// A file around its samples: the bytes before and after them, and how they are stored.
/// All is known before the first sample is written, so files are written in one direction, without going back.
public record PcmLayout(Bytes before, SampleEncoding encoding, Bytes after) {}
