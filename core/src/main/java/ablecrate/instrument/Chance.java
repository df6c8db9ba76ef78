package ablecrate.instrument;

import java.util.Locale;

/// The random numbers, `[low, high)` of 0…1, that make a zone sound.
public record Chance(double low, double high) {
    public static final Chance ALWAYS = new Chance(0, 1);

    public Chance {
        if (!(low >= 0 && low < high && high <= 1)) throw new IllegalArgumentException("chance " + low + "…" + high);
    }

    public boolean contains(double drawn) { return drawn >= low && drawn < high; }

    @Override public String toString() { return equals(ALWAYS) ? "always" : String.format(Locale.ROOT, "%.3f…%.3f", low, high); }
}
