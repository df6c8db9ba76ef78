/// The job: what is open. Sources, destination, options; saved as an open JSON file; every step can be undone.
package ablecrate.job;
