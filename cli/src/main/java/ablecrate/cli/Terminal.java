package ablecrate.cli;

import ablecrate.change.Verdict;
import java.io.IOException;
import java.util.OptionalInt;
import java.util.concurrent.TimeUnit;

/// What is known of where results are printed: a terminal has a width and colours, a pipe has neither.
/// @param columns of the terminal; empty for a pipe, or where nothing tells
record Terminal(OptionalInt columns, boolean hasColours) {
    static final Terminal PIPE = new Terminal(OptionalInt.empty(), false);
    private static final int LEAST = 40;

    /// Colours are left out where NO_COLOR is set (no-color.org), or the terminal cannot show them.
    static Terminal ofProcess() {
        if (System.console() == null || !System.console().isTerminal()) return PIPE;
        String none = System.getenv("NO_COLOR"), kind = System.getenv("TERM");
        return new Terminal(width(), (none == null || none.isEmpty()) && !"dumb".equals(kind));
    }

    private static OptionalInt width() {
        try {
            String columns = System.getenv("COLUMNS");
            if (columns != null) return OptionalInt.of(Math.max(LEAST, Integer.parseInt(columns.strip())));
            Process stty = new ProcessBuilder("stty", "size").redirectInput(ProcessBuilder.Redirect.INHERIT).redirectErrorStream(true).start();
            String size = new String(stty.getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.US_ASCII).strip();
            stty.waitFor(1, TimeUnit.SECONDS);
            return OptionalInt.of(Math.max(LEAST, Integer.parseInt(size.substring(size.indexOf(' ') + 1))));
        } catch (IOException | NumberFormatException e) {
            return OptionalInt.empty();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return OptionalInt.empty();
        }
    }

    /// The verdict's stamp: its shape, and its colour where there are colours.
    String stamp(Verdict verdict) { return coloured(verdict, shape(verdict)); }

    String word(Verdict verdict) { return coloured(verdict, verdict.id()); }

    private static String shape(Verdict verdict) {
        return switch (verdict) {
            case KEPT -> "○";
            case CONVERTED -> "⊖";
            case ADJUSTED -> "◇";
            case REDUCED -> "◧";
            case BLOCKED -> "■";
        };
    }

    private String coloured(Verdict verdict, String text) {
        int colour = switch (verdict) {
            case KEPT -> 32;
            case CONVERTED -> 34;
            case ADJUSTED -> 33;
            case REDUCED -> 35;
            case BLOCKED -> 31;
        };
        return hasColours ? "\u001b[" + colour + "m" + text + "\u001b[0m" : text;
    }

    /// Cut to the width, if there is one.
    /// @param used columns that stand before it
    String fit(String text, int used) {
        if (columns.isEmpty()) return text;
        int room = Math.max(8, columns.getAsInt() - used);
        return text.codePointCount(0, text.length()) <= room ? text : text.substring(0, text.offsetByCodePoints(0, room - 1)) + "…";
    }
}
