package ablecrate.desktop.help;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import javafx.scene.image.Image;

/// The pages of the guide (`docs/guide`), which lie beside the classes, so that they are there without a network.
public final class Guide {
    public static final String INDEX = "index";
    /// The page for what a bench or a destination is about.
    private static final Map<String, String> BENCHES = Map.of("levels", "levels", "fit", "device", "keys", "device", "device", "device", "session", "session",
            "library",
            "library"),
            DESTINATIONS = Map.of("drum-pads", "drum-pads", "four-track", "four-track", "session", "session", "keyboard-sampler", "device", "card-sampler",
                    "device", "pocket-sampler", "device", "bank-player",
                    "device", "rack-sampler", "midi-dump");

    private Guide() {}

    /// @param bench that is open
    /// @param hasLoop whether the sound on it has a loop
    public static String pageFor(String bench, String destination, boolean isEmpty, boolean hasLoop) {
        if (BENCHES.containsKey(bench)) return BENCHES.get(bench);
        if (isEmpty) return INDEX;
        return bench.equals("wave") && hasLoop ? "loops" : DESTINATIONS.getOrDefault(destination, INDEX);
    }

    /// A page as Markdown; empty where there is none of that name.
    public static Optional<String> page(String name) {
        try (InputStream in = Guide.class.getResourceAsStream("/ablecrate/docs/guide/" + name + ".md")) {
            return in == null ? Optional.empty() : Optional.of(new String(in.readAllBytes(), StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /// @param path as a page says it: `../screenshots/levels.png`
    public static Optional<Image> picture(String path, double width) {
        InputStream in = Guide.class.getResourceAsStream("/ablecrate/docs/" + path.replace("../", ""));
        return Optional.ofNullable(in).map(i -> new Image(i, width, 0, true, true));
    }
}
