package ablecrate.desktop.list;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.desktop.SharedCrate;
import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.instrument.SoundMetadata;
import ablecrate.plan.PackingItem;
import java.nio.file.Path;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedDeque;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What the columns of gaps and clicks say was heard.
class EndsHeardTest {
    private static final int RATE = 44_100;

    @TempDir Path folder;
    private final Deque<Runnable> later = new ConcurrentLinkedDeque<>();
    private final Background background = new Background(Runnable::run, later::add);
    private final CrateModel crate = new CrateModel(background, SharedCrate.CATALOGUE);

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    /// A struck tone behind silence.
    private void sound(String name, int gapFrames, int frames, double last) throws Exception {
        double[][] planes = new double[1][gapFrames + frames];
        for (int i = 0; i < frames; i++)
            planes[0][gapFrames + i] = 0.8 * Math.exp(-i / 4000.0) * Math.sin(2 * Math.PI * 700 * i / RATE);
        planes[0][planes[0].length - 1] = last;
        WholeSound.write(folder.resolve(name), SoundFormats.written("wav").orElseThrow(), RATE, Depth.INT_24, SoundMetadata.NONE, List.of(), planes);
    }

    private PackingItem line(int at) { return crate.listProperty().get().items().get(at); }

    /// 4,410 frames are 100 ms; a tenth of full scale is −20 dBFS.
    @Test void gapsAndClicksAreHeardWhileAColumnShowsThem() throws Exception {
        sound("a late.wav", 4410, RATE, 0);
        sound("b cut.wav", 0, RATE, 0.1);
        EndsHeard ends = new EndsHeard(crate, background);
        crate.gather(List.of(folder));
        settle();
        assertThat(ends.isAwaited(line(0))).as("nobody asked").isTrue();
        ends.show(true);
        settle();
        assertThat(ends.isAwaited(line(0))).isFalse();
        assertThat(ends.of(line(0)).orElseThrow().gapMs().orElseThrow()).isCloseTo(100, within(0.2));
        assertThat(ends.of(line(0)).orElseThrow().clicks()).isEmpty();
        assertThat(ends.of(line(1)).orElseThrow().gapMs().orElseThrow()).isCloseTo(0, within(0.2));
        assertThat(ends.of(line(1)).orElseThrow().clicks()).isEqualTo("end -20");
        sound("c new.wav", 441, RATE, 0);
        crate.rescan();
        settle();
        assertThat(ends.of(line(2)).orElseThrow().gap()).isEqualTo("10.0");
    }
}
