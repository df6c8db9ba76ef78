package ablecrate.fit;

import ablecrate.codec.SoundFile;
import ablecrate.instrument.Parameter;
import ablecrate.json.InstrumentJson;
import ablecrate.json.Json;
import ablecrate.library.Catalogue;
import com.dynatrace.hash4j.hashing.Hashing;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// A fit as the catalogue keeps it: that of a bank takes a minute to find.
/// @param task the hash of what it is a fit of
/// @param instruments in the order of the task
record KeptFit(String task, List<Entry> instruments, Map<Integer, Size> sizes, long bytesBefore, long bytes, List<Fit.Point> curve) {
    /// Raised when the same task is fitted otherwise: what was kept before is forgotten.
    private static final int REVISION = 5;

    /// @see Fit.Fitted
    record Entry(InstrumentJson.InstrumentEntry after, Need needed, Need need, Harm harm, List<FitStep> steps, Map<String, Double> simpleDb, String lacking,
            List<InstrumentJson.InstrumentEntry> parts) {
        static Entry of(Fit.Fitted f) {
            return new Entry(InstrumentJson.entry(f.after()), f.needed(), f.need(), f.harm(), f.steps(), f.simpleDb(), f.lacking(),
                    f.parts().stream().map(InstrumentJson::entry).toList());
        }
    }

    static String write(Fit fit, String task) {
        return Json.write(new KeptFit(task, fit.instruments().stream().map(Entry::of).toList(), fit.sizes(), fit.bytesBefore(), fit.bytes(), fit.curve()));
    }

    /// @param hash of the task
    /// @return empty where it is a fit of something else, or was written otherwise
    static Optional<Fit> read(String text, String hash, FitTask task) {
        try {
            KeptFit kept = Json.read(text, KeptFit.class, "catalogue");
            return kept.task.equals(hash) && kept.instruments.size() == task.instruments().size() ? Optional.of(kept.fit(task)) : Optional.empty();
        } catch (Json.JsonFault | IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private Fit fit(FitTask of) {
        List<Fit.Fitted> all = IntStream.range(0, instruments.size()).mapToObj(i -> {
            Entry e = instruments.get(i);
            return new Fit.Fitted(of.instruments().get(i), InstrumentJson.instrument(e.after), e.needed, e.need, e.harm, e.steps, e.simpleDb, e.lacking,
                    e.parts.stream().map(InstrumentJson::instrument).toList());
        }).toList();
        return new Fit(all, sizes, bytesBefore, bytes, curve);
    }

    /// Of all that a fit depends on: the instruments, the files of their sounds as they are now, and what may be done.
    /// @return empty where a sound is made of several, or a file is gone
    static Optional<String> hash(FitTask task) {
        StringBuilder all = new StringBuilder().append(REVISION);
        Stream.concat(task.instruments().stream(), task.sources().stream()).forEach(i -> all.append(Json.write(InstrumentJson.entry(i))));
        FitTask.Format format = task.format();
        List<Object> rest = List.of(task.limits(), task.ratesHz(), task.takesMono(), format.carried().stream().map(Parameter::label).sorted().toList(),
                format.mostGainDb(), format.mostZones(), format.hasSampleEach(), format.hasSidesApart(), format.instrumentsPerFile(),
                task.rules().forbidden().stream().sorted().toList(),
                task.rules().roots().stream().sorted().toList(), task.rules().velocities().stream().sorted().toList());
        all.append(rest);
        try {
            for (Optional<FitSound> sound : task.sounds()) {
                if (sound.filter(s -> s.file().isJoined()).isPresent()) return Optional.empty();
                all.append('\n');
                if (sound.isPresent()) all.append(text(sound.get()));
            }
        } catch (IOException gone) {
            return Optional.empty();
        }
        return Optional.of(Hashing.xxh3_128().hashCharsTo128Bits(all).toString());
    }

    private static List<Object> text(FitSound s) throws IOException {
        StringBuilder files = new StringBuilder(s.file().audio().within());
        for (SoundFile file : s.file().files()) {
            Catalogue.Identity now = Catalogue.Identity.of(file.path());
            files.append(
                    List.of(file.path().getFileName(), now.bytes(), now.changedMs(), file.audio().within(), file.rateHz(), file.channels(), file.frames()));
        }
        return List.of(files, s.rateHz(), s.channels(), s.depths(), s.taken().sustain(), s.taken().modes().stream().sorted().toList(),
                s.taken().frames(), s.found(), s.loops());
    }
}
