/// The destination sheet as a checklist, the options it leaves open, and the way to packing.
package ablecrate.desktop.destination;
