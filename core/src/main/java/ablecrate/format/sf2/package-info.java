/// SoundFont 2: banks of instruments with their sounds.
///
/// Source: *SoundFont Technical Specification*, version 2.04, 2006. Names are those of its sections 7 (structures) and 8 (generators, modulators).
package ablecrate.format.sf2;
