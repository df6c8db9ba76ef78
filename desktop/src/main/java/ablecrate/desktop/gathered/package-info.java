/// What was gathered, as a tree of folders.
package ablecrate.desktop.gathered;
