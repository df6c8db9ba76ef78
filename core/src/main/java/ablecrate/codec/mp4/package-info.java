/// MPEG-4 files with AAC or ALAC. Read only.
///
/// | part | class |
/// |------|-------|
/// | boxes | [ablecrate.codec.mp4.Boxes] |
/// | times, edit list, tables of packets | [ablecrate.codec.mp4.Track] |
/// | packets of files in fragments | [ablecrate.codec.mp4.Fragments] |
/// | `stsd` with `esds` or `alac`, texts | [ablecrate.codec.mp4.Mp4Reader] |
///
/// Where a file holds pictures as well, its sound is taken. Files in fragments (`moof`) are read as those in one piece.
///
/// Sources: ISO/IEC 14496-12 (boxes), 14496-14 (`mp4a`), 14496-1 (descriptors); texts in `ilst` are common practice.
package ablecrate.codec.mp4;
