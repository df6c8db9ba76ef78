/// Signal processing: rate conversion, channel mixing, dither, the picture of a wave. Sources in, sources out; knows no file.
package ablecrate.dsp;
