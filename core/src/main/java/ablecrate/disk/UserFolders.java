package ablecrate.disk;

import java.nio.file.Path;
import java.util.Locale;
import java.util.Map;

/// Where a user's own things lie, in the usual places of the system.
public final class UserFolders {
    private static final String NAME = "ablecrate";

    private UserFolders() {}

    /// Settings, presets.
    public static Path settings() { return settings(System.getProperty("os.name", ""), System.getProperty("user.home"), System.getenv()); }

    /// What can be made anew.
    public static Path caches() { return caches(System.getProperty("os.name", ""), System.getProperty("user.home"), System.getenv()); }

    static Path settings(String os, String home, Map<String, String> environment) {
        return switch (kind(os)) {
            case "win" -> Path.of(environment.getOrDefault("APPDATA", home), NAME);
            case "mac" -> Path.of(home, "Library", "Application Support", NAME);
            default -> Path.of(environment.getOrDefault("XDG_CONFIG_HOME", home + "/.config"), NAME);
        };
    }

    static Path caches(String os, String home, Map<String, String> environment) {
        return switch (kind(os)) {
            case "win" -> Path.of(environment.getOrDefault("LOCALAPPDATA", home), NAME);
            case "mac" -> Path.of(home, "Library", "Caches", NAME);
            default -> Path.of(environment.getOrDefault("XDG_CACHE_HOME", home + "/.cache"), NAME);
        };
    }

    private static String kind(String os) {
        String lower = os.toLowerCase(Locale.ROOT);
        return lower.contains("win") ? "win" : lower.contains("mac") ? "mac" : "unix";
    }
}
