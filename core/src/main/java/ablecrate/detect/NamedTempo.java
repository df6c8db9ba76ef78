package ablecrate.detect;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// The tempo that a name tells: `windmill 96 bpm`, `120bpm_hats`. A number alone may be anything and tells none.
public final class NamedTempo {
    private static final Pattern TOLD = Pattern.compile("(?<![0-9.])([0-9]{2,3}(?:\\.[0-9]{1,3})?)[ _-]?bpm(?![a-z])");
    private static final double LOWEST = 30, HIGHEST = 300;

    private NamedTempo() {}

    /// @param name of a file or a folder
    public static Optional<Double> of(String name) {
        Matcher told = TOLD.matcher(name.toLowerCase(Locale.ROOT));
        return told.find() ? Optional.of(Double.valueOf(told.group(1))).filter(bpm -> bpm >= LOWEST && bpm <= HIGHEST) : Optional.empty();
    }
}
