package ablecrate.desktop.crate;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.desktop.Background;
import ablecrate.desktop.destination.DestinationModel;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Catalogue;
import java.nio.file.Path;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedDeque;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ClickTracksTest {
    private static final int RATE = 8_000, SECONDS = 6;

    @TempDir Path folder;
    private final Deque<Runnable> later = new ConcurrentLinkedDeque<>();
    private final CrateModel crate = new CrateModel(new Background(Runnable::run, later::add), Catalogue.none());

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    /// @param fall so many seconds to 1/e, twice a second
    private void sound(String name, double fall) throws Exception {
        double[][] planes = new double[1][SECONDS * RATE];
        for (int i = 0; i < planes[0].length; i++)
            planes[0][i] = 0.5 * Math.exp(-(i % (RATE / 2)) / (fall * RATE)) * Math.sin(2 * Math.PI * 1000 * (i % (RATE / 2)) / RATE);
        WholeSound.write(folder.resolve(name), SoundFormats.written("wav").orElseThrow(), RATE, Depth.INT_16, SoundMetadata.NONE, List.of(), planes);
    }

    @Test void theClickGoesAndTheStemsStay() throws Exception {
        for (String stem : List.of("bells", "drums", "harp"))
            sound("overture " + stem + ".wav", 0.1);
        sound("overture guide.wav", 0.006);
        crate.gather(List.of(folder));
        settle();
        DestinationModel offering = new DestinationModel(crate, new ClickTracks(crate, new Background(Runnable::run, later::add)));
        DestinationModel.Fix fix = offering.stemFixes(crate.listProperty().get().items().getFirst()).getFirst();
        assertThat(fix.text()).isEqualTo("Look for click tracks among these 4 stems");
        fix.run().run();
        settle();
        assertThat(crate.listProperty().get().items()).extracting(i -> i.source().fileName()).containsExactly("overture bells.wav", "overture drums.wav",
                "overture harp.wav");
        assertThat(crate.messageProperty().get()).isEqualTo("taken out of the job, as nothing but clicks: overture guide.wav (120 bpm); Ctrl+Z brings back");
        crate.undo();
        settle();
        assertThat(crate.listProperty().get().items()).hasSize(4);
    }

    @Test void withoutStemsThereIsNothingToLookAt() throws Exception {
        sound("kick.wav", 0.006);
        crate.gather(List.of(folder));
        settle();
        ClickTracks clicks = new ClickTracks(crate, new Background(Runnable::run, later::add));
        assertThat(new DestinationModel(crate, clicks).stemFixes(crate.listProperty().get().items().getFirst())).isEmpty();
        clicks.takeOut();
        assertThat(crate.messageProperty().get()).startsWith("no stems are gathered");
        assertThat(crate.listProperty().get().items()).hasSize(1);
    }
}
