package ablecrate.signal;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.PooledSource;
import ablecrate.dsp.FadeShape;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Catalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Every sound is listened to once, and between runs only where it changed.
class MeasurementsTest {
    @TempDir Path folder;
    private final SoundPath path = new SoundPath();
    private Path file;
    private FileTime time;

    @BeforeEach void makeSound() throws Exception {
        file = Sounds.wav(folder.resolve("reed.wav"), 44_100, Depth.INT_24, sine(441, 0.5, 44_100, 44_100));
        time = Files.getLastModifiedTime(file);
    }

    private SoundFile sound() { return Gatherer.read(new Gathered(file, file, new Gathered.Content.Unread())).sound().orElseThrow(); }

    private double peakDb(Measurements book, SoundFile sound) {
        Measurement.Request request = new Measurement.OfFile(sound, OptionalDouble.of(-60));
        book.measure(request, () -> false);
        return ((Measurement.Survey) book.find(request).orElseThrow()).levels().samplePeakDbfs().orElseThrow();
    }

    /// The same bytes in size and time, but half as loud: who does not listen does not hear it.
    private void makeItQuieter() throws Exception {
        Sounds.wav(file, 44_100, Depth.INT_24, sine(441, 0.25, 44_100, 44_100));
        Files.setLastModifiedTime(file, time);
    }

    @Test void whatIsKeptIsNotListenedToAgain() throws Exception {
        Measurements book = new Measurements(path);
        assertThat(peakDb(book, sound())).isCloseTo(-6.02, within(0.01));
        makeItQuieter();
        assertThat(peakDb(book, sound())).isCloseTo(-6.02, within(0.01));
        book.clear();
        assertThat(peakDb(book, sound())).isCloseTo(-12.04, within(0.01));
    }

    @Test void betweenRunsTheCatalogueKeepsIt() throws Exception {
        Path kept = folder.resolve("catalogue.sqlite");
        try (Catalogue catalogue = new Catalogue(kept)) {
            assertThat(peakDb(new Measurements(path, catalogue), sound())).isCloseTo(-6.02, within(0.01));
        }
        makeItQuieter();
        try (Catalogue catalogue = new Catalogue(kept)) {
            assertThat(peakDb(new Measurements(path, catalogue), sound())).isCloseTo(-6.02, within(0.01));
            Measurement.Request other = new Measurement.OfFile(sound(), OptionalDouble.of(-40));
            Measurements book = new Measurements(path, catalogue);
            book.measure(other, () -> false);
            assertThat(((Measurement.Survey) book.find(other).orElseThrow()).levels().samplePeakDbfs().orElseThrow()).as("another question")
                    .isCloseTo(-12.04, within(0.01));
            Files.setLastModifiedTime(file, FileTime.fromMillis(time.toMillis() + 2000));
            assertThat(peakDb(new Measurements(path, catalogue), sound())).as("a file that was touched").isCloseTo(-12.04, within(0.01));
        }
    }

    @Test void allThatWasHeardOfAFileIsKept() throws Exception {
        Path kept = folder.resolve("catalogue.sqlite");
        SoundFile sound = sound();
        SourceChain half = new SourceChain(new FrameRange(0, sound.frames()), List.of(), ChannelMix.keep(1), 1, 2, sound.rateHz() / 2, Optional.empty(),
                List.of());
        List<Measurement.Request> requests = List.of(new Measurement.OfPitch(sound), new Measurement.OfFaults(sound),
                new Measurement.OfFile(sound, OptionalDouble.empty()), new Measurement.OfSourceChain(sound, half, Ends.NONE),
                new Measurement.OfLimited(sound, half, Ends.NONE, new Hold.TruePeaks(-9), new Measurement.Aim.Gain(0)));
        List<Measurement> heard, again;
        try (Catalogue catalogue = new Catalogue(kept)) {
            Measurements book = new Measurements(path, catalogue);
            requests.forEach(r -> book.measure(r, () -> false));
            heard = requests.stream().map(r -> book.find(r).orElseThrow()).toList();
        }
        assertThat(((Measurement.Pitched) heard.getFirst()).pitch().orElseThrow().hz()).isCloseTo(441, within(0.5));
        makeItQuieter();
        try (Catalogue catalogue = new Catalogue(kept)) {
            Measurements book = new Measurements(path, catalogue);
            requests.forEach(r -> book.measure(r, () -> false));
            again = requests.stream().map(r -> book.find(r).orElseThrow()).toList();
        }
        assertThat(again).isEqualTo(heard);
        try (Catalogue catalogue = new Catalogue(kept)) {
            Measurements book = new Measurements(path, catalogue);
            Measurement.Request faded = new Measurement.OfSourceChain(sound, half, new Ends(100, FadeShape.S, 0, FadeShape.S));
            book.measure(faded, () -> false);
            assertThat(((Measurement.ChainLevels) book.find(faded).orElseThrow()).levels().samplePeakDbfs().orElseThrow()).as("another way is another question")
                    .isCloseTo(-12.04, within(0.05));
        }
    }

    /// They lie in one file; where each begins tells them apart.
    @Test void soundsOfABankAreKeptEachForItself() throws Exception {
        Path kept = folder.resolve("catalogue.sqlite"), bank = Sounds.wav(folder.resolve("bank.wav"), 44_100, Depth.INT_16, sine(441, 0.5, 44_100, 22_050));
        SoundFile whole = Gatherer.read(new Gathered(bank, bank, new Gathered.Content.Unread())).sound().orElseThrow();
        List<SoundFile> sounds = Stream.of(15, 25).map(frames -> pooled(whole, frames, 44_100)).toList();
        try (Catalogue catalogue = new Catalogue(kept)) {
            sounds.forEach(s -> peakDb(new Measurements(path, catalogue), s));
        }
        FileTime written = Files.getLastModifiedTime(bank);
        Sounds.wav(bank, 44_100, Depth.INT_16, sine(441, 0.01, 44_100, 22_050));
        Files.setLastModifiedTime(bank, written);
        try (Catalogue catalogue = new Catalogue(kept)) {
            assertThat(peakDb(new Measurements(path, catalogue), sounds.getFirst())).as("short of the first crest").isCloseTo(-8.29, within(0.05));
            assertThat(peakDb(new Measurements(path, catalogue), sounds.getLast())).as("past it").isCloseTo(-6.02, within(0.05));
            assertThat(peakDb(new Measurements(path, catalogue), pooled(whole, 60, 44_100))).as("one that was not asked about").isCloseTo(-40, within(0.05));
            assertThat(peakDb(new Measurements(path, catalogue), pooled(whole, 25, 22_050))).as("the same place at another rate").isCloseTo(-40, within(0.05));
        }
    }

    private static SoundFile pooled(SoundFile whole, int frames, int rateHz) {
        long data = ((AudioPlace.Interleaved) whole.audio()).at();
        return new SoundFile(whole.path(), whole.fileBytes(), "sf2", "bank", "PCM", whole.encoding(), rateHz, 1, frames,
                new AudioPlace.Pooled(List.of(new PooledSource.Place(data, -1, frames)), List.of()), SoundMetadata.NONE, List.of(), List.of());
    }

    @Test void whatIsGoneIsKeptAsFailedWithTheReason() throws Exception {
        SoundFile sound = sound();
        Files.delete(file);
        Measurements book = new Measurements(path);
        Measurement.Request request = new Measurement.OfFile(sound, OptionalDouble.empty());
        book.measure(request, () -> false);
        assertThat(book.find(request)).get().isInstanceOfSatisfying(Measurement.Failed.class, f -> assertThat(f.reason()).contains("reed.wav"));
    }

    @Test void whatIsStoppedIsNotMeasured() {
        Measurements book = new Measurements(path);
        for (Measurement.Request request : List.of(new Measurement.OfFile(sound(), OptionalDouble.empty()), new Measurement.OfPitch(sound()),
                new Measurement.OfFaults(sound()), new Measurement.OfSourceChain(sound(), SourceChain.whole(sound()), Ends.NONE))) {
            book.measure(request, () -> true);
            assertThat(book.find(request)).isEmpty();
        }
    }
}
