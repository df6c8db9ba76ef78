package ablecrate.cli;

import java.io.PrintWriter;

/// One line that renews itself on a terminal; a line now and then elsewhere.
final class ProgressLine {
    private final PrintWriter err;
    private final boolean isTerminal = System.console() != null && System.console().isTerminal();
    private int toldTenths = -1;

    ProgressLine(PrintWriter err) { this.err = err; }

    /// @param share of the whole, 0…1
    /// @param current what is worked at, for terminals alone
    synchronized void show(double share, String line, String current) {
        if (isTerminal)
            err.print("\r" + line + "  " + current + "\u001b[K" + (share >= 1 ? "\n" : ""));
        else
            if ((int) (share * 10) != toldTenths) {
                toldTenths = (int) (share * 10);
                err.println(line);
            }
        err.flush();
    }
}
