package ablecrate.desktop;

import javafx.scene.control.Label;

/// Headings in spaced capitals. The toolkit has no letter spacing, so thin spaces stand between the letters; screen readers get the plain words.
public final class Headings {
    private static final String THIN = "\u200A", THINNER_WORD_GAP = "\u2002";

    private Headings() {}

    /// Over a pane.
    public static Label heading(String text) { return spaced(text, "heading"); }

    /// Over a part of a pane.
    public static Label subheading(String text) { return spaced(text, "subheading"); }

    /// Over a whole view.
    public static Label title(String text) { return spaced(text, "title"); }

    static Label spaced(String text, String style) {
        Label label = new Label(String.join(THIN, text.toUpperCase(java.util.Locale.ROOT).replace(" ", THINNER_WORD_GAP).split("")));
        label.setAccessibleText(text);
        label.getStyleClass().add(style);
        label.setMinWidth(javafx.scene.layout.Region.USE_PREF_SIZE);
        return label;
    }

    /// Of one style, plainly.
    public static Label label(String text, String style) {
        Label label = new Label(text);
        label.getStyleClass().add(style);
        return label;
    }
}
