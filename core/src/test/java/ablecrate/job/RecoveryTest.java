package ablecrate.job;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RecoveryTest {
    private static final Job JOB = Job.EMPTY.gathering(List.of(Path.of("/sounds/owls"))).aimedAt("session");

    @TempDir private Path folder;

    @Test void whatAWindowLeftIsOfferedToTheNextOne() throws Exception {
        Path file = Path.of("/jobs/evening.ablecrate");
        Recovery crashed = Recovery.begin(folder);
        crashed.keep(Job.EMPTY, Optional.empty());
        crashed.keep(JOB, Optional.of(file));
        crashed.close(); // as the end of a process does
        try (Recovery next = Recovery.begin(folder)) {
            assertThat(next.left()).singleElement().satisfies(left -> {
                assertThat(left.job()).isEqualTo(JOB);
                assertThat(left.savedAs()).contains(file);
            });
            next.keep(Job.EMPTY.gathering(List.of(Path.of("/sounds/reeds"))), Optional.empty());
            assertThat(next.left()).as("its own is not left").hasSize(1);
            next.forget(next.left().getFirst());
            assertThat(next.left()).isEmpty();
            next.forget();
        }
        try (Recovery later = Recovery.begin(folder)) {
            assertThat(later.left()).isEmpty();
        }
    }

    @Test void whatAWindowThatLivesKeepsIsItsOwn() throws Exception {
        try (Recovery first = Recovery.begin(folder)) {
            first.keep(JOB, Optional.empty());
            try (Recovery second = Recovery.begin(folder)) {
                assertThat(second.left()).isEmpty();
                second.keep(JOB.aimedAt("files"), Optional.empty());
            }
            try (Recovery third = Recovery.begin(folder)) {
                assertThat(third.left()).extracting(l -> l.job().destination()).containsExactly("files");
            }
        }
    }

    @Test void whatCannotBeReadIsPassedOver() throws Exception {
        try (Recovery first = Recovery.begin(folder)) {
            first.keep(JOB, Optional.empty());
        }
        Path kept = folder.resolve("open-1.ablecrate");
        Files.writeString(kept, Files.readString(kept).substring(0, 40));
        try (Recovery next = Recovery.begin(folder)) {
            assertThat(next.left()).isEmpty();
        }
        assertThat(kept).as("it may be looked at by people").exists();
    }
}
