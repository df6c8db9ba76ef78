/// What the window does: the actions with their keys, and the search in them.
package ablecrate.desktop.action;
