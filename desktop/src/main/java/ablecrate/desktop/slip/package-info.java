/// The run that packs, and the slip that it leaves.
package ablecrate.desktop.slip;
