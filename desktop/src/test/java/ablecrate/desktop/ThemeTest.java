package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Text is readable in both looks: 4.5:1 at least, by the formula of WCAG 2.1, *relative luminance* and *contrast ratio*.
class ThemeTest {
    private static final List<String> INKS = List.of("-ink", "-quiet", "-signal", "-verdict-kept", "-verdict-converted", "-verdict-adjusted",
            "-verdict-reduced", "-verdict-blocked");
    private static final List<String> GROUNDS = List.of("-board", "-paper", "-field");

    @ParameterizedTest @ValueSource(strings = {".root {", ".root.dark {"}) void everyInkIsReadableOnEveryGround(String look) throws Exception {
        Map<String, String> colours = colours(look);
        for (String ground : GROUNDS)
            for (String ink : INKS)
                assertThat(contrast(colours, ink, ground)).as("%s %s on %s", look, ink, ground).isGreaterThanOrEqualTo(4.5);
        assertThat(contrast(colours, "-ink", "-chosen")).isGreaterThanOrEqualTo(4.5);
        assertThat(contrast(colours, "-on-signal", "-signal")).isGreaterThanOrEqualTo(4.5);
        for (String verdict : INKS.subList(3, INKS.size()))
            assertThat(contrast(colours, verdict, "-chosen")).as("%s %s on the chosen line", look, verdict).isGreaterThanOrEqualTo(4.5);
    }

    private static Map<String, String> colours(String look) throws Exception {
        String css;
        try (var in = ThemeTest.class.getResourceAsStream("theme.css")) {
            css = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        Map<String, String> colours = new HashMap<>(declared(css, ".root {"));
        colours.putAll(declared(css, look));
        return colours;
    }

    private static Map<String, String> declared(String css, String selector) {
        String block = css.substring(css.indexOf(selector) + selector.length(), css.indexOf('}', css.indexOf(selector)));
        Map<String, String> out = new HashMap<>();
        Matcher m = Pattern.compile("(-[a-z-]+):\\s*(#[0-9A-Fa-f]{6}|-[a-z-]+)\\s*;").matcher(block);
        while (m.find())
            out.put(m.group(1), m.group(2));
        return out;
    }

    private static double contrast(Map<String, String> colours, String a, String b) {
        double x = luminance(resolve(colours, a)), y = luminance(resolve(colours, b));
        return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
    }

    private static int resolve(Map<String, String> colours, String name) {
        String value = name;
        while (!value.startsWith("#")) {
            String next = colours.get(value);
            assertThat(next).as("colour %s", value).isNotNull();
            value = next;
        }
        return Integer.parseInt(value.substring(1), 16);
    }

    private static double luminance(int rgb) { return 0.2126 * linear(rgb >> 16) + 0.7152 * linear(rgb >> 8 & 0xFF) + 0.0722 * linear(rgb & 0xFF); }

    private static double linear(int channel) {
        double c = channel / 255.0;
        return c <= 0.03928 ? c / 12.92 : Math.pow((c + 0.055) / 1.055, 2.4);
    }
}
