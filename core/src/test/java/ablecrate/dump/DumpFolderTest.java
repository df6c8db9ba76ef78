package ablecrate.dump;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.sds.DumpExtension;
import ablecrate.codec.sds.DumpHeader.LoopPoints;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DumpFolderTest {
    @TempDir Path folder;

    private Path dump(String name) throws Exception {
        return Sounds.write(folder.resolve(name), "sds", 44_100, Depth.INT_16,
                SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(10, 90), LoopMode.ALTERNATING))), Sounds.sine(440, 0.5, 44_100, 100));
    }

    /// Nothing that is damaged is sent; the rest goes in the order of names.
    @Test void whatIsWholeIsReadAndTheOthersAreTold() throws Exception {
        dump("b.sds");
        dump("a.syx");
        byte[] bytes = Files.readAllBytes(dump("c.sds"));
        bytes[21 + 60] ^= 4;
        Files.write(folder.resolve("c.sds"), bytes);
        Files.write(folder.resolve("d.sds"), Arrays.copyOf(bytes, 21 + 127));
        Files.write(folder.resolve("notes.txt"), new byte[]{1});
        DumpFolder read = DumpFolder.read(List.of(folder));
        assertThat(read.dumps()).extracting(Dump::name).containsExactly("a", "b");
        assertThat(read.faults()).extracting(f -> f.file().getFileName().toString()).containsExactly("c.sds", "d.sds");
        assertThat(read.faults()).allSatisfy(f -> assertThat(f.why()).contains("packet 0 of 3 is missing or damaged"));
        assertThat(read.dumps().getFirst().header().loop()).isEqualTo(new LoopPoints(10, 89, LoopPoints.ALTERNATING));
    }

    /// Names come from a device: none leaves the folder, none takes the place of another.
    @ParameterizedTest @CsvSource({"CLAP,CLAP.sds", "../../gate,_.._gate.sds", ".hidden,hidden.sds", "con,con_.sds",
        "a/b:c,a_b_c.sds"}) void receivedSoundsStayInTheirFolder(
                String name, String file) throws Exception {
        Dump whole = Dump.read(dump("x.sds"));
        Dump named = new Dump(name, whole.header(), whole.packets(), List.of());
        Path into = folder.resolve("into");
        assertThat(DumpFolder.keep(named, into)).isEqualTo(into.resolve(file));
        assertThat(DumpFolder.keep(named, into)).isEqualTo(into.resolve(file.replace(".sds", "-2.sds")));
        assertThat(into.resolve(file)).hasBinaryContent(Files.readAllBytes(folder.resolve("x.sds")));
    }

    /// What is said of a sound goes with it to another number.
    @Test void aNumberGoesForNameAndLoopsToo() throws Exception {
        Dump whole = Dump.read(dump("x.sds"));
        Dump more = new Dump("x", whole.header(), whole.packets(),
                List.of(new DumpExtension.FurtherLoop(0, 1, new LoopPoints(5, 20, LoopPoints.FORWARD)), new DumpExtension.Name(0, "x")));
        Dump other = more.numbered(300);
        assertThat(other.number()).isEqualTo(300);
        assertThat(other.more()).extracting(DumpExtension::sound).containsExactly(300, 300);
        Path file = folder.resolve("y.sds");
        other.write(file);
        Dump read = Dump.read(file);
        assertThat(read.header()).isEqualTo(other.header());
        assertThat(read.more()).isEqualTo(other.more());
    }

    @Test void numbersAreTypedAsPeopleDo() {
        assertThat(SoundNumbers.of(" 1-3, 12 ,0")).isEqualTo(Optional.of(List.of(1, 2, 3, 12, 0)));
        assertThat(SoundNumbers.of("16383").orElseThrow()).containsExactly(16_383);
    }

    @ParameterizedTest @ValueSource(strings = {"", "5-1", "a", "1-", "-1", "1,,2", "16384", "99999999"}) void whatIsNoListOfNumbersIsNone(String typed) {
        assertThat(SoundNumbers.of(typed)).isEmpty();
    }
}
