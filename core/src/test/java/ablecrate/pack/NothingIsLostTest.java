package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.disk.Checksums;
import ablecrate.disk.SafeFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
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
            assertThatThrownBy(() -> guard.check(link)).isInstanceOf(ItemFault.class).hasMessageContaining("place of a source");
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

    /// Runs in place that end early, edits, restores of any run in any order, clocks that stand or go back: whatever was somebody's lies somewhere, and at the
    /// end, brought back from the newest run to the oldest, each first original is at its place, its time included.
    @ParameterizedTest @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20}) void noOriginalIsEverOutOfReach(long seed)
            throws Exception {
        Random random = new Random(seed);
        List<String> names = List.of("reed.wav", "deep/glass.wav", "käuzchen (2).wav");
        Set<String> precious = new HashSet<>();
        for (String name : names)
            precious.add(Files.readString(file(name, "first " + name)));
        for (int step = 0; step < 25; step++) {
            Path place = temp.resolve(names.get(random.nextInt(names.size())));
            switch (random.nextInt(4)) {
                case 0, 1 -> {
                    Originals run = new Originals(temp, NOW.plusSeconds(random.nextInt(4)));
                    for (String name : names) {
                        Path original = temp.resolve(name), part = Files.writeString(temp.resolve("part"), "result " + step + name);
                        if (!Files.exists(original) || random.nextInt(3) == 0) continue;
                        run.putAside(original, List.of(new Originals.Result(original, Checksums.xxh128Hex(part))));
                        // A run that is killed here has not published its result.
                        if (random.nextInt(8) == 0) break;
                        Files.move(part, original);
                    }
                    Files.deleteIfExists(temp.resolve("part"));
                }
                case 2 -> {
                    if (!Files.exists(place)) continue;
                    // The user may write over what is there; that is gone by his own hand, and what he wrote is his.
                    if (isOnlyAt(place)) precious.remove(Files.readString(place));
                    precious.add(Files.readString(Files.writeString(place, "edited " + step)));
                }
                default -> {
                    List<Path> folders = dated();
                    if (!folders.isEmpty()) Originals.restore(folders.get(random.nextInt(folders.size())), random.nextBoolean());
                }
            }
            assertThat(contents()).as("step %d", step).containsAll(precious);
        }
    }

    private List<Path> dated() throws IOException {
        try (var inside = Files.list(temp)) {
            return inside.filter(p -> Files.exists(p.resolve(Originals.LIST))).sorted().toList();
        }
    }

    private List<String> contents() throws IOException {
        List<String> contents = new ArrayList<>();
        try (var files = Files.walk(temp)) {
            for (Path file : files.filter(Files::isRegularFile).toList())
                contents.add(Files.readString(file));
        }
        return contents;
    }

    private boolean isOnlyAt(Path place) throws IOException {
        String content = Files.readString(place);
        return contents().stream().filter(content::equals).count() == 1;
    }

    @Test void firstOriginalsComeBackWithTheirTimes() throws Exception {
        FileTime time = FileTime.fromMillis(1_000_000_000_000L);
        Path reed = file("reed.wav", "first");
        Files.setLastModifiedTime(reed, time);
        for (int run = 0; run < 5; run++)
            packed(new Originals(temp, NOW.minusSeconds(run)), "reed.wav", "result " + run);
        // The clock went back: the folders are named in the other order, so each says why it has to wait for another, or is brought back.
        for (int tries = 0; tries < 5; tries++)
            for (Path folder : dated())
                Originals.restore(folder, false);
        assertThat(reed).hasContent("first");
        assertThat(Files.getLastModifiedTime(reed)).isEqualTo(time);
        assertThat(dated()).isEmpty();
    }
}
