/// MIDI sample dumps in files. Read only.
package ablecrate.codec.sds;
