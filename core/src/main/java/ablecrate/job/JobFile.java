package ablecrate.job;

import ablecrate.audio.FrameRange;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NameReading;
import ablecrate.json.InstrumentJson;
import ablecrate.json.Json;
import ablecrate.option.ItemEdit;
import ablecrate.option.LoopEdit;
import ablecrate.option.MonoLaw;
import ablecrate.option.OptionConflict;
import ablecrate.option.OptionValues;
import ablecrate.option.OwnTreatment;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;

/// A job as a file, `.ablecrate`: JSON with the keys below.
/// @param options by their ids, see [OptionValues]
/// @param also further destinations; absent where there is one
record JobFile(int version, List<String> sources, List<String> removed, String destination, Map<String, Object> options, Optional<List<EditEntry>> edits,
        Optional<String> into, Optional<List<DeliveryEntry>> also) {
    /// A destination, with the keys that the first one has.
    record DeliveryEntry(String destination, Map<String, Object> options, Optional<String> into) {
        static DeliveryEntry of(Delivery d, JobPaths paths) {
            return new DeliveryEntry(paths.sheetText(d.destination()), OptionValues.of(d.options()), d.into().map(paths::text));
        }

        Delivery delivery(JobPaths paths) throws OptionConflict {
            return new Delivery(paths.sheet(destination), OptionValues.options(options == null ? Map.of() : options), into.map(paths::path));
        }
    }

    /// What is said about names.
    /// @param parts meanings by the numbers of the parts, negative ones from the end
    record NamesEntry(Map<Integer, String> parts, Optional<Integer> shiftKeys) {
        static Optional<NamesEntry> of(NameReading r) {
            if (r.equals(NameReading.FOUND)) return Optional.empty();
            Map<Integer, String> parts = new TreeMap<>();
            r.parts().forEach((place, meaning) -> parts.put(place, meaning.id()));
            return Optional.of(new NamesEntry(parts, r.shiftKeys().stream().boxed().findFirst()));
        }

        NameReading reading() {
            Map<Integer, NamePart> meanings = new TreeMap<>();
            parts.forEach((place, meaning) -> meanings.put(place, NamePart.byId(meaning).orElseThrow()));
            return new NameReading(meanings, shiftKeys.map(OptionalInt::of).orElse(OptionalInt.empty()));
        }
    }

    /// One file that is treated otherwise; absent keys are as for all.
    /// @param bytes its length, by which it is found again where it was moved; absent where it was not there
    record EditEntry(String file, Optional<Long> bytes, Optional<Long> partStartFrame, Optional<Long> partEndFrame, Optional<Double> fadeInMs,
            Optional<Double> fadeOutMs,
            Optional<Double> loopCrossfadeMs, Optional<Double> loopRiseDb, Optional<List<JsonNode>> loops, Optional<Map<String, Object>> treatment,
            Optional<String> monoLaw,
            Optional<String> group,
            Optional<NamesEntry> names,
            Optional<List<InstrumentJson.InstrumentEntry>> map,
            Optional<List<String>> added) {
        static EditEntry of(Path file, ItemEdit e, JobPaths paths) {
            return new EditEntry(paths.text(file), length(file), e.part().map(FrameRange::start), e.part().map(FrameRange::end), e.fadeInMs(), e.fadeOutMs(),
                    e.loop().crossfadeMs(), e.loop().riseDb(), e.loop().loops().map(l -> l.stream().map(InstrumentJson::node).toList()),
                    e.own().isNone() ? Optional.empty() : Optional.of(OptionValues.of(e.own())),
                    e.monoLaw().map(MonoLaw::id), e.group(), e.names().flatMap(NamesEntry::of),
                    e.map().map(m -> m.stream().map(InstrumentJson::entry).toList()),
                    e.added().isEmpty() ? Optional.empty() : Optional.of(e.added().stream().map(paths::text).toList()));
        }

        private static Optional<Long> length(Path file) {
            try {
                return Optional.of(Files.size(file));
            } catch (IOException e) {
                return Optional.empty();
            }
        }

        ItemEdit edit(JobPaths paths) throws OptionConflict {
            OwnTreatment own = treatment.isPresent() ? OptionValues.own(treatment.get()) : OwnTreatment.NONE;
            return new ItemEdit(partStartFrame.map(start -> new FrameRange(start, partEndFrame.orElseThrow())), fadeInMs, fadeOutMs,
                    new LoopEdit(loops.map(l -> l.stream().map(InstrumentJson::loop).toList()), loopCrossfadeMs, loopRiseDb), own, monoLaw.map(JobFile::law),
                    group,
                    names.map(NamesEntry::reading), map.map(m -> m.stream().map(InstrumentJson::instrument).toList()),
                    added.orElse(List.of()).stream().map(paths::path).toList());
        }
    }

    private static MonoLaw law(String id) { return MonoLaw.valueOf(id.toUpperCase(Locale.ROOT)); }

    private static final int VERSION = 2;

    static JobFile of(Job job, JobPaths paths) {
        List<DeliveryEntry> all = job.deliveries().stream().map(d -> DeliveryEntry.of(d, paths)).toList();
        DeliveryEntry first = all.getFirst();
        return new JobFile(VERSION, job.sources().stream().map(paths::text).toList(), new TreeSet<>(job.removed()).stream().map(paths::text).toList(),
                first.destination(), first.options(),
                Optional.of(new TreeMap<>(job.edits()).entrySet().stream().map(e -> EditEntry.of(e.getKey(), e.getValue(), paths)).toList()),
                first.into(), all.size() == 1 ? Optional.empty() : Optional.of(all.subList(1, all.size())));
    }

    /// @param name for messages
    Job job(String name, JobPaths paths) throws Json.JsonFault {
        if (version != VERSION) throw new Json.JsonFault(name + ": made by another version (" + version + "); this one reads version " + VERSION);
        try {
            Map<Path, ItemEdit> read = new HashMap<>();
            for (EditEntry e : edits.orElse(List.of()))
                read.put(paths.path(e.file()), e.edit(paths));
            List<Delivery> deliveries = new ArrayList<>();
            deliveries.add(new DeliveryEntry(destination, options, into).delivery(paths));
            for (DeliveryEntry entry : also.orElse(List.of()))
                deliveries.add(entry.delivery(paths));
            return new Job(sources.stream().map(paths::path).toList(), removed.stream().map(paths::path).collect(Collectors.toSet()), read, deliveries, 0);
        } catch (OptionConflict | RuntimeException e) {
            throw new Json.JsonFault(name + ": a key is missing or has a value that is none of this program's (" + e.getMessage() + ")");
        }
    }

    /// Lengths of the files that are treated otherwise, as they were when the job was saved.
    Map<Path, Long> lengths(JobPaths paths) {
        Map<Path, Long> lengths = new HashMap<>();
        for (EditEntry e : edits.orElse(List.of()))
            if (e.bytes() != null) e.bytes().ifPresent(b -> lengths.put(paths.path(e.file()), b));
        return lengths;
    }
}
