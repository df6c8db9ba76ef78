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
        Path first = DemoCrate.make(temp.resolve("a")), second = DemoCrate.make(temp.resolve("b"));
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
        assertThat(sounds).anyMatch(s -> s.facts().mapping().rootKey().isPresent() && s.facts().mapping().keys().isPresent())
                .anyMatch(s -> s.facts().loops().size() > 1);
        assertThat(items.stream().map(i -> i.content() instanceof Gathered.Content.Refused(String id, _, _) ? id : null).filter(Objects::nonNull))
                .containsExactlyInAnyOrder("midi", "text", "empty");
        assertThat(items.stream().map(Gathered::content).filter(Gathered.Content.Links.class::isInstance).map(Gathered.Content.Links.class::cast)
                .map(l -> l.list().there().size())).containsExactlyInAnyOrder(2, 2);
        assertThat(sounds.stream().filter(SoundFile::isLossy).map(SoundFile::codec)).containsExactlyInAnyOrder("MPEG-1 layer III", "MPEG-1 layer III", "Opus",
                "AAC-LC");
    }
}
