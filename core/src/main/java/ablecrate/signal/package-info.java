/// The way of a sound's audio: what is decided of it beforehand as values, the stream that carries it out, and what is measured on the way.
///
/// trim → offset → channels → loop crossfade → rate (with the loop continued) → level → fades → ceiling; depth is the writer's. The same
/// stream is measured, heard and written.
package ablecrate.signal;
