/// Programs: an open description of an instrument for devices that play WAV files from a card, one JSON file beside a folder of sounds. Ours; see
/// `docs/devices/keyboard-sampler.md`.
package ablecrate.format.program;
