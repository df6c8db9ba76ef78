package ablecrate.instrument;

import java.util.Locale;
import java.util.function.Function;

/// What an instrument says of itself to people. Texts that are missing are empty.
public record About(String name, String category, String creator, String description, String keywords, String licence) {
    /// One of the texts, by name.
    public enum Field {
        NAME(About::name), CATEGORY(About::category), CREATOR(About::creator), DESCRIPTION(About::description), KEYWORDS(About::keywords), LICENCE(
                About::licence);

        private final Function<About, String> text;

        Field(Function<About, String> text) { this.text = text; }

        public String label() { return name().toLowerCase(Locale.ROOT); }

        public String of(About about) { return text.apply(about); }
    }

    public static About named(String name) { return new About(name, "", "", "", "", ""); }

    public About with(Field field, String text) {
        return switch (field) {
            case NAME -> new About(text, category, creator, description, keywords, licence);
            case CATEGORY -> new About(name, text, creator, description, keywords, licence);
            case CREATOR -> new About(name, category, text, description, keywords, licence);
            case DESCRIPTION -> new About(name, category, creator, text, keywords, licence);
            case KEYWORDS -> new About(name, category, creator, description, text, licence);
            case LICENCE -> new About(name, category, creator, description, keywords, text);
        };
    }
}
