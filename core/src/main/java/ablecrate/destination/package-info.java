/// Where things go: sheets that say what a destination accepts, how it lays files out and names them.
///
/// A sheet is an open JSON file; its schema is `destination-sheet.schema.json`. No code knows one destination by name.
package ablecrate.destination;
