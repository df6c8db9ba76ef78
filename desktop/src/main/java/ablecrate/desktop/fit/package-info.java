/// The bench for instruments that are made to fit a device: what they take of it, what goes, and what that costs.
package ablecrate.desktop.fit;
