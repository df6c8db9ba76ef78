/// The command line: a thin shape around the core. Results go to standard output, progress and messages to standard error.
package ablecrate.cli;
