/// The key bench: zones over keys and velocities, edited and played.
package ablecrate.desktop.keys;
