package ablecrate.option;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/// Options as job files, presets and packing slips hold them: the id of each with its value, a text as on the command line, true or false, a number, or a list of
/// texts where it can be said several times.
public final class OptionValues {
    private OptionValues() {}

    /// All of them, so that what is usual may change without changing what was saved.
    public static Map<String, Object> of(PackOptions options) {
        Map<String, Object> values = new LinkedHashMap<>();
        Options.ALL.forEach(o -> values.put(o.id(), value(o, options)));
        return values;
    }

    /// Those of sounds alone.
    public static Map<String, Object> of(Treatment treatment) {
        Map<String, Object> values = new LinkedHashMap<>();
        PackOptions options = PackOptions.DEFAULT.withTreatment(treatment);
        Options.ofSounds().forEach(o -> values.put(o.id(), value(o, options)));
        return values;
    }

    /// Those that are said of a sound alone.
    public static Map<String, Object> of(OwnTreatment own) {
        Map<String, Object> values = new LinkedHashMap<>();
        PackOptions options = PackOptions.DEFAULT.withTreatment(own.over(Treatment.NONE));
        own.values().keySet().forEach(o -> values.put(o.id(), value(o, options)));
        return values;
    }

    private static <T> Object value(Option<T> option, PackOptions options) {
        List<String> texts = option.kind().texts(option.get(options));
        if (option.kind().isRepeated()) return texts;
        String text = texts.isEmpty() ? "" : texts.getLast();
        return switch (option.kind()) {
            case Kind.Flag<T> _ when !text.isEmpty() -> Boolean.valueOf(text);
            case Kind.Number<T> number when !text.equals(number.none()) -> number.whole() ? (Object) Integer.valueOf(text) : Double.valueOf(text);
            default -> text;
        };
    }

    /// @throws OptionConflict if a key is no option, or its value is none
    public static PackOptions options(Map<String, Object> values) throws OptionConflict {
        PackOptions options = PackOptions.DEFAULT;
        refuseUnknown(values, Options.ALL);
        for (Option<?> option : Options.ALL)
            if (isSaid(option, values)) options = option.said(options, texts(values.get(option.id())));
        return options;
    }

    /// @throws OptionConflict if a key is no option of sounds, or its value is none
    public static Treatment treatment(Map<String, Object> values) throws OptionConflict {
        Treatment treatment = Treatment.NONE;
        refuseUnknown(values, Options.ofSounds());
        for (Option<?> option : Options.ofSounds())
            if (isSaid(option, values)) treatment = option.said(treatment, texts(values.get(option.id())));
        return treatment;
    }

    /// @throws OptionConflict if a key is no option of sounds, or its value is none
    public static OwnTreatment own(Map<String, Object> values) throws OptionConflict {
        refuseUnknown(values, Options.ofSounds());
        Treatment treatment = treatment(values);
        Map<Option<?>, Object> own = new LinkedHashMap<>();
        for (Option<?> option : Options.ofSounds())
            if (values.containsKey(option.id())) own.put(option, option.get(treatment));
        return new OwnTreatment(own);
    }

    private static void refuseUnknown(Map<String, Object> values, List<Option<?>> known) throws OptionConflict {
        for (String id : values.keySet())
            if (known.stream().noneMatch(o -> o.id().equals(id))) throw new OptionConflict("no option is called '" + id + "'");
    }

    /// An empty text is that nothing is said.
    private static boolean isSaid(Option<?> option, Map<String, Object> values) {
        Object value = values.get(option.id());
        return value != null && !value.equals("") && !value.equals(List.of());
    }

    private static List<String> texts(Object value) {
        return value instanceof List<?> list ? list.stream().map(String::valueOf).toList() : List.of(value.toString());
    }
}
