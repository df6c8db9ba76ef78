/// Carrying a packing list out: rendering, safe writing, verification by reading again, the packing slip, bringing originals back.
package ablecrate.pack;
