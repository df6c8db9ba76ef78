package ablecrate.format;

import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.format.names.NameFacts;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Zone;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The instruments of one file, or of one folder of sounds, with the samples their zones refer to. No audio is held.
/// @param container the flavour of the format, for people: `SoundFont 2.04`
/// @param about what the file says of itself as a whole
/// @param samples each once, whichever zones of whichever instruments share it
/// @param names how the names of the samples were read, where the map is made of them; empty otherwise
public record InstrumentFile(Path path, long fileBytes, String formatId, String container, About about, List<Instrument> instruments, List<Sample> samples,
        List<NameFacts> names, List<Problem> problems) {
    public InstrumentFile {
        instruments = List.copyOf(instruments);
        samples = List.copyOf(samples);
        names = List.copyOf(names);
        problems = List.copyOf(problems);
        for (Instrument instrument : instruments)
            for (Zone zone : instrument.zones())
                if (zone.sample() >= samples.size()) throw new IllegalArgumentException("sample " + zone.sample() + " of " + samples.size());
    }

    public Optional<SoundFile> sound(int sample) {
        return samples.get(sample) instanceof Sample.Found(_, SoundFile file) ? Optional.of(file) : Optional.empty();
    }

    public int zoneCount() { return instruments.stream().mapToInt(i -> i.zones().size()).sum(); }

    public InstrumentFile withInstruments(List<Instrument> others) {
        return new InstrumentFile(path, fileBytes, formatId, container, about, others, samples, names, problems);
    }

    public InstrumentFile withSamples(List<Sample> others) {
        return new InstrumentFile(path, fileBytes, formatId, container, about, instruments, others, names, problems);
    }

    public InstrumentFile withProblems(List<Problem> more) {
        List<Problem> all = new ArrayList<>(problems);
        all.addAll(more);
        return new InstrumentFile(path, fileBytes, formatId, container, about, instruments, samples, names, all);
    }
}
