package ablecrate.job;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.FrameRange;
import ablecrate.option.ItemEdit;
import ablecrate.option.MonoLaw;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A job whose folders were moved, renamed, or mixed up finds its sounds again, and what was wanted for each goes with it.
class RelocationTest {
    private static final ItemEdit TRIMMED = ItemEdit.NONE.withPart(Optional.of(new FrameRange(10, 900))),
            LEFT = ItemEdit.NONE.withMonoLaw(Optional.of(MonoLaw.LEFT));

    @TempDir private Path disk;
    private Path owls, reeds, saved;
    private Job job;

    @BeforeEach void makeAJob() throws IOException {
        owls = sounds("library/owls", "hoot.wav", "night/call.wav");
        reeds = sounds("library/reeds", "low.wav", "high.wav");
        saved = disk.resolve("jobs/evening.ablecrate");
        Files.createDirectories(saved.getParent());
        job = Job.EMPTY.gathering(List.of(owls, reeds)).without(Set.of(reeds.resolve("high.wav"))).editing(Set.of(owls.resolve("night/call.wav")), _ -> TRIMMED)
                .editing(Set.of(reeds.resolve("low.wav")), _ -> LEFT).packingInto(Optional.of(disk.resolve("jobs/out")));
        Jobs.save(job, saved);
    }

    private Path sounds(String folder, String... names) throws IOException {
        for (String name : names) {
            Path file = disk.resolve(folder).resolve(name);
            Files.createDirectories(file.getParent());
            Files.writeString(file, "sound " + name);
        }
        return disk.resolve(folder);
    }

    @Test void whatMovesWithItsJobIsFoundByRelativePaths() throws Exception {
        assertThat(Files.readString(saved)).contains("\"../library/owls\"", "\"../library/owls/night/call.wav\"", "\"out\"").doesNotContain(disk.toString());
        assertThat(Jobs.open(saved)).isEqualTo(job);
        Path other = Files.createDirectories(disk.resolve("other"));
        Files.move(disk.resolve("library"), other.resolve("library"));
        Files.move(disk.resolve("jobs"), other.resolve("jobs"));
        Job moved = Jobs.open(other.resolve("jobs/evening.ablecrate"));
        assertThat(moved.sources()).containsExactly(other.resolve("library/owls"), other.resolve("library/reeds"));
        assertThat(moved.edits()).containsEntry(other.resolve("library/owls/night/call.wav"), TRIMMED);
        assertThat(Relocation.missing(moved)).isEmpty();
    }

    @Test void foldersThatMovedAreFoundByTheFolderTheyAreIn() throws Exception {
        Path there = Files.createDirectories(disk.resolve("drive/archive"));
        Files.move(disk.resolve("library"), there.resolve("library"));
        assertThat(Relocation.missing(job)).containsExactly(owls, reeds);
        Relocation.Found found = Relocation.below(disk.resolve("drive"), job, Map.of(), () -> false);
        assertThat(found.missing()).isEmpty();
        assertThat(found.job().sources()).containsExactly(there.resolve("library/owls"), there.resolve("library/reeds"));
        assertThat(found.job().edits()).isEqualTo(Map.of(there.resolve("library/owls/night/call.wav"), TRIMMED, there.resolve("library/reeds/low.wav"), LEFT));
        assertThat(found.job().removed()).containsExactly(there.resolve("library/reeds/high.wav"));
    }

    @Test void aRenamedFolderIsKnownByWhatIsInIt() throws Exception {
        Files.move(owls, disk.resolve("library/birds of the night"));
        Relocation.Found found = Relocation.below(disk.resolve("library/birds of the night"), job, Map.of(), () -> false);
        assertThat(found.missing()).isEmpty();
        assertThat(found.job().sources()).containsExactly(disk.resolve("library/birds of the night"), reeds);
        Relocation.Found wrong = Relocation.below(Files.createDirectory(disk.resolve("empty")), job, Map.of(), () -> false);
        assertThat(wrong.job()).isEqualTo(job);
        assertThat(wrong.missing()).containsExactly(owls);
    }

    @Test void soundsThatWereSortedAnewAreFoundByNameAndLength() throws Exception {
        Map<Path, Long> lengths = Jobs.read(saved).lengths();
        assertThat(lengths).containsEntry(owls.resolve("night/call.wav"), (long) "sound night/call.wav".length());
        Path moved = Files.createDirectories(owls.resolve("by length/short"));
        Files.move(owls.resolve("night/call.wav"), moved.resolve("call.wav"));
        Files.writeString(Files.createDirectories(owls.resolve("other")).resolve("call.wav"), "another length altogether");
        assertThat(Relocation.missing(job)).containsExactly(owls.resolve("night/call.wav"));
        assertThat(Relocation.below(owls, job, lengths, () -> false).job().edits()).containsEntry(moved.resolve("call.wav"), TRIMMED);
        // Two that are alike by name and length: the same content is the same sound, another is none to guess.
        Files.writeString(owls.resolve("other/call.wav"), "sound night/call.wav");
        assertThat(Relocation.below(owls, job, lengths, () -> false).missing()).isEmpty();
        Files.writeString(owls.resolve("other/call.wav"), "SOUND NIGHT/CALL.WAV");
        assertThat(Relocation.below(owls, job, lengths, () -> false).missing()).containsExactly(owls.resolve("night/call.wav"));
    }
}
