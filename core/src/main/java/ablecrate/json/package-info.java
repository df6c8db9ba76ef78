/// JSON as this project writes it: two-space indent, line feeds, units in the keys.
package ablecrate.json;
