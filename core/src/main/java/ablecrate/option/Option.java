package ablecrate.option;

import ablecrate.destination.DestinationSheet;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.BiPredicate;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;

/// One thing that a user may choose.
/// @param <T> type of its value
public final class Option<T> {
    /// The value of chosen sounds.
    private record OfSounds<T>(Function<Treatment, T> get, BiFunction<Treatment, T, Treatment> with, Predicate<Treatment> open) {}

    private final String id, title, help;
    private final OptionGroup group;
    private final Kind<T> kind;
    private final Function<PackOptions, T> get;
    private final BiFunction<PackOptions, T, PackOptions> with;
    private final Optional<OfSounds<T>> ofSounds;
    private final Optional<Function<DestinationSheet, List<T>>> offered;
    private final BiPredicate<DestinationSheet, PackOptions> open;

    private Option(String id, OptionGroup group, String title, String help, Kind<T> kind, Function<PackOptions, T> get,
            BiFunction<PackOptions, T, PackOptions> with, Optional<OfSounds<T>> ofSounds, Optional<Function<DestinationSheet, List<T>>> offered,
            BiPredicate<DestinationSheet, PackOptions> open) {
        this.id = id;
        this.group = group;
        this.title = title;
        this.help = help;
        this.kind = kind;
        this.get = get;
        this.with = with;
        this.ofSounds = ofSounds;
        this.offered = offered;
        this.open = open;
    }

    static <T> Option<T> of(String id, OptionGroup group, String title, String help, Kind<T> kind, Function<PackOptions, T> get,
            BiFunction<PackOptions, T, PackOptions> with) {
        return new Option<>(id, group, title, help, kind, get, with, Optional.empty(), Optional.empty(), (_, _) -> true);
    }

    /// One that may differ for chosen sounds.
    static <T> Option<T> ofSounds(String id, String title, String help, Kind<T> kind, Function<Treatment, T> get, BiFunction<Treatment, T, Treatment> with) {
        return new Option<>(id, OptionGroup.LEVELS, title, help, kind, o -> get.apply(o.treatment()), (o, v) -> o.withTreatment(with.apply(o.treatment(), v)),
                Optional.of(new OfSounds<>(get, with, _ -> true)), Optional.empty(), (_, _) -> true);
    }

    /// The same where what is offered depends on the destination; one value alone is no choice.
    Option<T> offering(Function<DestinationSheet, List<T>> values) {
        return new Option<>(id, group, title, help, kind, get, with, ofSounds, Optional.of(values), open);
    }

    /// The same where it means something only with some destinations or other options.
    Option<T> openWhere(BiPredicate<DestinationSheet, PackOptions> condition) {
        return new Option<>(id, group, title, help, kind, get, with, ofSounds, offered, condition);
    }

    /// The same, of sounds, where it means something only with some other values.
    Option<T> meaningfulWhere(Predicate<Treatment> condition) {
        OfSounds<T> of = ofSounds.orElseThrow();
        return new Option<>(id, group, title, help, kind, get, with, Optional.of(new OfSounds<>(of.get(), of.with(), condition)), offered, open);
    }

    /// Its name on the command line, in texts of programs and of the window's controls.
    public String id() { return id; }

    public OptionGroup group() { return group; }

    /// For people, a word or two.
    public String title() { return title; }

    /// For people, a sentence; what holds where nothing is said is added by [#explained].
    public String help() { return help; }

    public Kind<T> kind() { return kind; }

    public T get(PackOptions options) { return get.apply(options); }

    /// @throws IllegalArgumentException if the value is out of its bounds
    public PackOptions with(PackOptions options, T value) { return with.apply(options, value); }

    /// What holds for a sound; only where it [#isOfSounds].
    public T get(Treatment treatment) { return ofSounds.orElseThrow().get().apply(treatment); }

    /// @throws IllegalArgumentException if the value is out of its bounds
    public Treatment with(Treatment treatment, T value) { return ofSounds.orElseThrow().with().apply(treatment, value); }

    /// Whether its value changes anything with the other values as they are.
    public boolean isMeaningful(Treatment treatment) { return ofSounds.orElseThrow().open().test(treatment); }

    public T usual() { return get(PackOptions.DEFAULT); }

    /// Whether it may be said of single sounds.
    public boolean isOfSounds() { return ofSounds.isPresent(); }

    /// Whether there is anything to choose.
    public boolean isOpen(DestinationSheet sheet, PackOptions options) {
        return open.test(sheet, options) && (offered.isEmpty() || offered.get().apply(sheet).size() > 1);
    }

    /// The values that a form offers, the present one among them; empty where any text or number may be one.
    public List<T> values(DestinationSheet sheet, PackOptions options) {
        List<T> all = offered.map(o -> o.apply(sheet)).orElseGet(() -> switch (kind) {
            case Kind.Words<T> words -> words.values();
            case Kind.Flag<T> flag -> List.of(flag.no(), flag.yes());
            default -> List.of();
        });
        T now = get(options);
        return all.isEmpty() || all.contains(now) ? all : Stream.concat(all.stream(), Stream.of(now)).toList();
    }

    /// With what holds where nothing is said.
    public String explained() {
        String usual = String.join(", ", kind.texts(usual()));
        return kind instanceof Kind.Flag<T> || usual.isEmpty() ? help : help + " Default: " + usual + ".";
    }

    /// @param said texts of the value
    /// @throws OptionConflict in words, with the option's name
    public PackOptions said(PackOptions options, List<String> said) throws OptionConflict { return told(() -> with(options, kind.parse(said))); }

    /// The same for a chosen sound.
    public Treatment said(Treatment treatment, List<String> said) throws OptionConflict {
        return told(() -> ofSounds.orElseThrow().with().apply(treatment, kind.parse(said)));
    }

    private interface Saying<R> {
        R get();
    }

    private <R> R told(Saying<R> saying) throws OptionConflict {
        try {
            return saying.get();
        } catch (IllegalArgumentException e) {
            throw new OptionConflict("--" + id + ": " + e.getMessage());
        }
    }
}
