package ablecrate.pack;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.SheetCatalogue;
import ablecrate.disk.Checksums;
import ablecrate.dsp.Dither;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.json.Json;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.planner.Planner;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PackerTest {
    @TempDir Path temp;
    private Path crate, out;

    @BeforeEach void makeCrate() throws Exception {
        crate = temp.resolve("crate");
        out = temp.resolve("out");
        SoundMetadata looped = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(500, 3000), LoopMode.FORWARD)))
                .withMapping(Mapping.NONE.withRootKey(Optional.of(57)).withFineTune(-12.5));
        Sounds.write(crate.resolve("looped.wav"), "wav", 44100, Depth.INT_16, looped, sine(440, 0.5, 44100, 6000));
        Sounds.write(crate.resolve("looped.aif"), "aiff", 96000, Depth.INT_24, looped, sine(440, 0.5, 96000, 6000), sine(441, 0.5, 96000, 6000));
        Sounds.wav(crate.resolve("deep/float.wav"), 48000, Depth.FLOAT_32, sine(100, 0.9, 48000, 5001));
        Sounds.wav(crate.resolve("deep/fits.wav"), 48000, Depth.INT_24, sine(300, 0.3, 48000, 777), sine(300, 0.3, 48000, 777));
        Files.copy(Fixtures.path("malformed/midi_named.wav"), crate.resolve("deep/theme.wav"));
        Files.copy(Fixtures.path("malformed/wav_truncated_data.wav"), crate.resolve("cut.wav"));
    }

    private PackingList plan(String destination, PackOptions options) throws Exception {
        return Planner.plan(Gatherer.readAll(Gatherer.find(List.of(crate), () -> false)), new SheetCatalogue().find(destination), options);
    }

    private PackingSlip pack(PackingList list, int workers) throws Exception {
        return new Packer(list, new SoundPath(), workers, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
    }

    private static Map<String, String> sums(Path folder) throws IOException {
        Map<String, String> sums = new TreeMap<>();
        try (var files = Files.walk(folder)) {
            for (Path f : files.filter(Files::isRegularFile).filter(f -> !f.toString().matches(".*(packing-slip|session|originals)\\.\\w+")).toList())
                sums.put(folder.relativize(f).toString(), Checksums.xxh128Hex(f));
        }
        return sums;
    }

    @Test void theSlipAgreesWithTheListAndTheDisk() throws Exception {
        for (String destination : List.of("files", "session", "drum-pads", "four-track")) {
            out = temp.resolve("out " + destination);
            PackingList list = plan(destination, PackOptions.DEFAULT);
            PackingSlip slip = pack(list, 2);
            assertThat(slip.items()).hasSameSizeAs(list.items());
            for (int i = 0; i < list.items().size(); i++) {
                var planned = list.items().get(i);
                PackingSlip.Item item = slip.items().get(i);
                assertThat(item.verdict()).isEqualTo(planned.verdict().id());
                assertThat(item.outputs()).extracting(PackingSlip.Output::path).isEqualTo(planned.outputs().stream().map(o -> o.path()).toList());
                for (PackingSlip.Output o : item.outputs()) {
                    SoundFile read = ((FileKind.Sound) FileKind.of(out.resolve(o.path()))).format().read(out.resolve(o.path()));
                    assertThat(Checksums.xxh128Hex(read.path())).isEqualTo(o.xxh128());
                    assertThat(read.frames()).isEqualTo(o.frames());
                    assertThat(read.rateHz()).isEqualTo(o.rateHz());
                    assertThat(o.checks()).allMatch(PackingSlip.Check::ok);
                }
            }
            assertThat(slip.isAllPacked()).isFalse(); // the MIDI file cannot go
            assertThat(Json.read(out.resolve(Packer.SLIP_JSON), PackingSlip.class)).isEqualTo(slip);
            assertThat(Files.readString(out.resolve(Packer.SLIP_HTML))).contains("Standard MIDI File").doesNotContain("ablecrate-part");
        }
    }

    @Test void aFileThatFitsIsCopiedBitForBit() throws Exception {
        pack(plan("files", PackOptions.DEFAULT), 1);
        assertThat(Files.mismatch(crate.resolve("looped.wav"), out.resolve("looped.wav"))).isEqualTo(-1);
        assertThat(Files.mismatch(crate.resolve("deep/float.wav"), out.resolve("float.wav"))).isEqualTo(-1);
    }

    @Test void theBytesDoNotDependOnTheNumberOfWorkers() throws Exception {
        PackingList list = plan("session", PackOptions.DEFAULT.withDither(Dither.SHAPED));
        pack(list, 1);
        Map<String, String> alone = sums(out);
        out = temp.resolve("again");
        pack(list, 7);
        assertThat(sums(out)).isEqualTo(alone).hasSize(5);
    }

    @Test void aSecondRunDoesOnlyWhatIsNew() throws Exception {
        pack(plan("session", PackOptions.DEFAULT), 2);
        Path first = out.resolve("audio/looped.wav");
        var before = Files.getLastModifiedTime(first);
        Sounds.wav(crate.resolve("new.wav"), 44100, Depth.INT_16, sine(50, 0.5, 44100, 400));
        PackingSlip slip = pack(plan("session", PackOptions.DEFAULT), 2);
        assertThat(slip.outcomes()).containsEntry("skipped", 5).containsEntry("packed", 1).containsEntry("blocked", 1);
        assertThat(Files.getLastModifiedTime(first)).isEqualTo(before);
    }

    /// Same name, same shape, another level: what is there is not what was asked for now, with or without the slip that tells how it was made.
    @Test void theSameShapeIsNotTheSameSound() throws Exception {
        pack(plan("session", PackOptions.DEFAULT), 2);
        Path slipFile = out.resolve(Packer.SLIP_JSON);
        Files.delete(slipFile);
        assertThat(pack(plan("session", PackOptions.DEFAULT), 2).outcomes()).containsEntry("skipped", 5);
        PackOptions faded = PackOptions.DEFAULT.withTreatment(ablecrate.option.Treatment.NONE.withFadeOut(ablecrate.option.Fade.NONE_OUT.withMs(5)));
        for (boolean withSlip : new boolean[]{true, false}) {
            if (!withSlip) Files.delete(slipFile);
            PackingSlip slip = pack(plan("session", faded), 2);
            assertThat(slip.outcomes()).as("with slip " + withSlip).containsKey("failed").doesNotContainKey("packed");
            assertThat(slip.items().stream().flatMap(i -> i.error().stream())).anyMatch(e -> e.contains("the same shape, but other samples"));
        }
    }

    @Test void anotherFileOfThatNameIsNeverTakenForTheResult() throws Exception {
        Sounds.wav(out.resolve("audio/looped.wav"), 22050, Depth.INT_8, sine(50, 0.5, 22050, 400));
        PackingSlip slip = pack(plan("session", PackOptions.DEFAULT), 1);
        assertThat(slip.items().stream().filter(i -> i.outcome().equals("failed"))).singleElement()
                .satisfies(i -> assertThat(i.error().orElseThrow()).contains("a different file named looped.wav is there (400 frames, 22050 Hz, 8 bit, 1 ch)",
                        "replace", "number"));
        assertThat(slip.outcomes()).containsEntry("packed", 4);
    }

    @Test void existingFilesAreReplacedOrNumberedWhenAsked() throws Exception {
        pack(plan("session", PackOptions.DEFAULT), 1);
        Map<String, String> before = sums(out);
        assertThat(pack(plan("session", PackOptions.DEFAULT.withExisting(ExistingFiles.NUMBER)), 3).ofThisRun().stream().flatMap(i -> i.outputs().stream())
                .map(PackingSlip.Output::state))
                .containsOnly("numbered");
        assertThat(sums(out)).hasSize(2 * before.size()).containsAllEntriesOf(before).containsKey("audio/float-2.wav");
        assertThat(pack(plan("session", PackOptions.DEFAULT.withExisting(ExistingFiles.REPLACE)), 3).outcomes()).containsEntry("packed", 5);
        // What was replaced in a session is kept.
        assertThat(sums(out)).hasSize(3 * before.size());
    }

    @Test void oneItemsFailureNeverStopsTheRest() throws Exception {
        PackingList list = plan("session", PackOptions.DEFAULT);
        Files.delete(crate.resolve("deep/float.wav"));
        PackingSlip slip = pack(list, 2);
        assertThat(slip.outcomes()).containsEntry("failed", 1).containsEntry("packed", 4);
        assertThat(slip.items().stream().filter(i -> i.outcome().equals("failed")).findFirst().orElseThrow().error().orElseThrow())
                .contains("float.wav is no longer there");
        assertThat(out.resolve("audio/float.wav")).doesNotExist();
    }

    /// As a card that is taken out while it is written: nothing is made in its place.
    @Test void aFolderThatIsTakenAwayIsNotMadeAgain() throws Exception {
        PackingList list = plan("files", PackOptions.DEFAULT.withMirror(Optional.of(true)));
        Path away = temp.resolve("away");
        Packer packer = new Packer(list, new SoundPath(), 1, new StopSignal(), new PackListener() {
            @Override public void progress(PackProgress progress) {}

            @Override public void done(int list, PackingSlip.Item item) {
                if (Files.exists(out)) out.toFile().renameTo(away.toFile());
            }
        }, InstantSource.system());
        assertThatThrownBy(() -> packer.packInto(out)).isInstanceOf(IOException.class)
                .hasMessage(out + " was taken away while it was packed into; put it back and pack again");
        assertThat(out).doesNotExist();
        // The next file may have its name before the first is told of.
        assertThat(sums(away).keySet().stream().filter(f -> !f.matches("(.*/)?\\.[^/]*"))).as("under names of their own").hasSizeBetween(1, 2);
    }

    /// Folders that only a failed line wanted are not left behind; those that were there stay.
    @Test void noEmptyFolderIsLeftBehind() throws Exception {
        PackingList list = plan("files", PackOptions.DEFAULT.withMirror(Optional.of(true)));
        Files.delete(crate.resolve("deep/float.wav"));
        Files.delete(crate.resolve("deep/fits.wav"));
        Files.delete(crate.resolve("deep/theme.wav"));
        Files.createDirectories(out.resolve("mine"));
        assertThat(pack(list, 2).outcomes().get("failed")).isGreaterThanOrEqualTo(2);
        assertThat(out.resolve("deep")).doesNotExist();
        assertThat(out.resolve("mine")).isDirectory();
    }

    @Test void aStopLeavesNothingHalfWritten() throws Exception {
        PackingList list = plan("session", PackOptions.DEFAULT);
        StopSignal stop = new StopSignal();
        stop.stop();
        PackingSlip slip = new Packer(list, new SoundPath(), 2, stop, _ -> {}, InstantSource.system()).packInto(out);
        assertThat(slip.isStopped()).isTrue();
        assertThat(sums(out)).isEmpty();
        assertThat(pack(list, 2).outcomes()).containsEntry("packed", 5);
    }

    @Test void leftoversOfAKilledRunAreSweptAway() throws Exception {
        Path leftover = Files.createDirectories(out.resolve("audio")).resolve(".looped.wav.ablecrate-part");
        Files.writeString(leftover, "half");
        pack(plan("session", PackOptions.DEFAULT), 1);
        assertThat(leftover).doesNotExist();
    }

    @Test void onlyOneRunAtATimePacksIntoAFolder() throws Exception {
        try (PackFolder _ = new PackFolder(out)) {
            assertThatThrownBy(() -> pack(plan("session", PackOptions.DEFAULT), 1)).isInstanceOf(IOException.class)
                    .hasMessageContaining("another run is packing into");
        }
    }

    @Test void namesNeverLeadOutOfTheFolder() throws Exception {
        try (PackFolder folder = new PackFolder(out)) {
            for (String evil : List.of("../x.wav", "a/../../x.wav", "/etc/x.wav", ""))
                assertThatThrownBy(() -> folder.resolve(evil)).as(evil).isInstanceOf(IOException.class);
        }
    }

    @Test void packingInPlaceKeepsOriginalsAndRestoreBringsThemBack() throws Exception {
        Map<String, String> before = sums(crate);
        PackOptions split = PackOptions.DEFAULT.withDepth(Choice.of(Depth.INT_16)).withContainer(Choice.of("wav"))
                .withChannels(Optional.of(ChannelChoice.SPLIT));
        PackingSlip slip = new Packer(plan("files", split), new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInPlace(crate);
        assertThat(slip.outcomes()).containsEntry("packed", 4).containsEntry("skipped", 1);
        assertThat(crate.resolve("looped.aif")).doesNotExist();
        assertThat(crate.resolve("looped-L.wav")).exists();
        Originals.Restored restored = Originals.restore(crate, false);
        assertThat(restored.problems()).isEmpty();
        assertThat(restored.broughtBack()).hasSize(4);
        assertThat(sums(crate)).isEqualTo(before);
    }

    @Test void anOriginalsListFromElsewhereCannotReachOutOfItsFolder() throws Exception {
        Path dated = Files.createDirectories(crate.resolve("originals 2026-01-01 000000"));
        Files.writeString(dated.resolve(Originals.LIST), "{\"root\":\"/\",\"entries\":[{\"original\":\"../../../evil\",\"kept\":\"x\",\"results\":[]}]}");
        assertThatThrownBy(() -> Originals.restore(crate, false)).isInstanceOf(IOException.class).hasMessageContaining("leads out of");
    }

    /// Beyond 4 GiB the header is RF64 with its sizes in ds64. Source: EBU Tech 3306. The audio itself need not be written to see that.
    @Test void largeFilesGetALargeHeader() {
        var layout = new ablecrate.codec.wav.WavFormat().layout(new ablecrate.codec.OutputShape(48000, 2, Depth.INT_24, 1_000_000_000L), SoundMetadata.NONE,
                List.of());
        var head = java.nio.ByteBuffer.wrap(layout.before().toArray()).order(java.nio.ByteOrder.LITTLE_ENDIAN);
        assertThat(new String(layout.before().toArray(), 0, 16, java.nio.charset.StandardCharsets.ISO_8859_1)).startsWith("RF64").endsWith("WAVEds64");
        assertThat(head.getLong(20)).isEqualTo(head.capacity() - 8 + 6_000_000_000L);
        assertThat(head.getLong(28)).isEqualTo(6_000_000_000L);
        assertThat(head.getLong(36)).isEqualTo(1_000_000_000L);
    }

    @Test void theResultIsHeardFromAnyFrameAsItWillBe() throws Exception {
        PackingList list = plan("session", PackOptions.DEFAULT);
        var item = list.items().stream().filter(i -> i.source().fileName().equals("looped.aif")).findFirst().orElseThrow();
        SoundFile file = item.source().sound().orElseThrow();
        double[][] whole = Sounds.readAll(new SoundPath().open(file, item.outputs().getFirst().sourceChain(), item.outputs().getFirst().outputChain()));
        for (int from : new int[]{0, 1, 1234, 2999}) {
            try (var later = new SoundPath().openAt(file, item.outputs().getFirst().sourceChain(), item.outputs().getFirst().outputChain(), from)) {
                double[][] part = new double[2][100];
                int got = later.readFully(part, 0, Math.min(100, whole[0].length - from));
                assertThat(java.util.Arrays.copyOf(part[0], got)).as("from " + from).isEqualTo(java.util.Arrays.copyOfRange(whole[0], from, from + got));
            }
        }
    }

    /// Through the whole way, in 64-bit float: the tones of the table of two respected libraries, at least as clean as there, −165 dB where libsoxr lies beyond.
    @Test void tonesComeThroughPackingAsCleanAsTheConverterMakesThem() throws Exception {
        for (Map<String, String> row : Fixtures.table("resample.tsv")) {
            if (!row.get("signal").equals("tone")) continue;
            int from = Integer.parseInt(row.get("rate_in")), to = Integer.parseInt(row.get("rate_out"));
            double hz = Double.parseDouble(row.get("frequency_hz")), theirs = Double.parseDouble(row.get("residual_vs_ideal_db"));
            Path tone = Sounds.wav(temp.resolve("tone.wav"), from, Depth.FLOAT_64, sine(hz, 0.501187, from, 2 * from));
            PackOptions options = PackOptions.DEFAULT.withRate(Choice.of(to)).withDepth(Choice.of(Depth.FLOAT_64)).withExisting(ExistingFiles.REPLACE);
            PackingList list = Planner.plan(Gatherer.readAll(Gatherer.find(List.of(tone), () -> false)), new SheetCatalogue().find("files"), options);
            pack(list, 1);
            SoundFile file = SoundFormats.byId("wav").orElseThrow().read(out.resolve("tone.wav"));
            double[] y = Sounds.readAll(file.open())[0], ideal = sine(hz, 0.501187, to, y.length),
                    error = Sounds.signal(y.length, n -> y[n] - ideal[n]);
            double residual = Sounds.db(Sounds.rms(error, to / 10, to * 19 / 10) / Sounds.rms(ideal, to / 10, to * 19 / 10));
            assertThat(residual).as("%s", row).isLessThanOrEqualTo(row.get("library").equals("libsoxr") ? Math.max(theirs, -165) : theirs);
        }
    }

    /// In a 24-bit file nothing is left above the dither's own noise: 141.48 dB below a full-scale sine, 6 dB less below this one.
    /// Source: Lipshitz, Wannamaker, Vanderkooy, JAES 40(5), 1992.
    @Test void aToneInA24BitFileStandsOnTheDithersNoiseAlone() throws Exception {
        Path tone = Sounds.wav(temp.resolve("tone.wav"), 44100, Depth.FLOAT_64, sine(1000, 0.5, 44100, 4 * 44100));
        pack(Planner.plan(Gatherer.readAll(Gatherer.find(List.of(tone), () -> false)), new SheetCatalogue().find("session"), PackOptions.DEFAULT), 1);
        SoundFile file = SoundFormats.byId("wav").orElseThrow().read(out.resolve("audio/tone.wav"));
        double[] y = Sounds.readAll(file.open())[0];
        assertThat(Sounds.residueDb(y, 1000, 48000, 9600, 4 * 48000 - 9600)).isCloseTo(-141.48 + 6.02, within(0.3));
    }
}
