package ablecrate.fit;

import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;

import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/// How different stacks sound when their samples are kept smaller. In a bank, where presets play the same samples in many ways, those that sound
/// alike are listened to once. Safe for threads.
final class SizeHarms {
    private static final List<Parameter.Area> UNHEARD = List.of(Parameter.Area.CHOICE, Parameter.Area.MODULATION, Parameter.Area.OTHER);
    /// Cutoffs of filters are alike within half an octave.
    private static final double CUTOFFS_PER_OCTAVE = 2;
    /// Gains down from 0 dB are alike within half a step, and below two of them.
    private static final double GAIN_STEP = 3;
    private static final int ROOT = 60, VELOCITY = 100;

    /// What is listened to.
    private record Note(List<Zone> zones, int key, int velocity) {}

    private record Question(Note note, Map<Integer, Size> sizes) {}

    private final Map<Question, Double> answers = new ConcurrentHashMap<>();
    private final boolean isBank;

    SizeHarms(boolean isBank) { this.isBank = isBank; }

    OfStack of(Stack stack, int key, int velocity, Notes notes, SizedSounds sized) {
        Note exact = new Note(stack.alone(), key, velocity);
        return new OfStack(isBank ? alike(exact, sized.mayFold(stack.samples())) : exact, notes, sized);
    }

    /// One stack's sounds; not for two threads.
    final class OfStack {
        private final Note note;
        private final Notes notes;
        private final SizedSounds sized;
        private HeardNote own;

        private OfStack(Note note, Notes notes, SizedSounds sized) {
            this.note = note;
            this.notes = notes;
            this.sized = sized;
        }

        /// @return harm of one note, in dB
        double of(Map<Integer, Size> sizes) {
            Question question = new Question(note, sizes);
            Double known = answers.get(question);
            if (known != null) return known;
            if (own == null) own = notes.heard(note.zones, note.key, note.velocity);
            double harm = own.harm(sized.heard(note.zones, sizes, note.key, note.velocity));
            answers.put(question, harm);
            return harm;
        }
    }

    /// A note that stands for all that differ from it in level, in their place on the keys, in what happens once the key is let go, or little in
    /// brightness: lower rates are heard as much in each of them.
    /// @param mayFold whether the level counts, as a zone that is to make up for sides that become one has to have room for that
    private static Note alike(Note note, boolean mayFold) {
        List<Zone> zones = note.zones.stream().map(SizeHarms::held).toList();
        if (zones.size() > 1) return new Note(zones, note.key, note.velocity);
        Zone zone = zones.getFirst();
        double cutoff = zone.get(Parameter.CUTOFF) * Math.pow(2, zone.get(Parameter.FILTER_VELOCITY) * note.velocity / 127.0 / 1200);
        Zone plain = zone.without(Parameter.Area.MAP).without(Parameter.Area.LEVEL).without(Parameter.FILTER_VELOCITY).with(Parameter.ROOT_KEY, ROOT);
        Zone level = mayFold ? plain.with(Parameter.GAIN, GAIN_STEP * Math.rint(Math.clamp(zone.get(Parameter.GAIN), -2 * GAIN_STEP, 0) / GAIN_STEP)) : plain;
        Zone filtered = zone.get(Parameter.FILTER) == FilterKind.NONE ? level.without(Parameter.Area.FILTER) : level.with(Parameter.CUTOFF, nearest(cutoff));
        return new Note(List.of(filtered), Math.clamp(ROOT + note.key - zone.get(Parameter.ROOT_KEY), 0, 127), VELOCITY);
    }

    private static Zone held(Zone zone) {
        Zone out = zone.without(Parameter.RELEASE).without(Parameter.FILTER_RELEASE);
        for (Parameter.Area area : UNHEARD)
            out = out.without(area);
        return out;
    }

    private static double nearest(double cutoffHz) {
        double octaves = Math.log(cutoffHz) / Math.log(2);
        return Math.clamp(Math.pow(2, Math.rint(CUTOFFS_PER_OCTAVE * octaves) / CUTOFFS_PER_OCTAVE), 1, 100_000);
    }
}
