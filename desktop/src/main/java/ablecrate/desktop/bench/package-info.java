/// The bench: what is chosen in the list, from near. Waves with loops and cues, facts, changes with their reasons.
package ablecrate.desktop.bench;
