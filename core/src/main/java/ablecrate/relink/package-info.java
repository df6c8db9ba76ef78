/// References to files: what of a session is not as it should be, how it is made whole, and names in the documents of other programs.
package ablecrate.relink;
