package ablecrate.option;

import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DeviceLimits;
import ablecrate.fit.FitStep;
import ablecrate.instrument.NoteName;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/// What is done where an instrument is more than a device holds.
/// @param memoryMb for the audio of each instrument, where that is to be less than the device has
/// @param without steps that must not be taken, by their names
/// @param keep what has to stay: roots by their keys (`C4`, `60`), layers by a velocity of them (`v100`)
public record Fitting(Mode mode, Optional<Double> memoryMb, List<String> without, List<String> keep) {
    public static final Fitting DEFAULT = new Fitting(Mode.DO, Optional.empty(), List.of(), List.of());
    private static final Pattern VELOCITY = Pattern.compile("v(\\d{1,3})");
    private static final int USUAL_MIDDLE = 4;
    private static final double LEAST_MB = 0.001, MOST_MB = 1e6;

    public enum Mode {
        /// What does not fit is blocked.
        OFF("block it"),
        /// It is blocked, and what fitting would cost is told.
        ADVISE("block it, tell the cost"), DO("make it fit");

        private final String label;

        Mode(String label) { this.label = label; }

        public String id() { return name().toLowerCase(Locale.ROOT); }

        /// For people.
        public String label() { return label; }
    }

    public Fitting {
        memoryMb.filter(mb -> !(mb >= LEAST_MB && mb <= MOST_MB)).ifPresent(mb -> {
            throw new IllegalArgumentException(String.format(Locale.ROOT, "%s MB: %s to %,.0f MB of memory are possible", mb, LEAST_MB, MOST_MB));
        });
        without = List.copyOf(without);
        keep = List.copyOf(keep);
        keep.forEach(k -> {
            if (velocity(k).isEmpty() && root(k).isEmpty())
                throw new IllegalArgumentException("'" + k + "' is neither a key, such as C4, nor a layer by its velocity, such as v100");
        });
        for (String step : without)
            if (Arrays.stream(FitStep.Kind.values()).noneMatch(k -> k.id().equals(step)))
                throw new IllegalArgumentException("'" + step + "' is none of " + names().replace("|", ", "));
    }

    private static Optional<Integer> velocity(String text) {
        Matcher said = VELOCITY.matcher(text);
        return said.matches() ? Optional.of(Integer.valueOf(said.group(1))).filter(v -> v >= 1 && v <= 127) : Optional.empty();
    }

    private static Optional<Integer> root(String text) {
        return VELOCITY.matcher(text).matches() ? Optional.empty() : NoteName.parse(text, USUAL_MIDDLE).filter(k -> k >= 0 && k <= 127);
    }

    /// Keys whose own sounds stay.
    public Set<Integer> keptRoots() { return keep.stream().flatMap(k -> root(k).stream()).collect(Collectors.toSet()); }

    /// Velocities whose layers stay.
    public Set<Integer> keptVelocities() { return keep.stream().flatMap(k -> velocity(k).stream()).collect(Collectors.toSet()); }

    static String names() { return Arrays.stream(FitStep.Kind.values()).map(FitStep.Kind::id).collect(Collectors.joining("|")); }

    public Set<FitStep.Kind> forbidden() {
        Set<FitStep.Kind> out = EnumSet.noneOf(FitStep.Kind.class);
        Arrays.stream(FitStep.Kind.values()).filter(k -> without.contains(k.id())).forEach(out::add);
        return out;
    }

    /// The device's limits, or less memory where the user wants less.
    public DeviceLimits within(DestinationSheet sheet) {
        return memoryMb.map(mb -> sheet.limits().withMemory(Math.round(mb * 1e6))).orElse(sheet.limits());
    }

    public Fitting withMode(Mode m) { return new Fitting(m, memoryMb, without, keep); }

    public Fitting withMemory(Optional<Double> mb) { return new Fitting(mode, mb, without, keep); }

    public Fitting withoutSteps(List<String> w) { return new Fitting(mode, memoryMb, w, keep); }

    public Fitting keeping(List<String> k) { return new Fitting(mode, memoryMb, without, k); }
}
