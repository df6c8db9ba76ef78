package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.PartChange;
import ablecrate.dsp.FadeShape;
import ablecrate.instrument.Loop;
import ablecrate.option.Fade;
import ablecrate.signal.Ends;
import ablecrate.signal.SourceChain;
import ablecrate.signal.Measurement;
import java.util.List;
import java.util.Optional;

/// Fades at both ends. They stay outside of loops: a loop that fades is none.
record Fades(Ends ends, Optional<PartChange.Faded> change) {
    /// What a fade-in may take from an attack before it is told, and how much of the start counts as one.
    private static final double ATTACK_LOSS_DB = 1;
    private static final int ATTACK_MS = 10;

    /// As slices have them, which begin and end anywhere.
    private static final double CLICKLESS_IN_MS = 1, CLICKLESS_OUT_MS = 3;

    static Fades of(SoundTask task, SourceChain sourceChain, UsedPart part, Optional<Measurement.Survey> survey) {
        long inRoom = sourceChain.frames(), outRoom = sourceChain.frames();
        for (Loop loop : task.target().carriesLoops() ? task.file().metadata().loops() : List.<Loop>of()) {
            FrameRange frames = loop.frames().movedBy(-sourceChain.part().start());
            inRoom = Math.min(inRoom, frames.start() * sourceChain.outputStep() / sourceChain.inputStep());
            outRoom = Math.min(outRoom, sourceChain.frames() - Math.ceilDiv(frames.end() * sourceChain.outputStep(), sourceChain.inputStep()));
        }
        Fade in = in(task, part, survey), out = out(task, part, survey);
        PartChange.FadedEnd start = end(in, inRoom, task.rateHz()), end = end(out, outRoom, task.rateHz());
        return new Fades(new Ends(start.frames(), in.shape(), end.frames(), out.shape()), start.askedFrames() == 0 && end.askedFrames() == 0
                ? Optional.empty()
                : Optional.of(new PartChange.Faded(start, end, task.rateHz())));
    }

    /// What was asked for; otherwise what keeps the start from clicking, up to the attack at most.
    private static Fade in(SoundTask task, UsedPart part, Optional<Measurement.Survey> survey) {
        Fade asked = task.treatment().fadeIn().withMs(task.fadeInMs());
        if (asked.ms() > 0) return asked;
        if (part.preRollFrames() > 0) return new Fade(part.preRollFrames() * 1000.0 / task.file().rateHz(), FadeShape.S);
        boolean isCut = part.frames().start() > 0, steps = isCut ? task.edit().part().isPresent() : survey.filter(Measurement.Survey::startClicks).isPresent();
        return task.treatment().edges().clickless() && steps ? new Fade(CLICKLESS_IN_MS, FadeShape.S) : asked;
    }

    private static Fade out(SoundTask task, UsedPart part, Optional<Measurement.Survey> survey) {
        Fade asked = task.treatment().fadeOut().withMs(task.fadeOutMs());
        boolean isCut = part.frames().end() < task.file().frames(),
                steps = isCut ? task.edit().part().isPresent() : survey.filter(Measurement.Survey::endClicks).isPresent();
        return asked.ms() == 0 && task.treatment().edges().clickless() && steps ? new Fade(CLICKLESS_OUT_MS, FadeShape.S) : asked;
    }

    private static PartChange.FadedEnd end(Fade fade, long room, int rateHz) {
        long asked = Math.round(fade.ms() * rateHz / 1000);
        return new PartChange.FadedEnd(asked, Math.clamp(asked, 0, Math.max(0, room)), fade.shape());
    }

    /// Told where the fade-in takes too much of the attack.
    Optional<PartChange.AttackFaded> attack(SoundTask task, SourceChain sourceChain, Optional<Measurement.Survey> survey) {
        if (ends.fadeInFrames() == 0 || survey.isEmpty()) return Optional.empty();
        double lost = attackLossDb(survey.get().startLevels(), (int) (sourceChain.part().start() * 1000 / task.file().rateHz()),
                ends.fadeInFrames() * 1000.0 / task.rateHz());
        return lost > ATTACK_LOSS_DB ? Optional.of(new PartChange.AttackFaded(lost, ATTACK_MS)) : Optional.empty();
    }

    /// @param levels of the file, millisecond by millisecond, in hundredths of a dB
    private double attackLossDb(List<Integer> levels, int firstMs, double fadeMs) {
        double all = 0, left = 0;
        for (int ms = 0; ms < ATTACK_MS && firstMs + ms < levels.size(); ms++) {
            double gain = ms + 0.5 >= fadeMs ? 1 : ends.fadeInShape().fadeIn((ms + 0.5) / fadeMs), energy = energy(levels.get(firstMs + ms));
            all += energy;
            left += energy * gain * gain;
        }
        return all == 0 ? 0 : left == 0 ? Double.POSITIVE_INFINITY : 10 * Math.log10(all / left);
    }

    private static double energy(int level) { return level == Measurement.Survey.SILENT ? 0 : Math.pow(10, level / 1000.0); }
}
