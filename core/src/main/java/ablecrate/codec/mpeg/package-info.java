/// MPEG audio: MP3, and layers I and II.
///
/// | part | class | read | written |
/// |------|-------|------|---------|
/// | ID3 tags | [ablecrate.codec.tags.Id3] | versions 1 and 2 | 2.4 |
/// | info frame | [ablecrate.codec.mpeg.InfoTag] | delay, padding, length | yes |
/// | frames | [ablecrate.codec.mpeg.MpegFrames], [ablecrate.codec.mpeg.MpegAudio] | yes, missing ones are silent; free format is refused | layer III |
/// | layer III | [ablecrate.codec.mpeg.Layer3]: [ablecrate.codec.mpeg.Granule] → [ablecrate.codec.mpeg.ScaleFactors] → [ablecrate.codec.mpeg.Spectrum] → [ablecrate.codec.mpeg.JointStereo] → [ablecrate.codec.mpeg.HybridFilters] → [ablecrate.codec.mpeg.SubbandSynthesis] | yes | by the library |
/// | layers I, II | [ablecrate.codec.mpeg.LowerLayers] | yes | no |
///
/// Sources: ISO/IEC 11172-3:1993, ISO/IEC 13818-3:1998. Code words and window were taken over from another decoder, all other tables are from memory; `MpegDecoderTest` holds what comes of them
/// against libmpg123.
package ablecrate.codec.mpeg;
