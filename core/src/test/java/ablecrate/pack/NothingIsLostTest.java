package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.disk.Checksums;
import ablecrate.disk.SafeFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What keeps sources, originals and other runs' results from being written over.
class NothingIsLostTest {
    private static final Instant NOW = Instant.parse("2026-03-04T05:06:07Z");
    @TempDir Path temp;
    private Path out;

    @BeforeEach void makeFolder() throws IOException { out = Files.createDirectory(temp.resolve("out")); }

    private Path file(String name, String content) throws IOException {
        Path path = temp.resolve(name);
        Files.createDirectories(path.getParent());
        return Files.writeString(path, content);
    }

    @Test void theSourceIsKnownUnderAnyName() throws Exception {
        Path source = file("crate/reed.wav", "reed"), other = file("out/other.wav", "other");
        Path hard = Files.createLink(out.resolve("hard.wav"), source), soft = Files.createSymbolicLink(out.resolve("soft.wav"), source);
        WriteGuard guard = new WriteGuard(out, List.of(source));
        for (Path link : List.of(hard, soft))
            assertThatThrownBy(() -> guard.check(link)).isInstanceOf(Packer.ItemFault.class).hasMessageContaining("place of a source");
        guard.check(other);
        guard.check(out.resolve("new/deep/reed.wav"));
    }

    @Test void noLinkLeadsOutOfTheFolder() throws Exception {
        Files.createSymbolicLink(out.resolve("away"), Files.createDirectory(temp.resolve("elsewhere")));
        Files.createSymbolicLink(out.resolve("within"), Files.createDirectory(out.resolve("real")));
        WriteGuard guard = new WriteGuard(out, List.of());
        assertThatThrownBy(() -> guard.check(out.resolve("away/kit/reed.wav"))).isInstanceOf(IOException.class).hasMessageContaining("outside of");
        guard.check(out.resolve("within/reed.wav"));
    }

    @Test void aFolderIsHeldWithAllAboveAndBelow() throws Exception {
        Path below = Files.createDirectories(out.resolve("kits/one"));
        try (PackFolder _ = new PackFolder(out.resolve("kits"))) {
            for (Path other : List.of(out, out.resolve("kits"), below))
                assertThatThrownBy(() -> new PackFolder(other)).isInstanceOf(IOException.class).hasMessageContaining("another run is packing");
            new PackFolder(temp.resolve("beside")).close();
        }
        // Free again, and nothing of the lock is left.
        new PackFolder(out).close();
        try (var left = Files.walk(temp)) {
            assertThat(left.filter(Files::isRegularFile)).isEmpty();
        }
    }

    @Test void whatAKilledRunLeftGoesAndNothingElse() throws Exception {
        Path whole = file("out/reed.wav", "whole"), hidden = file("out/.reed.wav", "the user's");
        Path part = Files.writeString(SafeFile.partOf(out.resolve("glass.wav")), "half a fi");
        new PackFolder(out).close();
        assertThat(part).doesNotExist();
        assertThat(whole).exists();
        assertThat(hidden).exists();
    }

    /// Puts a file aside and writes what takes its place.
    private Path packed(Originals originals, String name, String result) throws IOException {
        Path original = temp.resolve(name), part = Files.writeString(temp.resolve("part"), result);
        originals.putAside(original, List.of(new Originals.Result(original, Checksums.xxh128Hex(part))));
        return Files.move(part, original);
    }

    @Test void originalsOfTwoRunsInOneSecondStayApart() throws Exception {
        Path reed = file("reed.wav", "first");
        packed(new Originals(temp, NOW), "reed.wav", "second");
        packed(new Originals(temp, NOW), "reed.wav", "third");
        assertThat(Originals.restore(temp, false).broughtBack()).containsExactly(reed);
        assertThat(reed).hasContent("second");
        Originals.restore(temp, false);
        assertThat(reed).hasContent("first");
    }

    @Test void aResultThatWasChangedIsNotThrownAway() throws Exception {
        Path reed = file("reed.wav", "original"), glass = file("uri:glass.wav", "clear");
        Originals originals = new Originals(temp, NOW);
        packed(originals, "reed.wav", "result");
        packed(originals, "uri:glass.wav", "result");
        Files.writeString(reed, "edited by hand");
        Originals.Restored first = Originals.restore(temp, false);
        assertThat(first.broughtBack()).containsExactly(glass);
        assertThat(first.problems()).singleElement().asString().contains("reed.wav is not as packing left it");
        assertThat(reed).hasContent("edited by hand");
        Originals.Restored second = Originals.restore(temp, true);
        assertThat(second.setAside()).containsExactly(temp.resolve("reed (changed).wav"));
        assertThat(temp.resolve("reed (changed).wav")).hasContent("edited by hand");
        assertThat(reed).hasContent("original");
        assertThat(glass).hasContent("clear");
    }

    @Test void whatCameToTheOriginalsPlaceStaysWithTheResults() throws Exception {
        Path reed = file("reed.aiff", "original"), result = file("reed.wav", "result");
        new Originals(temp, NOW).putAside(reed, List.of(new Originals.Result(result, Checksums.xxh128Hex(result))));
        Files.writeString(reed, "somebody's new one");
        assertThat(Originals.restore(temp, true).problems()).singleElement().asString().contains("none of the results");
        assertThat(reed).hasContent("somebody's new one");
        assertThat(result).hasContent("result");
    }

    @Test void aListLeadsNowhereElse() throws Exception {
        Path outside = file("precious.wav", "precious");
        Path folder = Files.createDirectories(out.resolve("originals"));
        Files.writeString(folder.resolve("kept.wav"), "kept");
        for (String result : List.of("../precious.wav", "uri:../precious.wav", outside.toString())) {
            Files.writeString(folder.resolve(Originals.LIST),
                    "{\"root\":\"\",\"entries\":[{\"original\":\"a.wav\",\"kept\":\"kept.wav\",\"results\":[\"" + result + "\"],\"sums\":[]}]}");
            assertThatThrownBy(() -> Originals.restore(folder, true)).isInstanceOf(IOException.class).hasMessageContaining("leads out of");
            assertThat(outside).hasContent("precious");
        }
    }
}
