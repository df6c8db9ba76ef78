package ablecrate.format;

import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.disk.DiskFault;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/// The sounds that an instrument beside them names, each looked for once.
public final class SamplesBeside {
    private final Path path;
    private final UnaryOperator<Path> lies;
    private final List<Problem> problems;
    private final MissingSounds finder;
    private final Map<String, Integer> numbers = new HashMap<>();
    private final List<Sample> all = new ArrayList<>();

    /// @param path of the instrument
    /// @param lies where a sound lies that is named at a path
    /// @param problems what is told goes here
    public SamplesBeside(Path path, UnaryOperator<Path> lies, List<Problem> problems) {
        this.path = path;
        this.lies = lies;
        this.problems = problems;
        finder = new MissingSounds(path.getParent());
    }

    public List<Sample> all() { return all; }

    /// The sound, where it was found and can be used.
    public Optional<SoundFile> file(int number) { return all.get(number) instanceof Sample.Found(_, SoundFile file) ? Optional.of(file) : Optional.empty(); }

    /// @param neededFrames how long it has to be, where several of its name are nearby
    /// @return its number in [#all]
    public int number(String name, long neededFrames, String line) {
        Integer known = numbers.get(name);
        if (known != null) return known;
        numbers.put(name, all.size());
        all.add(find(name, neededFrames, line));
        return all.size() - 1;
    }

    private Sample find(String name, long neededFrames, String line) {
        if (name.startsWith("*")) return new Sample.Missing(name, "a generated sound, no file");
        // What lies under a temporary name is not looked for in all cases of its own.
        Optional<Path> wanted = PathsBeside.exact(path.getParent(), name).map(lies).filter(Files::isRegularFile)
                .or(() -> PathsBeside.resolve(path.getParent(), name).map(lies).filter(Files::isRegularFile));
        Optional<Path> found = wanted.or(() -> finder.find(name, neededFrames));
        if (found.isEmpty()) {
            problems.add(Problem.lost("the sample '" + name + "' is not there, and no file of its name and length is nearby, or several", line));
            return new Sample.Missing(name, "it is not there; put it back beside the instrument");
        }
        if (wanted.isEmpty()) problems.add(Problem.mend("the sample '" + name + "' was found at " + path.getParent().relativize(found.get()), line));
        try {
            return switch (FileKind.of(found.get())) {
                case FileKind.Sound sound -> new Sample.Found(name, sound.read(found.get()));
                case FileKind.Other(_, String kind, String reason) -> unusable(name, kind + ": " + reason, line);
            };
        } catch (FormatException e) {
            return unusable(name, e.getMessage(), line);
        } catch (IOException e) {
            return unusable(name, DiskFault.text(e), line);
        }
    }

    private Sample unusable(String name, String reason, String line) {
        problems.add(Problem.lost("the sample '" + name + "' cannot be used: " + reason, line));
        return new Sample.Missing(name, reason);
    }
}
