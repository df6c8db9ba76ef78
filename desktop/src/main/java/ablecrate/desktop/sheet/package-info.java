/// Writing a destination sheet of one's own.
package ablecrate.desktop.sheet;
