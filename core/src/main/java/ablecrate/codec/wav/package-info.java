/// WAV and its large kin, RF64 and BW64.
///
/// | part | class | read | written |
/// |------|-------|------|---------|
/// | `RIFF`/`RF64`/`BW64` form, `ds64` | [ablecrate.codec.wav.WavReader], [ablecrate.codec.wav.WavFormat] | yes | `RIFF` up to 4 GiB, `RF64` beyond |
/// | `fmt ` | [ablecrate.codec.wav.FmtChunk] | PCM, float, extensible | PCM and float; extensible for more than 2 channels |
/// | `smpl` | [ablecrate.codec.wav.SmplChunk] | loops, root key, fine tuning | yes, vendor fields of the source kept |
/// | `inst` | [ablecrate.codec.wav.InstChunk] | ranges, gain, root key, tuning | yes |
/// | `cue ` | [ablecrate.codec.wav.CueChunk] | points | yes |
/// | `LIST adtl` | [ablecrate.codec.wav.AssociatedData] | labels, notes, lengths | yes, other entries of the source kept |
/// | `LIST INFO` | [ablecrate.codec.wav.InfoList] | texts | yes, other entries of the source kept |
/// | `bext` | [ablecrate.codec.wav.BextChunk] | all fields | yes |
/// | `data` | [ablecrate.audio.PcmFileSource] | yes | yes |
///
/// Other chunks are known by name and size. They are kept where the audio is not changed; where it is, only those
/// that say nothing about frames are (`id3 `, `_PMX`). Padding (`JUNK`, `PAD `, `FLLR`) and what is derived from the
/// audio (`fact`, `PEAK`, `levl`, `MD5 `) is dropped then.
///
/// Sources: IBM and Microsoft, *Multimedia Programming Interface and Data Specifications 1.0* (1991); Microsoft,
/// *New Multimedia Data Types and Data Techniques*, rev. 3.0 (1994); Microsoft, *Multiple channel audio data and WAVE
/// files* (2001, extensible); EBU Tech 3285 v2 (`bext`); EBU Tech 3306 v1.1 and ITU-R BS.2088 (RF64, BW64).
///
/// Deviations: where `smpl` and `inst` both state root key and tuning, `smpl` wins, being finer.
package ablecrate.codec.wav;
