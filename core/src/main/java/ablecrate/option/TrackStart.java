package ablecrate.option;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/// Where a sound begins that is put on a new track of a session.
/// @param bar with [By#BAR], counted from 1; 0 otherwise
public record TrackStart(By by, double bar) {
    public enum By {
        /// It is put on none.
        OFF,
        /// At its time stamp.
        STAMP,
        /// Behind the one before it.
        ROW, BAR
    }

    public static final TrackStart OFF = new TrackStart(By.OFF, 0), STAMP = new TrackStart(By.STAMP, 0), ROW = new TrackStart(By.ROW, 0);
    private static final double LAST_BAR = 100_000;

    public TrackStart {
        if (by == By.BAR && !(bar >= 1 && bar <= LAST_BAR)) throw new IllegalArgumentException("bars are counted from 1, found " + bar);
    }

    public static TrackStart at(double bar) { return new TrackStart(By.BAR, bar); }

    static Map<String, TrackStart> words() {
        Map<String, TrackStart> words = new LinkedHashMap<>();
        words.put("off", OFF);
        words.put("1", at(1));
        words.put("stamp", STAMP);
        words.put("row", ROW);
        return words;
    }

    static Optional<TrackStart> read(String text) {
        return text.matches("\\d{1,6}(\\.\\d{1,6})?") ? Optional.of(at(Double.parseDouble(text))) : Optional.empty();
    }

    String id() { return OptionKinds.number(bar); }

    String label() {
        return switch (by) {
            case OFF -> "no";
            case STAMP -> "at their time stamps";
            case ROW -> "one after another";
            case BAR -> "at bar " + id();
        };
    }
}
