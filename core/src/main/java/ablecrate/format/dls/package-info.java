/// DLS: downloadable sounds, levels 1 and 2.
///
/// Source: MIDI Manufacturers Association, *Downloadable Sounds Level 2.2*, 2006 (from memory; held against the JDK's own reader in the tests).
package ablecrate.format.dls;
