/// The packing list: what packing would do, as a table.
package ablecrate.desktop.list;
