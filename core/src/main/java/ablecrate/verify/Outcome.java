package ablecrate.verify;

/// What one check gave.
public sealed interface Outcome {
    Check check();

    /// What was found, in words, with its unit.
    String text();

    /// As expected.
    record Held(Check check, String text) implements Outcome {}

    /// Not what was planned and rendered: the file is not published.
    record Failed(Check check, String expected, String found) implements Outcome {
        @Override public String text() { return "found " + found + ", expected " + expected; }
    }

    /// The file is whole, but something that was asked for was not reached.
    /// @param asked,reached in `unit`
    record Missed(Check check, double asked, double reached, String unit, String text) implements Outcome {}
}
