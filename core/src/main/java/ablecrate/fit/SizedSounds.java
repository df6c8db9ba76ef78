package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Zones that play samples in other sizes: made of the audio as it would be written.
final class SizedSounds {
    private record Cut(int sample, Size size, Optional<Loop> loop) {}

    private final FitTask task;
    private final Map<Integer, LoadedSound> whole;
    private final SoundPath path;
    private final Map<Integer, LoadedSound> loaded = new HashMap<>();
    private final Map<Cut, FitSound.Sized> made = new HashMap<>();
    private final Map<Cut, Integer> numbers = new HashMap<>();
    private final Map<Integer, Fold> folds = new HashMap<>();

    SizedSounds(FitTask task, Map<Integer, LoadedSound> whole, SoundPath path) {
        this.task = task;
        this.whole = whole;
        this.path = path;
        loaded.putAll(whole);
    }

    HeardNote heard(List<Zone> zones, Map<Integer, Size> sizes, int key, int velocity) throws IOException {
        List<Zone> moved = moved(zones, sizes);
        return new Notes(loaded).heard(moved, key, velocity);
    }

    boolean mayFold(Set<Integer> samples) {
        return task.takesMono() && task.may(FitStep.Kind.MONO)
                && samples.stream().anyMatch(s -> task.sounds().get(s).filter(f -> f.channels() == 2).isPresent());
    }

    /// Of a stereo sample.
    Fold fold(int sample) { return folds.computeIfAbsent(sample, s -> Fold.of(whole.get(s))); }

    Harm harm(NoteSet measured, Instrument instrument, Map<Integer, Size> sizes) throws IOException {
        List<Zone> moved = moved(instrument.zones(), sizes);
        Instrument played = CountFitter.of(instrument, List.of(List.of(new Stack(Stack.ALL, Stack.ALL, moved))));
        return measured.harm(played, new Notes(loaded));
    }

    private List<Zone> moved(List<Zone> zones, Map<Integer, Size> sizes) throws IOException {
        List<Zone> out = new ArrayList<>();
        for (Zone zone : zones) {
            Optional<FitSound> sound = task.sounds().get(zone.sample());
            Size size = sizes.get(zone.sample());
            boolean isWhole = sound.isEmpty() || !whole.containsKey(zone.sample()) || size == null
                    || sound.get().found().isEmpty() && size.equals(new Size(sound.get().file().rateHz(), false, sound.get().file().frames()));
            out.add(isWhole ? zone : moved(zone, sound.get(), size));
        }
        return out;
    }

    private Zone moved(Zone zone, FitSound sound, Size size) throws IOException {
        Cut cut = new Cut(zone.sample(), size, FitSound.ruling(zone, sound.file()));
        FitSound.Sized sized = made.get(cut);
        if (sized == null) {
            sized = sound.load(size, path, cut.loop());
            made.put(cut, sized);
            numbers.put(cut, 1_000_000 + numbers.size());
            loaded.put(numbers.get(cut), sized.sound());
        }
        Zone moved = sized.moved(zone).withSample(numbers.get(cut));
        return sound.isFoldedIn(size) ? fold(zone.sample()).asLoud(moved, task.format().mostGainDb()) : moved;
    }
}
