/// Presets: a folder of WAV files that say themselves how they are played, and a JSON file that lists them. Ours; see `docs/devices/card-sampler.md`.
package ablecrate.format.preset;
