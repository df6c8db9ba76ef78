/// The bench on which a folder is walked through by ear before anything of it is gathered.
package ablecrate.desktop.library;
