/// The keys, and what survives where.
package ablecrate.desktop.help;
