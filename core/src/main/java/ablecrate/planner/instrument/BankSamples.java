package ablecrate.planner.instrument;

import ablecrate.format.Sample;
import ablecrate.instrument.Instrument;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/// Instruments with samples of their own for each bank of a device that has one in its memory at a time: what two banks share is in both of them, and may become two
/// different things.
record BankSamples(InstrumentTask task, PlainInstruments plain) {
    static BankSamples of(InstrumentTask task, PlainInstruments plain) {
        List<List<Instrument>> banks = task.files(plain.instruments());
        boolean hasMemory = task.options().instruments().limits(task.accepted().sheet()).totalBytes() > 0;
        if (task.areApart() || banks.size() < 2 || !hasMemory) return new BankSamples(task, plain);
        List<Sample> samples = new ArrayList<>(task.file().samples());
        List<Instrument> apart = new ArrayList<>();
        Set<Integer> taken = new HashSet<>();
        for (List<Instrument> bank : banks) {
            Map<Integer, Integer> own = new HashMap<>();
            for (Instrument instrument : bank)
                apart.add(instrument.mapZones(z -> List.of(z.withSample(own.computeIfAbsent(z.sample(), s -> {
                    if (taken.add(s)) return s;
                    samples.add(samples.get(s));
                    return samples.size() - 1;
                })))));
        }
        return new BankSamples(task.with(task.file().withSamples(samples)), new PlainInstruments(apart, plain.changes()));
    }
}
