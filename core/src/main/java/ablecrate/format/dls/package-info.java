/// DLS collections of level 1 and 2: a RIFF form `DLS ` with instruments, each a list of regions, and a pool of waves.
///
/// All numbers are little-endian. Where a structure begins with its size, what follows at that size is skipped to, so that longer ones are read.
///
/// | chunk | offset | type | field | meaning |
/// |-------|-------:|------|-------|---------|
/// | `colh` | 0 | u32 | instruments | how many there are |
/// | `vers` | 0 | u16 × 4 | version | of the file; 2.0.0.0 is written |
/// | `insh` | 0 | u32 | regions | how many there are |
/// | | 4 | u32 | bank | bits 8…14 the upper, bits 0…6 the lower bank number; bit 31: percussion |
/// | | 8 | u32 | program | bits 0…6 |
/// | `rgnh` | 0 | u16, u16 | keys | lowest and highest, **inclusive** |
/// | | 4 | u16, u16 | velocities | lowest and highest, **inclusive** |
/// | | 8 | u16 | options | bit 0: a note may sound beside itself |
/// | | 10 | u16 | keyGroup | 0 none; regions of one group silence each other |
/// | | 12 | u16 | layer | level 2 alone; for editors |
/// | `wlnk` | 0 | u16 | options | bit 0: leads its phase group, bit 1: one of several channels |
/// | | 2 | u16 | phaseGroup | regions of one group sound in step |
/// | | 4 | u32 | channel | 1 left, 2 right |
/// | | 8 | u32 | tableIndex | into `ptbl` |
/// | `wsmp` | 0 | u32 | size | 20 |
/// | | 4 | u16 | unityNote | root key |
/// | | 6 | s16 | fineTune | cents, **how far a player raises the wave** |
/// | | 8 | s32 | gain | 1/655,360 dB |
/// | | 12 | u32 | options | compression that a player may use; not read |
/// | | 16 | u32 | loops | 0 or 1 |
/// | loop | 0 | u32 | size | 16 |
/// | | 4 | u32 | type | 0 forward, 1 forward until the key is let go |
/// | | 8 | u32 | start | first frame played |
/// | | 12 | u32 | length | in frames |
/// | `ptbl` | 0 | u32 | size | 8 |
/// | | 4 | u32 | cues | how many waves |
/// | | 8 | u32 × cues | offset | of each `wave` list, from the first in `wvpl` |
/// | `art1`, `art2` | 0 | u32 | size | 8 |
/// | | 4 | u32 | connections | how many |
/// | connection | 0 | u16 | source | what moves it |
/// | | 2 | u16 | control | by how much of it |
/// | | 4 | u16 | destination | what is moved |
/// | | 6 | u16 | transform | shape of the way between them |
/// | | 8 | s32 | scale | 1/65,536 of the destination's unit |
///
/// A `wave` is a list of `fmt ` (as in WAVE: format, channels, rate, bytes a second, bytes a frame, bits), `wsmp` and `data`. A region's own `wsmp`
/// overrules its wave's, its own articulation that of the instrument.
///
/// Source: MIDI Manufacturers Association, *Downloadable Sounds Level 2.2*, 2006 (from memory; held against the JDK's own reader in the tests).
package ablecrate.format.dls;
