/// Source beside result: what packing makes of a sound, laid over it, heard and measured.
package ablecrate.desktop.compare;
