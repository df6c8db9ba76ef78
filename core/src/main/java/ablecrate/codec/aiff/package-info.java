/// AIFF and AIFF-C with uncompressed samples.
///
/// | part | class | read | written |
/// |------|-------|------|---------|
/// | `FORM AIFF`/`AIFC`, `FVER` | [ablecrate.codec.aiff.AiffFormat] | yes | `AIFF` for integers, `AIFC` for floats |
/// | `COMM` | [ablecrate.codec.aiff.CommChunk] | `NONE`, `twos`, `sowt`, `raw `, `in24`, `in32`, `fl32`, `fl64` | `AIFF` integers, `fl32`, `fl64` |
/// | `MARK` | [ablecrate.codec.aiff.MarkChunk] | loop points, cues | yes, ids and names of the source kept |
/// | `INST` | [ablecrate.codec.aiff.AiffInstChunk] | all fields | yes |
/// | `NAME` `AUTH` `(c) ` `ANNO` | [ablecrate.codec.aiff.AiffFormat] | texts | yes |
/// | `SSND` | [ablecrate.audio.PcmFileSource] | yes | yes |
///
/// Other chunks are known by name and size, and kept where the audio is not changed; `COMT`, `APPL` and `ID3 ` are
/// also kept where it is, as they say nothing about frames.
///
/// Sources: Apple, *Audio Interchange File Format "AIFF"*, version 1.3 (1989); Apple, *AIFF-C*, draft (1991).
package ablecrate.codec.aiff;
