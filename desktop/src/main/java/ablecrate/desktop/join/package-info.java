/// The order of sounds that become one.
package ablecrate.desktop.join;
