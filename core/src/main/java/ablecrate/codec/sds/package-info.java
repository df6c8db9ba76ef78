/// MIDI sample dumps in files.
package ablecrate.codec.sds;
