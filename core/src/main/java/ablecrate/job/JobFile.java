package ablecrate.job;

import ablecrate.audio.Depth;
import ablecrate.destination.ChannelChoice;
import ablecrate.dsp.Dither;
import ablecrate.json.Json;
import ablecrate.plan.Choice;
import ablecrate.plan.ExistingFiles;
import ablecrate.plan.MonoLaw;
import ablecrate.plan.PackOptions;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;

/// A job as a file, `.ablecrate`: JSON with the keys below. Choices are `destination`, `keep` or a value.
record JobFile(int version, List<String> sources, List<String> removed, String destination, String container, String rateHz, String depth,
        Optional<String> channels, String monoLaw, String dither, Optional<String> namePattern, String existing, Optional<Boolean> mirror,
        Optional<String> into) {
    private static final int VERSION = 1;
    private static final String AS_DESTINATION = "destination", KEEP = "keep";

    static JobFile of(Job job) {
        PackOptions o = job.options();
        return new JobFile(VERSION, strings(job.sources()), strings(new TreeSet<>(job.removed())), job.destination(), text(o.container(), c -> c),
                text(o.rateHz(), r -> r.toString()),
                text(o.depth(), Depth::id), o.channels().map(ChannelChoice::id), o.monoLaw().id(), o.dither().id(), o.namePattern(), o.existing().id(),
                o.mirror(),
                job.into().map(Path::toString));
    }

    Job job(String name) throws Json.JsonFault {
        if (version != VERSION) throw new Json.JsonFault(name + ": made by another version (" + version + "); this one reads version " + VERSION);
        try {
            PackOptions options = new PackOptions(choice(container, c -> c), choice(rateHz, Integer::valueOf), choice(depth, d -> Depth.byId(d).orElseThrow()),
                    channels.map(c -> ChannelChoice.byId(c).orElseThrow()), MonoLaw.valueOf(monoLaw.toUpperCase(Locale.ROOT)),
                    Dither.byId(dither).orElseThrow(), namePattern,
                    ExistingFiles.valueOf(existing.toUpperCase(Locale.ROOT)), mirror);
            return new Job(sources.stream().map(Path::of).toList(), removed.stream().map(Path::of).collect(Collectors.toSet()), destination, options,
                    into.map(Path::of));
        } catch (RuntimeException e) {
            throw new Json.JsonFault(name + ": a key is missing or has a value that is none of this program's (" + e.getMessage() + ")");
        }
    }

    private static List<String> strings(Iterable<Path> paths) {
        List<String> out = new java.util.ArrayList<>();
        paths.forEach(p -> out.add(p.toString()));
        return out;
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
