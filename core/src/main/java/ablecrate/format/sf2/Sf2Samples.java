package ablecrate.format.sf2;

import ablecrate.audio.PooledSource;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.format.Sample;
import ablecrate.instrument.Loop;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// The samples of a bank that its zones play, each described once.
final class Sf2Samples {
    private final Path path;
    private final long fileBytes;
    private final List<Sf2Tables.Header> headers;
    private final ChunkInfo words;
    private final Optional<ChunkInfo> lowBytes;
    private final List<Problem> problems;
    private final Set<String> told;
    private final List<Sample> all = new ArrayList<>();
    private final Map<Key, Integer> numbers = new HashMap<>();

    /// Zones whose right sides loop otherwise play sounds that differ.
    private record Key(List<Integer> headers, List<Loop> rightLoops) {}

    /// @param words upper 16 bits of all samples
    /// @param lowBytes eight bits more, where the bank has them
    /// @param problems what is lost goes here
    /// @param told what was mended goes here, once
    Sf2Samples(Path path, long fileBytes, List<Sf2Tables.Header> headers, ChunkInfo words, Optional<ChunkInfo> lowBytes, List<Problem> problems,
            Set<String> told) {
        this.path = path;
        this.fileBytes = fileBytes;
        this.headers = headers;
        this.words = words;
        this.lowBytes = lowBytes;
        this.problems = problems;
        this.told = told;
    }

    List<Sample> all() { return all; }

    /// @param headers of which it is made: one, or left and right of a stereo pair
    /// @param rightLoops of the right side, where they are not those of the left
    /// @return its number in [#all]
    int number(List<Integer> headers, List<Loop> rightLoops) {
        return numbers.computeIfAbsent(new Key(headers, rightLoops), _ -> {
            all.add(describe(headers, rightLoops));
            return all.size() - 1;
        });
    }

    private Sample describe(List<Integer> numbers, List<Loop> rightLoops) {
        Sf2Tables.Header first = headers.get(numbers.getFirst());
        String name = numbers.size() == 2 ? first.name().replaceFirst("(?i)[ _(-]+(left|l)\\)?$|(?<=[^a-zA-Z])L$", "") : first.name();
        if ((first.type() & Sf2Tables.IN_ROM) != 0) return missing(name, "it lies in the ROM of a sound card, not in the bank");
        List<PooledSource.Place> places = new ArrayList<>();
        long held = words.bytes() / 2;
        for (int number : numbers) {
            Sf2Tables.Header h = headers.get(number);
            long end = Math.min(h.end(), held), frames = end - h.start();
            if (frames < h.end() - h.start()) problems.add(Problem.lost("sample '" + h.name() + "' is cut off with the bank", "'smpl' chunk"));
            if (frames <= 0) return missing(name, "it has no frames in the bank");
            places.add(new PooledSource.Place(words.at() + 2 * h.start(), lowBytes.map(c -> c.at() + h.start()).orElse(-1L), frames));
        }
        long frames = places.stream().mapToLong(PooledSource.Place::frames).max().orElseThrow();
        SampleEncoding encoding = lowBytes.isPresent()
                ? new SampleEncoding(SampleEncoding.Kind.SIGNED, 3, 24, ByteOrder.LITTLE_ENDIAN)
                : new SampleEncoding(SampleEncoding.Kind.SIGNED, 2, 16, ByteOrder.LITTLE_ENDIAN);
        int rateHz = Math.clamp(first.rateHz(), 400, 1_000_000);
        if (rateHz != first.rateHz()) told.add("sample '" + first.name() + "' claims " + first.rateHz() + " Hz; " + rateHz + " Hz is used");
        SoundMetadata metadata = SoundMetadata.NONE.withTexts(Map.of(TextField.NAME, name));
        return new Sample.Found(name, new SoundFile(path, fileBytes, Sf2Format.ID, "SoundFont 2 sample", "PCM", encoding, rateHz, numbers.size(), frames,
                new AudioPlace.Pooled(places, rightLoops), metadata, List.of(), List.of()));
    }

    private Sample missing(String name, String reason) {
        problems.add(Problem.lost("sample '" + name + "' cannot be used: " + reason, "'shdr' list"));
        return new Sample.Missing(name, reason);
    }
}
