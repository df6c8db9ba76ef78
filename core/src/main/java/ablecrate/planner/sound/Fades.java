package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.AudioChange;
import ablecrate.instrument.Loop;
import ablecrate.option.Fade;
import ablecrate.signal.Ends;
import ablecrate.signal.SourceChain;
import ablecrate.signal.Measurement;
import java.util.List;
import java.util.Optional;

/// Fades at both ends. They stay outside of loops: a loop that fades is none.
record Fades(Ends ends, Optional<AudioChange.Faded> change) {
    /// What a fade-in may take from an attack before it is told, and how much of the start counts as one.
    private static final double ATTACK_LOSS_DB = 1;
    private static final int ATTACK_MS = 10;

    static Fades of(SoundTask task, SourceChain sourceChain) {
        long inRoom = sourceChain.frames(), outRoom = sourceChain.frames();
        for (Loop loop : task.target().carriesLoops() ? task.file().metadata().loops() : List.<Loop>of()) {
            FrameRange frames = loop.frames().movedBy(-sourceChain.part().start());
            inRoom = Math.min(inRoom, frames.start() * sourceChain.outputStep() / sourceChain.inputStep());
            outRoom = Math.min(outRoom, sourceChain.frames() - Math.ceilDiv(frames.end() * sourceChain.outputStep(), sourceChain.inputStep()));
        }
        Fade in = task.treatment().fadeIn(), out = task.treatment().fadeOut();
        AudioChange.FadedEnd start = end(task.fadeInMs(), in, inRoom, task.rateHz()), end = end(task.fadeOutMs(), out, outRoom, task.rateHz());
        return new Fades(new Ends(start.frames(), in.shape(), end.frames(), out.shape()), start.askedFrames() == 0 && end.askedFrames() == 0
                ? Optional.empty()
                : Optional.of(new AudioChange.Faded(start, end, task.rateHz())));
    }

    private static AudioChange.FadedEnd end(double ms, Fade fade, long room, int rateHz) {
        long asked = Math.round(ms * rateHz / 1000);
        return new AudioChange.FadedEnd(asked, Math.clamp(asked, 0, Math.max(0, room)), fade.shape());
    }

    /// Told where the fade-in takes too much of the attack.
    Optional<AudioChange.AttackFaded> attack(SoundTask task, SourceChain sourceChain, Optional<Measurement.Survey> survey) {
        if (ends.fadeInFrames() == 0 || survey.isEmpty()) return Optional.empty();
        double lost = attackLossDb(survey.get().onset(), (int) (sourceChain.part().start() * 1000 / task.file().rateHz()),
                ends.fadeInFrames() * 1000.0 / task.rateHz());
        return lost > ATTACK_LOSS_DB ? Optional.of(new AudioChange.AttackFaded(lost, ATTACK_MS)) : Optional.empty();
    }

    /// @param onset energy of the file, millisecond by millisecond
    private double attackLossDb(List<Double> onset, int firstMs, double fadeMs) {
        double all = 0, left = 0;
        for (int ms = 0; ms < ATTACK_MS && firstMs + ms < onset.size(); ms++) {
            double gain = ms + 0.5 >= fadeMs ? 1 : ends.fadeInShape().fadeIn((ms + 0.5) / fadeMs), energy = onset.get(firstMs + ms);
            all += energy;
            left += energy * gain * gain;
        }
        return all == 0 ? 0 : left == 0 ? Double.POSITIVE_INFINITY : 10 * Math.log10(all / left);
    }
}
