/// Formats of instruments: what each carries of the model, and the way between files and instruments. One folder a format;
/// two formats never know each other.
package ablecrate.format;
