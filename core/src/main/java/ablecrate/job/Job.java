package ablecrate.job;

import ablecrate.option.ItemEdit;
import ablecrate.option.PackOptions;
import ablecrate.option.Placing;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/// What is open. Immutable; edits are copies.
/// @param sources files and folders that were gathered
/// @param removed files below them that the user took out again
/// @param destination id of a built-in sheet, or a sheet's file
/// @param edits what is wanted otherwise for single files
/// @param into folder to pack into
public record Job(List<Path> sources, Set<Path> removed, String destination, PackOptions options, Map<Path, ItemEdit> edits, Optional<Path> into) {
    public static final Job EMPTY = new Job(List.of(), Set.of(), "files", PackOptions.DEFAULT, Map.of(), Optional.empty());

    public Job {
        sources = List.copyOf(sources);
        removed = Set.copyOf(removed);
        edits = Map.copyOf(edits);
    }

    /// With further sources; what was removed below them comes back.
    public Job gathering(List<Path> more) {
        Set<Path> all = new LinkedHashSet<>(sources);
        all.addAll(more);
        return new Job(new ArrayList<>(all), removed.stream().filter(r -> more.stream().noneMatch(r::startsWith)).collect(java.util.stream.Collectors.toSet()),
                destination, options, edits, into);
    }

    /// Without these files; a source that is among them goes as well.
    public Job without(Set<Path> files) {
        Set<Path> out = new LinkedHashSet<>(removed);
        out.addAll(files);
        return new Job(sources.stream().filter(s -> !files.contains(s)).toList(), out, destination, options, edits, into);
    }

    /// Options of the old destination that the new one may not take are left behind.
    public Job aimedAt(String otherDestination) {
        PackOptions carried = PackOptions.DEFAULT.withDither(options.dither())
                .withPlacing(Placing.USUAL.withExisting(options.existing()).withVerifying(options.placing().verifies())).withMonoLaw(options.monoLaw())
                .withTreatment(options.treatment()).withInstruments(options.instruments()).withQuality(options.quality()).withMending(options.mending())
                .withMetadata(options.metadata()).withSession(options.session());
        return new Job(sources, removed, otherDestination, carried, edits, into);
    }

    public Job withOptions(PackOptions other) { return new Job(sources, removed, destination, other, edits, into); }

    public Job packingInto(Optional<Path> folder) { return new Job(sources, removed, destination, options, edits, folder); }

    /// With each of these files treated otherwise than it was.
    public Job editing(Set<Path> files, UnaryOperator<ItemEdit> edit) {
        Map<Path, ItemEdit> changed = new HashMap<>(edits);
        for (Path file : files) {
            ItemEdit wanted = edit.apply(changed.getOrDefault(file, ItemEdit.NONE));
            if (wanted.equals(ItemEdit.NONE))
                changed.remove(file);
            else
                changed.put(file, wanted);
        }
        return new Job(sources, removed, destination, options, changed, into);
    }
}
