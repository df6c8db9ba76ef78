/// Samples over MIDI: what was packed is sent to a device, what it holds is asked for.
package ablecrate.desktop.dump;
