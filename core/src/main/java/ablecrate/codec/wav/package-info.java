/// WAV and its large kin, RF64 and BW64.
///
/// | part | class | read | written |
/// |------|-------|------|---------|
/// | `RIFF`/`RF64`/`BW64` form, `ds64` | [ablecrate.codec.wav.WavReader], [ablecrate.codec.wav.WavFormat] | yes | `RIFF` up to 4 GiB, `RF64` beyond |
/// | `fmt `, metadata | [ablecrate.codec.riff] | yes | yes |
/// | `data` | [ablecrate.audio.PcmFileSource] | yes | yes |
///
/// Other chunks are known by name and size. They are kept where the audio is not changed; where it is, only those
/// that say nothing about frames are (`id3 `, `_PMX`). Padding (`JUNK`, `PAD `, `FLLR`) and what is derived from the
/// audio (`fact`, `PEAK`, `levl`, `MD5 `) is dropped then.
///
/// Sources: IBM and Microsoft, *Multimedia Programming Interface and Data Specifications 1.0* (1991); Microsoft,
/// *New Multimedia Data Types and Data Techniques*, rev. 3.0 (1994); Microsoft, *Multiple channel audio data and WAVE
/// files* (2001, extensible); EBU Tech 3285 v2 (`bext`); EBU Tech 3306 v1.1 and ITU-R BS.2088 (RF64, BW64).
package ablecrate.codec.wav;
