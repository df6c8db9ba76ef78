package ablecrate.fuzz;

import ablecrate.Fixtures;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.LevelMeasure;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.pack.Originals;
import ablecrate.pack.Packer;
import ablecrate.pack.StopSignal;
import ablecrate.option.Choice;
import ablecrate.option.Fade;
import ablecrate.option.ItemEdit;
import ablecrate.option.LevelTarget;
import ablecrate.option.MonoLaw;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.planner.Planner;
import ablecrate.option.Treatment;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/// The files that are spoilt: of every kind that is read.
/// @param name with the extension of its kind
record Seeds(String name, byte[] bytes, Way reading) {
    /// How a file is read.
    interface Way {
        /// @return whether it could be used
        boolean read(Path file) throws Exception;
    }

    private static final int LARGEST = 160_000;
    private static final String PLAYLIST = "#EXTM3U\n#EXTINF:3,Reed\nreed.wav\n../owl/night owl.flac\n";
    /// Format 1, two tracks, a tempo and a note.
    private static final String MIDI = "4D546864000000060001000201E0" + "4D54726B0000000B00FF510307A12000FF2F00" + "4D54726B0000000C00903C408360803C4000FF2F00";

    boolean isText() { return reading != Reading.LIBRARY || name.endsWith(".sfz") || name.endsWith(".m3u"); }

    /// Small files of the fixtures, those that are damaged as well, and made ones of the kinds that are missing there.
    static List<Seeds> all() throws IOException {
        List<Seeds> seeds = new ArrayList<>();
        HashSet<String> names = new HashSet<>();
        try (Stream<Path> files = Files.walk(Fixtures.path("manifest.tsv").getParent())) {
            for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
                String name = file.getFileName().toString();
                if (Files.size(file) <= LARGEST && !name.matches(".*\\.(md|tsv|ref\\.flac)") && names.add(name))
                    seeds.add(new Seeds(name, Files.readAllBytes(file), Reading.LIBRARY));
            }
        }
        seeds.add(new Seeds("list.m3u", utf8(PLAYLIST), Reading.LIBRARY));
        seeds.add(new Seeds("notes.mid", HexFormat.of().parseHex(MIDI), Reading.LIBRARY));
        for (var sheet : new SheetCatalogue().builtIn())
            try (var in = SheetCatalogue.class.getResourceAsStream(sheet.id() + ".json")) {
                seeds.add(new Seeds(sheet.id() + ".json", in.readAllBytes(), Reading.SHEET));
            }
        made(seeds);
        return seeds;
    }

    /// What the program itself writes: a job with much in it, a slip, a list of originals.
    private static void made(List<Seeds> seeds) throws IOException {
        Path work = Files.createTempDirectory("fuzz"), sounds = Files.createDirectory(work.resolve("sounds")), sound = sounds.resolve("reed C4.wav");
        Files.copy(Fixtures.path("metadata/wav_instrument_cue.wav"), sound);
        PackOptions options = PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_24)).withNamePattern(Optional.of("(number..) (name)"))
                .withTreatment(Treatment.NONE
                        .withLevel(Optional.of(new LevelTarget(LevelMeasure.LUFS_M, -10.1))).withCeiling(Optional.of(-0.5)).withFadeIn(Fade.NONE_IN.withMs(3)));
        ItemEdit edit = ItemEdit.NONE.withPart(Optional.of(new FrameRange(10, 900))).withMonoLaw(Optional.of(MonoLaw.LEFT)).withGroup(Optional.of("harp"));
        Path job = work.resolve("crate.ablecrate");
        Jobs.save(new Job(List.of(sounds), Set.of(), "session", options, Map.of(sound, edit), Optional.of(work.resolve("out"))), job);
        seeds.add(new Seeds("crate.ablecrate", Files.readAllBytes(job), Reading.JOB));
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(List.of(sounds), () -> false));
        try {
            packer(gathered, "session").packInto(work.resolve("out"));
            packer(gathered, "files").packInPlace(sounds);
        } catch (OptionConflict e) {
            throw new AssertionError(e);
        }
        seeds.add(new Seeds("packing-slip.json", Files.readAllBytes(work.resolve("out").resolve(Packer.SLIP_JSON)), Reading.SLIP));
        try (Stream<Path> files = Files.walk(work)) {
            for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                if (file.endsWith(Originals.LIST)) seeds.add(new Seeds(Originals.LIST, Files.readAllBytes(file), Reading.ORIGINALS));
                Files.delete(file);
            }
        }
    }

    private static Packer packer(List<Gathered> gathered, String sheet) throws OptionConflict {
        return new Packer(Planner.plan(gathered, new SheetCatalogue().byId(sheet).orElseThrow(), PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_24))),
                new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system());
    }

    private static byte[] utf8(String text) { return text.getBytes(StandardCharsets.UTF_8); }
}
