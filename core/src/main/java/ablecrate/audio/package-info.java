/// Audio as the rest of the product sees it: frames, rates, depths, and streams of frames.
///
/// Samples are `double` in flight, 1.0 is 0 dBFS, so that 32-bit integers and chained gains stay exact.
/// Blocks are planar, `double[channel][frame]`. Knows no file format.
package ablecrate.audio;
