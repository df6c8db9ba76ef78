package ablecrate.fit;

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

    private record Cut(int sample, Size size, Optional<Loop> loop) {}

    private final FitTask task;
    private final Voices.Sounds whole, sounds;
    /// What there is besides whole samples; its sample numbers begin at [#FIRST].
    private final List<FitSound.Sized> made = new ArrayList<>();
    private final Map<Cut, Integer> numbers = new HashMap<>();
    private final Map<Integer, Fold> folds = new ConcurrentHashMap<>();

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
        List<Zone> moved = moved(instrument.zones(), sizes);
        Instrument played = CountFitter.of(instrument, List.of(List.of(new Stack(Stack.ALL, Stack.ALL, moved))));
        return measured.harm(played, new Notes(sounds, task.format()));
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
