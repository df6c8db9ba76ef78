package ablecrate.demo;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.codec.SoundFile;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DemoCrateTest {
    @TempDir Path temp;

    @Test void theCrateIsLargeMixedAndAlwaysTheSame() throws Exception {
        Path first = CrateForTests.shared(), second = DemoCrate.make(temp);
        List<Gathered> items = Gatherer.readAll(Gatherer.find(List.of(first), () -> false));
        List<SoundFile> sounds = items.stream().flatMap(i -> i.sound().stream()).toList();
        assertThat(items).hasSizeGreaterThanOrEqualTo(60);
        long bytes = 0;
        for (Gathered item : items) {
            bytes += Files.size(item.path());
            assertThat(Files.mismatch(item.path(), second.resolve(first.relativize(item.path())))).as(item.path().toString()).isEqualTo(-1);
        }
        assertThat(bytes).isLessThan(40_000_000);
        assertThat(sounds.stream().map(SoundFile::rateHz).distinct()).hasSizeGreaterThanOrEqualTo(6);
        assertThat(sounds.stream().map(s -> s.encoding().depth()).distinct()).hasSize(6);
        assertThat(sounds.stream().map(SoundFile::container).distinct()).contains("WAV", "AIFF", "WAV extensible");
        assertThat(sounds).anyMatch(s -> s.metadata().mapping().rootKey().isPresent() && s.metadata().mapping().keys().isPresent())
                .anyMatch(s -> s.metadata().loops().size() > 1);
        assertThat(items.stream().map(i -> i.content() instanceof Gathered.Content.Refused(String id, _, _) ? id : null).filter(Objects::nonNull))
                .containsExactlyInAnyOrder("midi", "text", "empty");
        assertThat(items.stream().map(Gathered::content).filter(Gathered.Content.Links.class::isInstance).map(Gathered.Content.Links.class::cast)
                .map(l -> l.list().there().size())).containsExactlyInAnyOrder(2, 2);
        theMailedStemsLieOnTheirOriginals(first);
        assertThat(sounds.stream().filter(SoundFile::isLossy).map(SoundFile::codec)).containsExactlyInAnyOrder("MPEG-1 layer III", "MPEG-1 layer III", "Opus",
                "AAC-LC");
    }

    /// Packed for one session, all stems are equally long, and what was compressed lies on the frames of what was not.
    private static void theMailedStemsLieOnTheirOriginals(Path crate) throws Exception {
        for (String[] stem : new String[][]{{"harp.flac", "harp.wav"}, {"glass.mp3", "glass.wav"}, {"kitchen.opus", "kitchen.wav"},
            {"bottles.m4a", "bottles.aif"}}) {
            double[] mailed = at48(crate.resolve("Overture, as mailed/overture " + stem[0])),
                    original = at48(crate.resolve("Overture Stems/overture " + stem[1]));
            assertThat(mailed).as(stem[0]).hasSize(11 * 48_000).hasSameSizeAs(original);
            int best = 0;
            double most = 0;
            for (int lag = -100; lag <= 100; lag++) {
                double match = 0;
                // Differences of neighbours: onsets count, the slow phases of low notes do not.
                for (int i = 1000; i < 60_000; i++)
                    match += (mailed[i + lag] - mailed[i + lag - 1]) * (original[i] - original[i - 1]);
                if (match > most) {
                    most = match;
                    best = lag;
                }
            }
            assertThat(best).as(stem[0] + ": frames late").isZero();
        }
    }

    private static double[] at48(Path path) throws Exception {
        SoundFile file = Gatherer.read(new Gathered(path, path.getFileName(), new Gathered.Content.Unread())).sound().orElseThrow();
        try (var source = new ablecrate.dsp.RateConverters().convert(file.open(), 48_000)) {
            double[][] planes = new double[file.channels()][(int) source.frames()];
            source.readFully(planes, 0, planes[0].length);
            return planes[0];
        }
    }
}
