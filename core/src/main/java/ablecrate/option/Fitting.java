package ablecrate.option;

import ablecrate.destination.DeviceLimits;
import ablecrate.fit.FitStep;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// What is done where an instrument is more than a device holds.
/// @param memoryMb for the audio of each instrument, where that is to be less than the device has
/// @param without steps that must not be taken, by their names
public record Fitting(Mode mode, Optional<Double> memoryMb, List<String> without) {
    public static final Fitting DEFAULT = new Fitting(Mode.DO, Optional.empty(), List.of());
    private static final double LEAST_MB = 0.001;

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
        memoryMb.filter(mb -> !(mb >= LEAST_MB && mb <= 1e6)).ifPresent(mb -> {
            throw new IllegalArgumentException("memory of " + mb + " MB");
        });
        without = List.copyOf(without);
        for (String step : without)
            if (Arrays.stream(FitStep.Kind.values()).noneMatch(k -> k.id().equals(step)))
                throw new IllegalArgumentException("'" + step + "' is none of " + names().replace("|", ", "));
    }

    static String names() { return Arrays.stream(FitStep.Kind.values()).map(FitStep.Kind::id).collect(Collectors.joining("|")); }

    public Set<FitStep.Kind> forbidden() {
        Set<FitStep.Kind> out = EnumSet.noneOf(FitStep.Kind.class);
        Arrays.stream(FitStep.Kind.values()).filter(k -> without.contains(k.id())).forEach(out::add);
        return out;
    }

    /// The device's limits, or less where the user wants less.
    public DeviceLimits within(DeviceLimits device) {
        if (memoryMb.isEmpty()) return device;
        long bytes = Math.round(memoryMb.get() * 1e6), most = device.instrumentBytes();
        return device.withInstrumentBytes(most == 0 ? bytes : Math.min(bytes, most));
    }

    public Fitting withMode(Mode m) { return new Fitting(m, memoryMb, without); }

    public Fitting withMemory(Optional<Double> mb) { return new Fitting(mode, mb, without); }

    public Fitting withoutSteps(List<String> w) { return new Fitting(mode, memoryMb, w); }
}
