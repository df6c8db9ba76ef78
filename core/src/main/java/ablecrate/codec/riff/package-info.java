/// A sound's metadata as chunks of RIFF, for all containers that hold such.
///
/// | part | class | read | written |
/// |------|-------|------|---------|
/// | `fmt ` | [ablecrate.codec.riff.FmtChunk] | PCM, float, extensible | PCM and float; extensible for more than 2 channels |
/// | `smpl` | [ablecrate.codec.riff.SmplChunk] | loops, root key, fine tuning | yes, vendor fields of the source kept |
/// | `inst` | [ablecrate.codec.riff.InstChunk] | ranges, gain, root key, tuning | yes |
/// | `cue ` | [ablecrate.codec.riff.CueChunk] | points | yes |
/// | `LIST adtl` | [ablecrate.codec.riff.AssociatedData] | labels, notes, lengths | yes, other entries of the source kept |
/// | `LIST INFO` | [ablecrate.codec.riff.InfoList] | texts | yes, other entries of the source kept |
/// | `bext` | [ablecrate.codec.riff.BextChunk] | all fields | yes |
///
/// Deviations: where `smpl` and `inst` both state root key and tuning, `smpl` wins, being finer.
package ablecrate.codec.riff;
