/// Levels: the form in which they are asked for, and the bench face that shows all chosen sounds on one axis, before and after.
package ablecrate.desktop.levels;
