/// SFZ: instruments as text, beside their sounds.
///
/// Opcodes and units: the published opcode list of the SFZ format, version 1, with the few of its common extensions that
/// [SfzOpcodes] names. Loop ends are inclusive there and half-open here.
package ablecrate.format.sfz;
