package ablecrate.option;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.DoubleFunction;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;

/// How the values of an option are told as text, and to people.
public sealed interface Kind<T> {
    /// @param said at least one text; what can be said once only is what was said last
    /// @throws IllegalArgumentException if it is no value; the message says what is
    T parse(List<String> said);

    /// What [#parse] reads as the value; nothing where nothing is said.
    List<String> texts(T value);

    /// For people.
    String label(T value);

    /// What stands for the value in help: `HZ|keep`; empty where it has none.
    String sample();

    /// What stands in an empty field.
    default String prompt() { return sample().toLowerCase(Locale.ROOT); }

    /// Whether it may be said several times.
    default boolean isRepeated() { return false; }

    /// Yes or no, said by the name of the option alone.
    /// @param labels for people
    record Flag<T>(T yes, T no, Function<T, String> labels) implements Kind<T> {
        static Flag<Boolean> of(String yes, String no) { return new Flag<>(true, false, v -> v ? yes : no); }

        @Override public T parse(List<String> said) { return Boolean.parseBoolean(said.getLast()) ? yes : no; }

        @Override public List<String> texts(T value) { return value.equals(yes) ? List.of("true") : value.equals(no) ? List.of("false") : List.of(); }

        @Override public String label(T value) { return labels.apply(value); }

        @Override public String sample() { return ""; }
    }

    /// One of a few values with names.
    /// @param words names and values, in the order in which they are offered
    /// @param labels for people
    /// @param sample in help; the names where it is empty
    /// @param others what else may be said
    record Words<T>(Map<String, T> words, Function<T, String> labels, String sample, Optional<Others<T>> others) implements Kind<T> {
        /// @param read of a text that is no name; empty if it is no value
        /// @param write of a value that has no name
        record Others<T>(Function<String, Optional<T>> read, Function<T, String> write) {}

        static <T> Words<T> of(List<T> values, Function<T, String> id, Function<T, String> label) {
            Map<String, T> words = new LinkedHashMap<>();
            values.forEach(v -> words.put(id.apply(v), v));
            return new Words<>(words, label, "", Optional.empty());
        }

        Words<T> orElse(String otherSample, Function<String, Optional<T>> read, Function<T, String> write) {
            return new Words<>(words, labels, otherSample, Optional.of(new Others<>(read, write)));
        }

        public List<T> values() { return List.copyOf(words.values()); }

        @Override public T parse(List<String> said) {
            String text = said.getLast();
            T value = words.get(text.toLowerCase(Locale.ROOT));
            if (value != null) return value;
            return others.flatMap(o -> o.read().apply(text))
                    .orElseThrow(() -> new IllegalArgumentException("'" + text + "' is none of " + sample().replace("|", ", ")));
        }

        @Override public List<String> texts(T value) {
            return List.of(words.entrySet().stream().filter(e -> e.getValue().equals(value)).map(Map.Entry::getKey).findFirst()
                    .orElseGet(() -> others.orElseThrow().write().apply(value)));
        }

        @Override public String label(T value) { return labels.apply(value); }

        @Override public String sample() { return sample.isEmpty() ? String.join("|", words.keySet()) : sample; }
    }

    /// A number, told as it is.
    /// @param none what says that there is no number; empty where there always is one
    /// @param of the value of a number; absent for none. Refuses what is out of bounds
    /// @param number of a value; NaN for none
    /// @param whole whether only whole numbers are any
    record Number<T>(String unit, String none, Function<Optional<Double>, T> of, ToDoubleFunction<T> number, boolean whole) implements Kind<T> {
        private static final DoubleFunction<String> TEXT = v -> v == Math.rint(v) ? Long.toString((long) v) : Double.toString(v);

        @Override public T parse(List<String> said) {
            String text = said.getLast().strip();
            if (!none.isEmpty() && text.equals(none)) return of.apply(Optional.empty());
            double value;
            try {
                value = Double.parseDouble(text.replace('−', '-'));
            } catch (NumberFormatException e) {
                value = Double.NaN;
            }
            if (!Double.isFinite(value) || whole && value != Math.rint(value))
                throw new IllegalArgumentException("'" + text + "' is no " + (whole
                        ? "whole "
                        : "") + "number" + (none.isEmpty() ? "" : ", nor '" + none + "'"));
            return of.apply(Optional.of(value));
        }

        @Override public List<String> texts(T value) {
            double n = number.applyAsDouble(value);
            return Double.isNaN(n) ? none.isEmpty() ? List.of() : List.of(none) : List.of(TEXT.apply(n));
        }

        @Override public String label(T value) {
            double n = number.applyAsDouble(value);
            return Double.isNaN(n) ? "" : TEXT.apply(n);
        }

        @Override public String prompt() { return none; }

        /// As it stands behind a number: `dBTP`, `ms`.
        public String unitText() { return unit.startsWith("DB") ? unit.replace("DB", "dB") : unit.toLowerCase(Locale.ROOT); }

        @Override public String sample() { return unit + (none.isEmpty() ? "" : "|" + none); }
    }

    /// A text, or what is made of one.
    record Text<T>(String sample, Function<String, T> of, Function<T, String> text) implements Kind<T> {
        @Override public T parse(List<String> said) { return of.apply(said.getLast()); }

        @Override public List<String> texts(T value) { return text.apply(value).isEmpty() ? List.of() : List.of(text.apply(value)); }

        @Override public String label(T value) { return text.apply(value); }
    }

    /// Values in an order.
    /// @param read refuses what is none
    record Several<T>(String sample, Function<String, T> read, Function<T, String> write) implements Kind<List<T>> {
        static Several<String> texts(String sample) { return new Several<>(sample, s -> s, s -> s); }

        @Override public List<T> parse(List<String> said) { return said.stream().map(String::strip).filter(s -> !s.isEmpty()).map(read).toList(); }

        @Override public List<String> texts(List<T> value) { return value.stream().map(write).toList(); }

        @Override public String label(List<T> value) { return String.join("; ", texts(value)); }

        @Override public boolean isRepeated() { return true; }
    }

    /// Texts by numbers: `2=key`.
    record Numbered(String sample) implements Kind<Map<Integer, String>> {
        @Override public Map<Integer, String> parse(List<String> said) {
            Map<Integer, String> out = new TreeMap<>();
            for (String text : said) {
                int equals = text.indexOf('=');
                if (equals < 1 || !text.substring(0, equals).strip().matches("-?\\d{1,4}"))
                    throw new IllegalArgumentException("'" + text + "' is not told as " + sample);
                out.put(Integer.valueOf(text.substring(0, equals).strip()), text.substring(equals + 1).strip());
            }
            return out;
        }

        @Override public List<String> texts(Map<Integer, String> value) {
            return new TreeMap<>(value).entrySet().stream().map(e -> e.getKey() + "=" + e.getValue()).toList();
        }

        @Override public String label(Map<Integer, String> value) { return texts(value).stream().collect(Collectors.joining("; ")); }

        @Override public boolean isRepeated() { return true; }
    }

    /// What was typed in one field, where several are parted by semicolons.
    default List<String> split(String typed) {
        return isRepeated() ? new ArrayList<>(Arrays.stream(typed.split(";")).map(String::strip).filter(s -> !s.isEmpty()).toList()) : List.of(typed.strip());
    }
}
