package ablecrate.fit;

import ablecrate.instrument.Instrument;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// What was done for the sake of memory, kind by kind, each with what it saves and what it costs beside those before it.
record MemorySteps(FitTask task, Instrument before, MemoryFitter.Made made, SizedSounds sized, NoteSet measured) {
    private interface Change {
        Size of(Size size, Size whole);
    }

    List<FitStep> steps(double harmBefore) {
        List<FitStep> out = new ArrayList<>();
        Map<Integer, Size> now = new HashMap<>();
        double harm = harmBefore;
        long bytes = task.bytes(before);
        int releases = CountFitter.releases(before), releasesLeft = CountFitter.releases(made.instrument());
        Instrument unreleased = releasesLeft < releases ? CountFitter.withReleasesOf(before, made.instrument()) : before;
        if (unreleased != before) {
            double next = sized.harm(measured, unreleased, Map.of()).meanDb();
            long left = task.bytes(unreleased);
            out.add(new FitStep(FitStep.Kind.RELEASES, releases, releasesLeft, bytes - left, next - harm));
            harm = next;
            bytes = left;
        }
        if (FitTask.samples(made.instrument()).size() < FitTask.samples(unreleased).size()) {
            double next = sized.harm(measured, made.instrument(), Map.of()).meanDb();
            long left = task.bytes(made.instrument());
            out.add(new FitStep(FitStep.Kind.ROOTS, FitTask.samples(unreleased).size(), FitTask.samples(made.instrument()).size(), bytes - left, next - harm));
            harm = next;
            bytes = left;
        }
        Map<FitStep.Kind, Change> kinds = new EnumMap<>(FitStep.Kind.class);
        kinds.put(FitStep.Kind.DEPTH, (size, target) -> size.in(target.depth()));
        kinds.put(FitStep.Kind.RATE, (size, target) -> size.atMost(target.rateHz()));
        kinds.put(FitStep.Kind.MONO, (size, target) -> target.isFolded() ? size.folded() : size);
        kinds.put(FitStep.Kind.TAILS, (size, target) -> size.until(target.frames()));
        for (Map.Entry<FitStep.Kind, Change> kind : kinds.entrySet()) {
            int changed = 0;
            for (int sample : FitTask.samples(made.instrument())) {
                Size target = made.sizes().get(sample);
                Optional<FitSound> sound = task.sounds().get(sample);
                if (target == null || sound.isEmpty()) continue;
                Size size = now.getOrDefault(sample, sound.get().whole()), next = kind.getValue().of(size, target);
                if (!next.equals(size)) changed++;
                now.put(sample, next);
            }
            if (changed == 0) continue;
            double next = sized.harm(measured, made.instrument(), now).meanDb();
            long left = task.bytes(List.of(made.instrument()), now);
            out.add(new FitStep(kind.getKey(), FitTask.samples(made.instrument()).size(), changed, bytes - left, next - harm));
            harm = next;
            bytes = left;
        }
        return out;
    }
}
