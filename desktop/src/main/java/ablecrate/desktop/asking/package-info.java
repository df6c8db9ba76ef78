/// What the window asks before something would be lost: unsaved work, work that a crash left, folders that are not where they were.
package ablecrate.desktop.asking;
