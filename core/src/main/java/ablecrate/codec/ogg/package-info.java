/// Ogg: pages and packets, and in them Vorbis and Opus.
///
/// | part | class | read | written |
/// |------|-------|------|---------|
/// | pages | [ablecrate.codec.ogg.OggPages] | yes, damaged ones are left out | yes |
/// | Vorbis | [ablecrate.codec.ogg.VorbisCodec] | yes, in float | no |
/// | Opus | [ablecrate.codec.ogg.OpusCodec], [ablecrate.codec.ogg.OpusHead], [ablecrate.codec.opus.OpusDecoder] | yes, in float | mono and stereo |
/// | comments | [ablecrate.codec.tags.VorbisComments] | yes | yes |
///
/// Where streams follow each other in one file, the first is read.
///
/// Sources: RFC 3533 (Ogg), RFC 7845 (Opus in Ogg), Xiph.Org, *Vorbis I specification*.
package ablecrate.codec.ogg;
