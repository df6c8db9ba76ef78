package ablecrate.desktop.session;

import ablecrate.change.Verdict;
import ablecrate.desktop.Background;
import ablecrate.disk.DiskFault;
import ablecrate.json.Json;
import ablecrate.library.FrameReader;
import ablecrate.relink.FormerSession;
import ablecrate.relink.SessionRepair;
import ablecrate.standins.HostSound;
import ablecrate.standins.SessionHost;
import ablecrate.standins.SessionMix;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// Plays a session as it was and as it is now on the stand-in, and says what is left of one without the other. FX thread only.
public final class MixProof {
    /// What is left below this is the same to any ear; in dB below full scale.
    private static final double SAME_DB = -90;

    /// @param verdict absent where nothing was measured
    public record Result(Optional<Verdict> verdict, String text, boolean isRunning) {}

    private final Background background;
    private final ReadOnlyObjectWrapper<Optional<Result>> result = new ReadOnlyObjectWrapper<>(Optional.empty());
    private AtomicBoolean stopped = new AtomicBoolean();

    MixProof(Background background) { this.background = background; }

    public ReadOnlyObjectProperty<Optional<Result>> resultProperty() { return result.getReadOnlyProperty(); }

    public void stop() { stopped.set(true); }

    /// Forgets what was found; a comparison that goes on is stopped.
    void clear() {
        stop();
        result.set(Optional.empty());
    }

    /// @param repair that has been packed
    void compare(SessionRepair repair) {
        clear();
        stopped = new AtomicBoolean();
        AtomicBoolean mine = stopped;
        Consumer<Double> shown = background.newest(share -> {
            if (!mine.get()) say(Optional.empty(), String.format(Locale.ROOT, "Comparing the mixes before and after: %.0f %%", 100 * share), true);
        });
        shown.accept(0.0);
        background.run(() -> difference(repair, shown, mine), left -> {
            if (mine.get() && mine == stopped)
                say(Optional.empty(), "The mixes before and after were not compared to the end.", false);
            else
                left.ifPresent(l -> say(Optional.of(l.peakDb() < SAME_DB ? Verdict.KEPT : Verdict.REDUCED), text(l, repair.worstShiftFrames()), false));
        }, e -> say(Optional.empty(), "The mixes before and after cannot be compared: " + (e instanceof IOException io ? DiskFault.text(io) : e.getMessage()),
                false));
    }

    private void say(Optional<Verdict> verdict, String text, boolean isRunning) { result.set(Optional.of(new Result(verdict, text, isRunning))); }

    private static Optional<SessionMix.Difference> difference(SessionRepair repair, Consumer<Double> shown, AtomicBoolean stopped)
            throws IOException, Json.JsonFault {
        Optional<FormerSession> former = FormerSession.of(repair);
        if (former.isEmpty()) return Optional.empty();
        Path folder = repair.check().folder();
        SessionHost.Opened before = SessionHost.open(former.get().document(), folder, Optional.of(p -> sound(former.get().at(p)))),
                now = SessionHost.open(folder, Optional.of(MixProof::sound));
        return Optional.of(new SessionMix(now).difference(new SessionMix(before), repair.lowestRateHz(), shown::accept, stopped::get));
    }

    private static Optional<HostSound> sound(Path file) throws IOException {
        return FrameReader.open(file).map(r -> HostSound.of(r.file().rateHz(), r.file().channels(), r.file().frames(), r::read));
    }

    private static String text(SessionMix.Difference left, double shiftFrames) {
        String where = shiftFrames > 0
                ? String.format(Locale.ROOT, "clips lie up to %.2f samples from where they lay", shiftFrames)
                : "clips lie exactly where they lay";
        if (Double.isInfinite(left.peakDb())) return "The mixes before and after are the same; " + where + ".";
        return String.format(Locale.ROOT, "The mixes before and after differ by %.1f dBFS at most, %.1f dBFS on average, below %,.0f Hz; %s.", left.peakDb(),
                left.rmsDb(), left.belowHz(), where);
    }
}
