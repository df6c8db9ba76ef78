/// FLAC.
///
/// | part | class | read | written |
/// |------|-------|------|---------|
/// | `STREAMINFO` | [ablecrate.codec.flac.StreamInfo] | yes | yes, with the MD5 |
/// | `APPLICATION` of id `riff` | [ablecrate.codec.riff.RiffMetadata] | a WAV's chunks of metadata | yes |
/// | `VORBIS_COMMENT` | [ablecrate.codec.tags.VorbisComments] | texts | yes, other comments of the source kept |
/// | `PICTURE` | | not looked into | kept from FLAC to FLAC |
/// | frames | [ablecrate.codec.flac.FlacFrames], [ablecrate.codec.flac.FlacKernel], [ablecrate.codec.flac.FlacEncoder] | yes; those that are damaged are silent | yes |
///
/// Source: RFC 9639, *Free Lossless Audio Codec* (2024).
package ablecrate.codec.flac;
