package ablecrate.fit;

import ablecrate.instrument.Parameter;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/// How different stacks sound when their samples are kept smaller. In a bank, where presets play the same samples in many ways, those that sound
/// alike are listened to once. Safe for threads.
final class SizeHarms {
    /// Gains down from 0 dB are alike within half a step, and below two of them.
    private static final double GAIN_STEP = 3;

    private record Question(Alike.Note note, Map<Integer, Size> sizes) {}

    private final Map<Question, Double> answers = new ConcurrentHashMap<>();
    private final Map<Alike.Note, HeardNote> whole = new ConcurrentHashMap<>();
    private final boolean isBank;

    SizeHarms(boolean isBank) { this.isBank = isBank; }

    OfStack of(Stack stack, int key, int velocity, Notes notes, SizedSounds sized) {
        Alike.Note exact = new Alike.Note(stack.alone(), key, velocity);
        return new OfStack(isBank ? alike(exact, sized.mayFold(stack.samples())) : exact, notes, sized);
    }

    /// One stack's sounds.
    final class OfStack {
        private final Alike.Note note;
        private final Notes notes;
        private final SizedSounds sized;

        private OfStack(Alike.Note note, Notes notes, SizedSounds sized) {
            this.note = note;
            this.notes = notes;
            this.sized = sized;
        }

        /// @return harm of one note, in dB
        double of(Map<Integer, Size> sizes) {
            Question question = new Question(note, sizes);
            Double known = answers.get(question);
            if (known != null) return known;
            double harm = isBank ? own().heldHarm(sized.held(note, sizes), 0, HeardNote.NOTHING) : own().harm(sized.heard(note, sizes));
            answers.put(question, harm);
            return harm;
        }

        private HeardNote own() {
            HeardNote known = whole.get(note);
            if (known != null) return known;
            HeardNote heard = isBank ? notes.held(note.zones(), note.key(), note.velocity()) : notes.heard(note.zones(), note.key(), note.velocity());
            whole.put(note, heard);
            return heard;
        }
    }

    /// A note that stands for all that lose as much by lower rates, shorter tails and one side.
    /// @param mayFold whether the level counts, as a zone that is to make up for sides that become one has to have room for that
    private static Alike.Note alike(Alike.Note exact, boolean mayFold) {
        Alike.Note note = Alike.of(exact.zones(), exact.key(), exact.velocity(), true).note();
        double gain = mayFold ? GAIN_STEP * Math.rint(Math.clamp(exact.zones().getFirst().get(Parameter.GAIN), -2 * GAIN_STEP, 0) / GAIN_STEP) : 0;
        boolean isOne = note.zones().size() == 1;
        return new Alike.Note(note.zones().stream().map(z -> isOne ? z.without(Parameter.PAN) : z)
                .map(z -> z.with(Parameter.GAIN, Parameter.GAIN.nearest(z.get(Parameter.GAIN) + gain))).toList(), note.key(), note.velocity());
    }
}
