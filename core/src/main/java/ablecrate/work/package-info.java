/// The workers that a run has, as code sees them that one of them carries out.
package ablecrate.work;
