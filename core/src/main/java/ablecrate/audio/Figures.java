package ablecrate.audio;

import java.util.Locale;

/// Numbers for people.
public final class Figures {
    private Figures() {}

    /// With commas between thousands: `1,764,124`. So many are made that the formatter would take longer than the work itself.
    public static String grouped(long number) {
        StringBuilder digits = new StringBuilder().append(number);
        for (int at = digits.length() - 3, first = number < 0 ? 1 : 0; at > first; at -= 3)
            digits.insert(at, ',');
        return digits.toString();
    }

    /// `120 kB`, `5.7 MB`, `1.20 GB`
    public static String bytes(long bytes) {
        return bytes < 1_000_000
                ? String.format(Locale.ROOT, "%.0f kB", bytes / 1e3)
                : bytes < 1_000_000_000 ? String.format(Locale.ROOT, "%.1f MB", bytes / 1e6) : String.format(Locale.ROOT, "%.2f GB", bytes / 1e9);
    }
}
