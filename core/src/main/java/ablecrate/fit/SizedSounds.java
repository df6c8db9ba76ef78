package ablecrate.fit;

import ablecrate.audio.Depth;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Zone;
import ablecrate.play.KeptSounds;
import ablecrate.play.Voices;
import ablecrate.signal.SoundPath;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/// Zones that play samples in other sizes: made of the audio as it would be written. Safe for threads.
final class SizedSounds {
    private static final int FIRST = 1 << 24;
    /// A sound whose peak is higher, in steps of its depth, covers the noise of its dither: half a step is 72 dB below it, in the bands where it counts most
    /// some 5 dB less, and what is 60 dB below the loudest band counts as nothing.
    private static final double QUIET_STEPS = 2048;

    private record Cut(int sample, Size size, Optional<Loop> loop) {}

    private final FitTask task;
    private final Voices.Sounds whole, sounds;
    /// What there is besides whole samples; its sample numbers begin at [#FIRST].
    private final List<FitSound.Sized> made = new ArrayList<>();
    private final Map<Cut, Integer> numbers = new HashMap<>();
    private final Map<Integer, Fold> folds = new ConcurrentHashMap<>();
    private final Map<Integer, Double> peaks = new ConcurrentHashMap<>();

    /// @param whole samples by number, as the source has them
    SizedSounds(FitTask task, Voices.Sounds whole, KeptSounds kept, SoundPath path) {
        this.task = task;
        this.whole = whole;
        Voices.Sounds sized = kept.of(n -> Optional.of(() -> made(n).load(path)));
        sounds = n -> n < FIRST ? whole.sound(n) : sized.sound(n - FIRST);
    }

    HeardNote heard(Alike.Note note, Map<Integer, Size> sizes) {
        return new Notes(sounds, task.format()).heard(moved(note.zones(), sizes), note.key(), note.velocity());
    }

    /// While the key is held.
    HeardNote held(Alike.Note note, Map<Integer, Size> sizes) {
        return new Notes(sounds, task.format()).held(moved(note.zones(), sizes), note.key(), note.velocity());
    }

    boolean mayFold(Set<Integer> samples) {
        return task.takesMono() && task.may(FitStep.Kind.MONO)
                && samples.stream().anyMatch(s -> task.sounds().get(s).filter(f -> f.channels() == 2).isPresent());
    }

    /// Of a stereo sample.
    Fold fold(int sample) { return folds.computeIfAbsent(sample, s -> Fold.of(whole.sound(s).orElseThrow())); }

    Harm harm(NoteSet measured, Instrument instrument, Map<Integer, Size> sizes) {
        List<Zone> moved = moved(instrument.zones(), rounded(instrument, sizes));
        Instrument played = CountFitter.of(instrument, List.of(List.of(new Stack(Stack.ALL, Stack.ALL, moved))));
        return measured.harm(played, new Notes(sounds, task.format()));
    }

    /// Sounds so quiet that it is heard how they are rounded, in the depth in which they are written whatever the memory.
    private Map<Integer, Size> rounded(Instrument instrument, Map<Integer, Size> sizes) {
        Map<Integer, Size> out = new HashMap<>(sizes);
        for (int sample : FitTask.samples(instrument)) {
            FitSound sound = task.sounds().get(sample).orElse(null);
            if (sound == null || !sound.isRounded() || !isQuiet(sample, sound.depths().getFirst())) continue;
            Size size = sizes.getOrDefault(sample, sound.whole());
            if (size.depth().isEmpty()) out.put(sample, size.in(Optional.of(sound.depths().getFirst())));
        }
        return out;
    }

    private boolean isQuiet(int sample, Depth depth) {
        return peaks.computeIfAbsent(sample, s -> whole.sound(s).orElseThrow().peak()) < Math.scalb(QUIET_STEPS, 1 - depth.bits());
    }

    private List<Zone> moved(List<Zone> zones, Map<Integer, Size> sizes) {
        List<Zone> out = new ArrayList<>();
        for (Zone zone : zones) {
            Optional<FitSound> sound = task.sounds().get(zone.sample());
            Size size = sizes.get(zone.sample());
            boolean isWhole = sound.isEmpty() || size == null
                    || sound.get().found().isEmpty()
                            && size.equals(new Size(sound.get().file().rateHz(), Optional.empty(), false, sound.get().file().frames()));
            out.add(isWhole ? zone : moved(zone, sound.get(), size));
        }
        return out;
    }

    private synchronized int number(Cut cut, FitSound sound) {
        return numbers.computeIfAbsent(cut, c -> {
            made.add(sound.sized(c.size(), c.loop()));
            return made.size() - 1;
        });
    }

    private synchronized FitSound.Sized made(int number) { return made.get(number); }

    private Zone moved(Zone zone, FitSound sound, Size size) {
        Cut cut = new Cut(zone.sample(), size, FitSound.ruling(zone, sound.file()));
        int number = number(cut, sound);
        Zone moved = made(number).moved(zone).withSample(FIRST + number);
        return sound.isFoldedIn(size) ? fold(zone.sample()).asLoud(moved, task.format().mostGainDb()) : moved;
    }
}
