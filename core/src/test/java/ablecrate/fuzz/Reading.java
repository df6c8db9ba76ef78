package ablecrate.fuzz;

import ablecrate.Fixtures;
import ablecrate.audio.FrameSource;
import ablecrate.codec.SoundFile;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.json.Json;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.pack.Originals;
import ablecrate.pack.PackingSlip;
import ablecrate.option.Choice;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.planner.Planner;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.stream.Stream;

/// The ways in which files reach the program. Each reads, or refuses with a message; anything that is thrown is a fault of the program.
enum Reading implements Seeds.Way {
    /// Gathered, planned in two ways, decoded to the end.
    LIBRARY {
        @Override public boolean read(Path file) throws Exception {
            Gathered gathered = Gatherer.read(new Gathered(file, file.getFileName(), new Gathered.Content.Unread()));
            switch (gathered.content()) {
                case Gathered.Content.Sound(SoundFile sound) -> toTheEnd(sound);
                case Gathered.Content.Instruments(InstrumentFile instruments) -> {
                    for (int sample = 0; sample < instruments.samples().size(); sample++)
                        if (instruments.sound(sample).isPresent()) toTheEnd(instruments.sound(sample).get());
                }
                case Gathered.Content.Links _ -> {}
                case Gathered.Content.Refused(String id, _, String reason) -> {
                    if (id.equals(Gatherer.FAULT) || reason.isBlank() || reason.contains("Exception") || reason.contains("null"))
                        throw new AssertionError("refused as " + id + ": " + reason);
                    return false;
                }
                case Gathered.Content.Unread() -> throw new AssertionError("not looked at");
            }
            plan(List.of(gathered), SHEETS.find("session"), PackOptions.DEFAULT);
            plan(List.of(gathered), SHEETS.find("files"), PackOptions.DEFAULT.withContainer(Choice.of(Math.floorMod(gathered.hashCode(), 2) == 0 ? "sf2" : "sfz")));
            return true;
        }
    },
    JOB {
        @Override public boolean read(Path file) throws Exception { return isUsed(() -> {
            Job job = Jobs.open(file);
            plan(SOUNDS, SHEETS.find(job.destination()), job.options());
        }); }
    },
    SHEET {
        @Override public boolean read(Path file) throws Exception { return isUsed(() -> plan(SOUNDS, SHEETS.find(file.toString()), PackOptions.DEFAULT)); }
    },
    SLIP {
        @Override public boolean read(Path file) throws Exception { return isUsed(() -> Json.read(file, PackingSlip.class)); }
    },
    /// A list of originals, in a folder that holds none of them.
    ORIGINALS {
        @Override public boolean read(Path file) throws Exception {
            Path dated = Files.createDirectories(file.resolveSibling("gathered/originals"));
            Path witness = Files.writeString(file.resolveSibling("witness.wav"), "outside");
            Files.copy(file, dated.resolve(Originals.LIST), StandardCopyOption.REPLACE_EXISTING);
            try {
                Originals.restore(dated, Math.floorMod(Files.size(file), 2) == 0);
                return true;
            } catch (Json.JsonFault | IOException e) {
                return told(e);
            } finally {
                if (!Files.readString(witness).equals("outside")) throw new AssertionError("a file outside of the folder was changed");
            }
        }
    };

    private static final SheetCatalogue SHEETS = new SheetCatalogue();
    private static final List<Gathered> SOUNDS = Stream.of("metadata/wav_instrument_cue.wav", "lossless/x44_flac24.flac", "lossy/s44_mp3_vbr.mp3", "made/harp.sfz")
            .map(Fixtures::path).map(p -> Gatherer.read(new Gathered(p, p.getFileName(), new Gathered.Content.Unread()))).toList();


    private static void toTheEnd(SoundFile sound) throws IOException {
        double[][] block = new double[sound.channels()][4096];
        long frames = 0;
        try (FrameSource source = sound.open()) {
            for (int got; (got = source.read(block, 0, 4096)) > 0 && !Thread.interrupted();)
                frames += got;
        }
        if (frames != sound.frames()) throw new AssertionError(frames + " frames came of " + sound.frames());
    }

    private static void plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options) {
        try {
            for (PackingItem item : Planner.plan(gathered, sheet, options).items())
                if (item.changes().stream().anyMatch(c -> c.before().equals(Planner.FAULT))) throw new AssertionError("cannot be planned");
        } catch (OptionConflict e) {
            told(e);
        }
    }

    private interface Use {
        void of() throws Exception;
    }

    /// What is no JSON of its shape is refused with a message.
    private static boolean isUsed(Use use) throws Exception {
        try {
            use.of();
            return true;
        } catch (Json.JsonFault e) {
            return told(e);
        }
    }

    private static boolean told(Exception e) {
        if (e.getMessage() == null || e.getMessage().isBlank()) throw new AssertionError("refused without a word", e);
        return false;
    }
}
