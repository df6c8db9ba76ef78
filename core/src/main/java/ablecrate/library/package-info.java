/// Gathering: which files lie under the folders that a user names, and what each of them is.
package ablecrate.library;
