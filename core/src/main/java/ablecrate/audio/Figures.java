package ablecrate.audio;

/// Numbers for people, where so many of them are made that the formatter would take longer than the work itself.
public final class Figures {
    private Figures() {}

    /// With commas between thousands: `1,764,124`.
    public static String grouped(long number) {
        StringBuilder digits = new StringBuilder().append(number);
        for (int at = digits.length() - 3, first = number < 0 ? 1 : 0; at > first; at -= 3)
            digits.insert(at, ',');
        return digits.toString();
    }
}
