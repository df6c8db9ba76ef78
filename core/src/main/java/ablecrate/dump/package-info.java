/// MIDI sample dumps over a cable, with handshake: sent, asked for, and held against what the other side has.
package ablecrate.dump;
