package ablecrate.desktop.asking;

import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.job.Job;
import ablecrate.job.Recovery;
import java.nio.file.Path;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.util.Duration;

/// Keeps the job on the disk a moment after each change, until it is saved.
public final class KeptWork {
    private static final Duration CALM = Duration.millis(500);

    private final CrateModel crate;
    private final Background background;
    private final Recovery recovery;
    private final PauseTransition calm = new PauseTransition(CALM);
    private boolean hasTold;

    public KeptWork(CrateModel crate, Background background, Recovery recovery) {
        this.crate = crate;
        this.background = background;
        this.recovery = recovery;
        calm.setOnFinished(_ -> keep());
        crate.jobProperty().subscribe(_ -> calm.playFromStart());
        crate.unsavedProperty().subscribe(_ -> calm.playFromStart());
    }

    private void keep() {
        Job job = crate.job();
        Optional<Path> file = crate.fileProperty().get();
        boolean isUnsaved = crate.unsavedProperty().get() && !job.sources().isEmpty();
        background.run(() -> {
            if (isUnsaved)
                recovery.keep(job, file);
            else
                recovery.forget();
            return true;
        }, _ -> hasTold = false, e -> {
            // Once, not at every step.
            if (!hasTold) crate.fail("what is unsaved cannot be kept for a crash: " + e.getMessage());
            hasTold = true;
        });
    }
}
