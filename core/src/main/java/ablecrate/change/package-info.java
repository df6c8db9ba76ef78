/// What happens to a sound or an instrument on its way, each kind of change a type with its numbers; its text for people is made there and nowhere else.
package ablecrate.change;
