package ablecrate.disk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class UserFoldersTest {
    @TempDir Path folder;

    /// XDG Base Directory Specification 0.8: `$XDG_CONFIG_HOME` and `$XDG_CACHE_HOME`, or `.config` and `.cache` at home.
    @Test void settingsAndCachesLieWhereTheSystemWantsThem() {
        assertThat(UserFolders.settings("Linux", "/home/ada", Map.of())).isEqualTo(Path.of("/home/ada/.config/ablecrate"));
        assertThat(UserFolders.caches("Linux", "/home/ada", Map.of())).isEqualTo(Path.of("/home/ada/.cache/ablecrate"));
        assertThat(UserFolders.settings("Linux", "/home/ada", Map.of("XDG_CONFIG_HOME", "/cfg"))).isEqualTo(Path.of("/cfg/ablecrate"));
        assertThat(UserFolders.caches("Linux", "/home/ada", Map.of("XDG_CACHE_HOME", "/var/c"))).isEqualTo(Path.of("/var/c/ablecrate"));
        assertThat(UserFolders.settings("Mac OS X", "/Users/ada", Map.of())).isEqualTo(Path.of("/Users/ada/Library/Application Support/ablecrate"));
        assertThat(UserFolders.caches("Windows 11", "C:/Users/ada", Map.of("LOCALAPPDATA", "C:/L"))).isEqualTo(Path.of("C:/L/ablecrate"));
    }

    /// A small file that cannot take its name leaves nothing beside it, and what had the name stays.
    @Test void whatCannotBeWrittenLeavesNothingBehind() throws Exception {
        Path target = Files.createDirectories(folder.resolve("slip.json"));
        Files.writeString(target.resolve("in the way"), "x");
        assertThatThrownBy(() -> SafeFile.write(target, "{}")).isInstanceOf(IOException.class);
        try (var left = Files.list(folder)) {
            assertThat(left).containsExactly(target);
        }
        assertThat(target.resolve("in the way")).hasContent("x");
    }
}
