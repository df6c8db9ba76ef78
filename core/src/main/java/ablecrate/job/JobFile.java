package ablecrate.job;

import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NameReading;
import ablecrate.json.Json;
import ablecrate.option.Banks;
import ablecrate.option.CeilingBy;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.option.FactsChoice;
import ablecrate.option.Fade;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.ItemEdit;
import ablecrate.option.KeyGaps;
import ablecrate.option.Kits;
import ablecrate.option.KitLayout;
import ablecrate.option.LevelTarget;
import ablecrate.option.Limits;
import ablecrate.option.MapBy;
import ablecrate.option.Mending;
import ablecrate.option.MonoLaw;
import ablecrate.option.Overs;
import ablecrate.option.PackOptions;
import ablecrate.option.PadOrder;
import ablecrate.option.Placing;
import ablecrate.option.Treatment;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;

/// A job as a file, `.ablecrate`: JSON with the keys below. Choices are `destination`, `keep` or a value.
record JobFile(int version, List<String> sources, List<String> removed, String destination, String container, String rateHz, String depth,
        Optional<String> channels, String monoLaw, String dither, Optional<String> namePattern, String existing, Optional<Boolean> verify,
        Optional<Boolean> mirror, Optional<KitsEntry> kits,
        Optional<TreatmentEntry> treatment, Optional<InstrumentsEntry> instruments, Optional<CompressedEntry> compressed, Optional<FactsEntry> facts,
        Optional<List<EditEntry>> edits,
        Optional<String> into) {
    /// Keys of `kits`; absent where nothing is said of them.
    /// @param pads patterns of names by the pads' numbers
    record KitsEntry(Optional<Integer> first, List<String> names, String order, Map<Integer, String> pads) {
        static Optional<KitsEntry> of(Kits k) {
            return k.equals(Kits.USUAL)
                    ? Optional.empty()
                    : Optional.of(new KitsEntry(k.first().stream().boxed().findFirst(), k.names(), k.order().id(), k.pads()));
        }

        Kits kits() {
            return new Kits(first.map(OptionalInt::of).orElse(OptionalInt.empty()), names, PadOrder.byId(order).orElseThrow(), pads);
        }
    }

    /// Keys of `treatment`; absent in files of a program that had none.
    record TreatmentEntry(Optional<String> measure, Optional<Double> level, boolean together, Optional<Double> ceilingDbtp, String ceilingBy, double fadeInMs,
            String fadeInShape, double fadeOutMs, String fadeOutShape, Optional<Double> trimDbfs, boolean removeOffset, double loopCrossfadeMs,
            Optional<Double> mostLimitingDb, Optional<String> overs) {
        static TreatmentEntry of(Treatment t) {
            return new TreatmentEntry(t.level().map(l -> l.measure().id()), t.level().map(LevelTarget::value), t.together(), t.ceilingDbtp(),
                    t.ceilingBy().id(),
                    t.fadeIn().ms(), t.fadeIn().shape().id(), t.fadeOut().ms(), t.fadeOut().shape().id(), t.trimDbfs(), t.removesOffset(), t.loopCrossfadeMs(),
                    Optional.of(t.limits().mostLimitingDb()), Optional.of(t.limits().overs().id()));
        }

        Treatment treatment() {
            Optional<LevelTarget> target = measure.map(m -> new LevelTarget(LevelMeasure.byId(m).orElseThrow(), level.orElseThrow()));
            Limits limits = new Limits(ceilingDbtp, CeilingBy.byId(ceilingBy).orElseThrow(), mostLimitingDb.orElse(Limits.USUAL_LIMITING_DB),
                    overs.map(o -> Overs.byId(o).orElseThrow()).orElse(Overs.LIMIT));
            return new Treatment(target, together, limits,
                    new Fade(fadeInMs, FadeShape.byId(fadeInShape).orElseThrow()),
                    new Fade(fadeOutMs, FadeShape.byId(fadeOutShape).orElseThrow()), trimDbfs, removeOffset, loopCrossfadeMs);
        }
    }

    /// Keys of `instruments`; absent in files of a program that had none.
    record InstrumentsEntry(String mapBy, Optional<NamesEntry> names, Optional<String> gaps, int startKey, Optional<Integer> kitStep,
            Optional<Boolean> kitOfAll,
            boolean oneBank, Optional<Boolean> bankEach,
            boolean playingDefaults, List<String> only) {
        static InstrumentsEntry of(InstrumentOptions o) {
            return new InstrumentsEntry(o.mapBy().id(), NamesEntry.of(o.names()), Optional.of(o.gaps().id()), o.kit().startKey(),
                    Optional.of(o.kit().stepKeys()), Optional.of(o.kit().isOfAll()), o.banks() == Banks.ONE,
                    Optional.of(o.banks() == Banks.EACH), o.playingDefaults(), o.only());
        }

        InstrumentOptions options() {
            return new InstrumentOptions(MapBy.valueOf(mapBy.toUpperCase(Locale.ROOT)), names.map(NamesEntry::reading).orElse(NameReading.FOUND),
                    gaps.map(g -> KeyGaps.byId(g).orElseThrow()).orElse(KeyGaps.HALF), new KitLayout(startKey, kitStep.orElse(1), kitOfAll.orElse(false)),
                    oneBank ? Banks.ONE : bankEach.orElse(false) ? Banks.EACH : Banks.AS_SOURCE, playingDefaults, only);
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

    /// Keys of `facts`: which are written into sound files; absent in files of a program that wrote all.
    record FactsEntry(boolean loops, boolean mapping, boolean cues, boolean broadcast, boolean texts, boolean leaveFiles,
            boolean keepUnknown) {
        static FactsEntry of(FactsChoice c) {
            Keeps k = c.written();
            return new FactsEntry(k.loops(), k.mapping(), k.cues(), k.broadcast(), k.texts(), c.leavesFiles(), c.keepsUnknown());
        }

        FactsChoice choice() { return new FactsChoice(new Keeps(loops, mapping, cues, broadcast, texts), leaveFiles, keepUnknown); }
    }

    /// Keys of `compressed`: how lossy formats are written, and what is done about files that are not as they should be; absent in files of a program
    /// that had none.
    record CompressedEntry(String quality, Optional<Integer> constantKbps, boolean lookForDamage, boolean mendClicks, boolean takeLikelyDelay,
            Optional<Boolean> damageFails) {
        static CompressedEntry of(PackOptions o) {
            var kbps = o.quality().constantKbps();
            return new CompressedEntry(o.quality().word().id(), kbps.isPresent() ? Optional.of(kbps.getAsInt()) : Optional.empty(),
                    o.mending().looksForDamage(),
                    o.mending().mendsClicks(), o.mending().takesLikelyDelay(), Optional.of(o.mending().damageFails()));
        }

        PackOptions put(PackOptions without) {
            Quality made = new Quality(Quality.Word.byId(quality).orElseThrow(), constantKbps.map(OptionalInt::of).orElse(OptionalInt.empty()));
            return without.withQuality(made)
                    .withMending(new Mending(lookForDamage, mendClicks, takeLikelyDelay, damageFails == null || damageFails.orElse(true)));
        }
    }

    /// One file that is treated otherwise; absent keys are as for all.
    /// @param bytes its length, by which it is found again where it was moved; absent where it was not there
    record EditEntry(String file, Optional<Long> bytes, Optional<Long> partStartFrame, Optional<Long> partEndFrame, Optional<Double> fadeInMs,
            Optional<Double> fadeOutMs,
            Optional<Double> loopCrossfadeMs, Optional<TreatmentEntry> treatment, Optional<String> monoLaw, Optional<String> group, Optional<NamesEntry> names,
            Optional<List<MapJson.InstrumentEntry>> map,
            Optional<List<String>> added) {
        static EditEntry of(Path file, ItemEdit e, JobPaths paths) {
            return new EditEntry(paths.text(file), length(file), e.part().map(FrameRange::start), e.part().map(FrameRange::end), e.fadeInMs(), e.fadeOutMs(),
                    e.loopCrossfadeMs(), e.treatment().map(TreatmentEntry::of),
                    e.monoLaw().map(MonoLaw::id), e.group(), e.names().flatMap(NamesEntry::of), e.map().map(m -> m.stream().map(MapJson::entry).toList()),
                    e.added().isEmpty() ? Optional.empty() : Optional.of(e.added().stream().map(paths::text).toList()));
        }

        private static Optional<Long> length(Path file) {
            try {
                return Optional.of(Files.size(file));
            } catch (IOException e) {
                return Optional.empty();
            }
        }

        ItemEdit edit(JobPaths paths) {
            return new ItemEdit(partStartFrame.map(start -> new FrameRange(start, partEndFrame.orElseThrow())), fadeInMs, fadeOutMs, loopCrossfadeMs,
                    treatment == null ? Optional.empty() : treatment.map(TreatmentEntry::treatment), monoLaw.map(JobFile::law), group,
                    names.map(NamesEntry::reading), map.map(m -> m.stream().map(MapJson::instrument).toList()),
                    added.orElse(List.of()).stream().map(paths::path).toList());
        }
    }

    private static MonoLaw law(String id) { return MonoLaw.valueOf(id.toUpperCase(Locale.ROOT)); }

    private static final int VERSION = 1;
    private static final String AS_DESTINATION = "destination", KEEP = "keep";

    static JobFile of(Job job, JobPaths paths) {
        PackOptions o = job.options();
        return new JobFile(VERSION, job.sources().stream().map(paths::text).toList(), new TreeSet<>(job.removed()).stream().map(paths::text).toList(),
                paths.sheetText(job.destination()), text(o.container(), c -> c),
                text(o.rateHz(), r -> r.toString()),
                text(o.depth(), Depth::id), o.channels().map(ChannelChoice::id), o.monoLaw().id(), o.dither().id(), o.namePattern(), o.existing().id(),
                Optional.of(o.placing().verifies()), o.mirror(), KitsEntry.of(o.placing().kits()), Optional.of(TreatmentEntry.of(o.treatment())),
                Optional.of(InstrumentsEntry.of(o.instruments())),
                Optional.of(CompressedEntry.of(o)), Optional.of(FactsEntry.of(o.facts())),
                Optional.of(new TreeMap<>(job.edits()).entrySet().stream().map(e -> EditEntry.of(e.getKey(), e.getValue(), paths)).toList()),
                job.into().map(paths::text));
    }

    /// @param name for messages
    Job job(String name, JobPaths paths) throws Json.JsonFault {
        if (version != VERSION) throw new Json.JsonFault(name + ": made by another version (" + version + "); this one reads version " + VERSION);
        try {
            PackOptions options = new PackOptions(choice(container, c -> c), choice(rateHz, Integer::valueOf), choice(depth, d -> Depth.byId(d).orElseThrow()),
                    channels.map(c -> ChannelChoice.byId(c).orElseThrow()), law(monoLaw),
                    Dither.byId(dither).orElseThrow(),
                    new Placing(namePattern, ExistingFiles.valueOf(existing.toUpperCase(Locale.ROOT)), verify != null && verify.orElse(false), mirror,
                            kits == null ? Kits.USUAL : kits.map(KitsEntry::kits).orElse(Kits.USUAL)),
                    treatment.map(TreatmentEntry::treatment).orElse(Treatment.NONE),
                    instruments.map(InstrumentsEntry::options).orElse(InstrumentOptions.DEFAULT), Quality.DEFAULT, Mending.NONE,
                    facts.map(FactsEntry::choice).orElse(FactsChoice.ALL));
            if (compressed.isPresent()) options = compressed.get().put(options);
            return new Job(sources.stream().map(paths::path).toList(), removed.stream().map(paths::path).collect(Collectors.toSet()), paths.sheet(destination),
                    options, edits.orElse(List.of()).stream().collect(Collectors.toMap(e -> paths.path(e.file()), e -> e.edit(paths))), into.map(paths::path));
        } catch (RuntimeException e) {
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

    private static <T> String text(Choice<T> choice, Function<T, String> value) {
        return switch (choice) {
            case Choice.AsDestination<T>() -> AS_DESTINATION;
            case Choice.Keep<T>() -> KEEP;
            case Choice.Of<T>(T chosen) -> value.apply(chosen);
        };
    }

    private static <T> Choice<T> choice(String text, Function<String, T> value) {
        return switch (text) {
            case AS_DESTINATION -> Choice.asDestination();
            case KEEP -> Choice.keep();
            default -> Choice.of(value.apply(text));
        };
    }
}
