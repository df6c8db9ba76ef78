/// The demo crate: the sound department of a travelling puppet theatre that plays "The Clockwork Orchard".
/// Every sound is synthesised here; nothing is recorded. The same bytes on every machine.
package ablecrate.demo;
