/// What a sound says of itself besides its audio (loops, key mapping, cues, broadcast data, texts), and instruments: sounds on keys.
///
/// Immutable values in the units of the trade, the same for all formats; formats that count or sign differently
/// are translated in the classes that read and write them.
package ablecrate.instrument;
