/// The packing list: what packing would do, item by item, property by property, before → after.
///
/// Derived from headers, what was measured, the sheet, the options and the formats' capabilities. Nothing here reads audio or writes a file;
/// the packer, the window and the command line read the same value.
package ablecrate.plan;
