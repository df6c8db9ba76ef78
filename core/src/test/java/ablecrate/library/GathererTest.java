package ablecrate.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import java.lang.reflect.Proxy;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class GathererTest {
    @TempDir Path folder;

    private Path sound(String name) throws Exception {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        return Sounds.wav(file, 44100, Depth.INT_16, Sounds.sine(440, 0.5, 44100, 10));
    }

    private List<String> found(Path... roots) throws Exception {
        return Gatherer.find(List.of(roots), () -> false).stream().map(g -> folder.relativize(g.path()).toString().replace('\\', '/')).toList();
    }

    @Test void filesComeInTheOrderPeopleCount() throws Exception {
        for (String name : List.of("a10.wav", "a2.wav", "A1.wav", "b/1.wav", "a02.wav"))
            sound(name);
        assertThat(found(folder)).containsExactly("A1.wav", "a02.wav", "a2.wav", "a10.wav", "b/1.wav");
    }

    @ParameterizedTest @CsvSource({"kit 2,kit 10", "9,10", "a,B", "x9y1,x10", "007,8", "c3,c3b"}) void numbersCountAsNumbers(String smaller, String larger) {
        assertThat(NaturalOrder.INSTANCE.compare(smaller, larger)).isNegative();
        assertThat(NaturalOrder.INSTANCE.compare(larger, smaller)).isPositive();
        assertThat(NaturalOrder.INSTANCE.compare(larger, larger)).isZero();
    }

    @Test void numbersLongerThanAnyIntegerAreCompared() {
        assertThat(NaturalOrder.INSTANCE.compare("a99999999999999999999999", "a100000000000000000000000")).isNegative();
    }

    @Test void aFaultInReadingOneFileLeavesTheOthers() throws Exception {
        Path sound = sound("good.wav");
        Path faulty = (Path) Proxy.newProxyInstance(Path.class.getClassLoader(), new Class<?>[]{Path.class}, (_, method, _) -> {
            if (method.getName().equals("toString")) return "faulty.wav";
            throw new IllegalStateException("not foreseen");
        });
        List<Gathered> read = Gatherer.readAll(List.of(new Gathered(faulty, sound, new Gathered.Content.Unread()),
                new Gathered(sound, sound, new Gathered.Content.Unread())));
        assertThat(read.getFirst().content()).isInstanceOfSatisfying(Gathered.Content.Refused.class, r -> assertThat(r.id()).isEqualTo(Gatherer.FAULT));
        assertThat(read.getLast().sound()).isPresent();
    }

    @Test void plainSamplesThatAreOpenedAnywayAreReadAndNotLookedUp() throws Exception {
        Path plain = sound("plain.wav"), coded = Files.copy(plain, folder.resolve("coded.mp3"));
        List<Gathered> items = Gatherer.find(List.of(plain, coded), () -> false);
        try (Catalogue catalogue = new Catalogue(folder.resolve("known"))) {
            List<Gathered> read = Gatherer.readToOpen(items, catalogue, () -> false);
            assertThat(read).extracting(Gathered::path).containsExactly(plain, coded);
            assertThat(read).allMatch(g -> g.sound().isPresent());
            assertThat(Gatherer.known(items, catalogue)).extracting(Gathered::path).containsExactly(coded);
        }
    }

    @Test void aFileThatIsNamedTwiceIsThereOnce() throws Exception {
        Path one = sound("in/one.wav");
        assertThat(found(one, folder.resolve("in"), folder)).containsExactly("in/one.wav");
    }

    @Test void hiddenFilesAndOurOwnSlipsAreNoSources() throws Exception {
        sound("seen.wav");
        sound(".hidden.wav");
        sound(".cache/inside.wav");
        Files.writeString(folder.resolve("packing-slip.json"), "{}");
        Files.writeString(folder.resolve("packing-slip.html"), "<html>");
        assertThat(found(folder)).containsExactly("seen.wav");
    }

    @Test void linksAreFollowedAndCirclesAreNot() throws Exception {
        sound("in/one.wav");
        Files.createSymbolicLink(folder.resolve("in/round"), folder.resolve("in"));
        Files.createSymbolicLink(folder.resolve("linked.wav"), folder.resolve("in/one.wav"));
        assertThat(found(folder)).containsExactly("in/one.wav", "linked.wav");
    }

    @Test void aFolderThatIsNotThereIsSaid() {
        assertThatThrownBy(() -> Gatherer.find(List.of(folder.resolve("nowhere")), () -> false)).isInstanceOf(NoSuchFileException.class)
                .hasMessageContaining("nowhere");
    }

    @Test void aSearchEndsWhenItIsStopped() throws Exception {
        for (int i = 0; i < 20; i++)
            sound("s" + i + ".wav");
        List<Integer> asked = new ArrayList<>();
        assertThat(Gatherer.find(List.of(folder), () -> {
            asked.add(1);
            return asked.size() >= 3;
        })).hasSize(3);
    }

    @Test void whatWentMissingMeanwhileIsRefusedWithTheReason() throws Exception {
        List<Gathered> items = Gatherer.find(List.of(sound("gone.wav")), () -> false);
        Files.delete(folder.resolve("gone.wav"));
        assertThat(Gatherer.readAll(items).getFirst().content()).isInstanceOfSatisfying(Gathered.Content.Refused.class, r -> {
            assertThat(r.id()).isEqualTo("missing");
            assertThat(r.reason()).contains("no longer there");
        });
    }

    @Test void aWrongExtensionIsNotedAndTheSoundTaken() throws Exception {
        Path odd = Files.move(sound("x.wav"), folder.resolve("x.aif"));
        var sound = Gatherer.readAll(Gatherer.find(List.of(odd), () -> false)).getFirst().sound().orElseThrow();
        assertThat(sound.formatId()).isEqualTo("wav");
        assertThat(sound.problems()).singleElement().satisfies(p -> assertThat(p.text()).isEqualTo("named .aif, but it is WAV"));
        assertThat(sound.needsMending()).isFalse();
    }

    /// Healthy, but coded in a way that is not read: nobody says it is damaged. The tag is that of Microsoft ADPCM (RFC 2361).
    @Test void whatIsNotReadIsNotCalledDamaged() throws Exception {
        Path file = Sounds.wav(folder.resolve("coded.wav"), 44_100, Depth.INT_16, new double[500]);
        byte[] bytes = Files.readAllBytes(file);
        bytes[20] = 2;
        Files.write(file, bytes);
        Gathered read = Gatherer.read(new Gathered(file, file.getFileName(), new Gathered.Content.Unread()));
        assertThat(read.content()).isInstanceOfSatisfying(Gathered.Content.Refused.class, r -> {
            assertThat(r.id()).isEqualTo("unsupported");
            assertThat(r.reason()).contains("not PCM").doesNotContain("damaged");
        });
    }
}
