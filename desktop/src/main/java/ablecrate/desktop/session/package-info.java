/// The recording session that is packed into: its time line, what is the matter with its files, and how it sounds.
package ablecrate.desktop.session;
