package ablecrate.audio;

import java.math.BigDecimal;
import java.math.RoundingMode;

/// Numbers for people.
public final class Figures {
    private Figures() {}

    /// With commas between thousands: `1,764,124`. So many are made that the formatter would take longer than the work itself.
    public static String grouped(long number) {
        StringBuilder digits = new StringBuilder().append(number);
        group(digits, digits.length());
        return digits.toString();
    }

    /// @param whole digits of the number before its point, with its sign
    private static void group(StringBuilder digits, int whole) {
        for (int at = whole - 3, first = digits.charAt(0) == '-' ? 1 : 0; at > first; at -= 3)
            digits.insert(at, ',');
    }

    /// With as many digits behind the point as wanted, halves away from zero: `1,234.50`.
    public static String decimal(double number, int digits) {
        if (!Double.isFinite(number)) return Double.toString(number);
        String plain = BigDecimal.valueOf(number).setScale(digits, RoundingMode.HALF_UP).toPlainString();
        int whole = digits == 0 ? plain.length() : plain.length() - digits - 1;
        StringBuilder out = new StringBuilder(plain);
        group(out, whole);
        return out.toString();
    }

    /// The same with its sign: `+2.50`, `-6.02`.
    public static String signed(double number, int digits) {
        String text = decimal(number, digits);
        return text.startsWith("-") ? text : "+" + text;
    }

    /// `120 kB`, `5.7 MB`, `1.20 GB`
    public static String bytes(long bytes) {
        if (bytes < 1_000_000) return decimal(bytes / 1e3, 0) + " kB";
        return bytes < 1_000_000_000 ? decimal(bytes / 1e6, 1) + " MB" : decimal(bytes / 1e9, 2) + " GB";
    }
}
