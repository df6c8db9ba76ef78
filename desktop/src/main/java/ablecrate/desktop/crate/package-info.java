/// What is open: the job with its undo, what was gathered, and the packing list that follows from both.
package ablecrate.desktop.crate;
