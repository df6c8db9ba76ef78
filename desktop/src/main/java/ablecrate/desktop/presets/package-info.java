/// Named sets of options.
package ablecrate.desktop.presets;
