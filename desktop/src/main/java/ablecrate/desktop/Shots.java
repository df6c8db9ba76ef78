package ablecrate.desktop;

import ablecrate.change.Property;
import ablecrate.desktop.device.DeviceModel;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.dsp.LevelMeasure;
import ablecrate.job.Job;
import ablecrate.option.Choice;
import ablecrate.option.Chop;
import ablecrate.option.ExistingFiles;
import ablecrate.option.LevelTarget;
import ablecrate.option.TrackStart;
import ablecrate.option.Treatment;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import javafx.animation.AnimationTimer;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javax.imageio.ImageIO;

/// Takes one picture of each main view with the demo crate, then ends the program.
final class Shots {
    /// Pictures are taken when the view has stood still for so long.
    private static final long SETTLE_NANOS = 700_000_000L;
    /// The pad that is held on the picture of the device.
    private static final int PAD_KEY = 38;

    private final AppWindow window;
    private final Path folder, crateFolder;
    private final String until;
    private final Runnable end;
    private final Deque<Step> steps = new ArrayDeque<>();

    /// @param name of the picture; empty takes none
    private record Step(String name, Runnable prepare, BooleanSupplier ready) {}

    /// @param until the last picture to take; empty: all
    Shots(AppWindow window, Path folder, String until, Runnable end) throws IOException {
        this.window = window;
        this.folder = Files.createDirectories(folder);
        // A name that reads well in a picture, the same on every machine.
        this.crateFolder = Path.of(System.getProperty("java.io.tmpdir"), "orchard");
        this.until = until;
        this.end = end;
    }

    void take() throws IOException {
        BooleanSupplier listed = () -> !window.crate().readingProperty().get() && !window.list().all().isEmpty() && window.crate().toHearProperty().get() == 0
                && !window.sketches().isDrawing();
        step("empty", () -> {}, () -> true);
        Job demo = Main.demoJob(crateFolder);
        step("", () -> window.crate().start(demo), listed);
        step("packing-list", () -> window.chooseLine("bottle_65"), listed);
        step("packing-list-dark", () -> {
            window.crate().alsoFor("drum-pads");
            window.crate().alsoFor("files");
            window.crate().showDelivery(0);
            window.setDark(true);
        }, listed);
        step("", () -> {
            window.setDark(false);
            window.crate().start(demo);
            window.list().showAll();
            window.crate().changeOptions(o -> o.withMending(o.mending().withLooking(true)), "damage");
        }, listed);
        step("damage", () -> {
            window.list().toggle(Property.DAMAGE);
            window.chooseLine("lantern");
        }, listed);
        step("drum-pads", () -> {
            window.list().showAll();
            window.crate().undo();
            window.crate().aim("drum-pads");
        }, listed);
        step("", () -> window.chooseLine("orchard at night"), listed);
        step("wave", () -> {
            window.crate().aim("session");
            window.actions().find("bench-size").run().run();
            window.wave().zoom(0.35, 400);
            window.wave().markProperty().set(620_000);
        }, listed);
        step("", () -> {
            window.wave().showAll();
            window.actions().find("bench-size").run().run();
            window.crate().changeOptions(
                    o -> o.withTreatment(o.treatment().withLevel(Optional.of(new LevelTarget(LevelMeasure.LUFS_M, -16))).withCeiling(Optional.of(-1.0))
                            .withTrim(Optional.of(-60.0)).withFadeIn(o.treatment().fadeIn().withMs(3)).withFadeOut(o.treatment().fadeOut().withMs(150))),
                    "levels");
        }, listed);
        step("levels", () -> {
            window.chooseLine("kettle");
            window.turnBench();
        }, listed);
        step("", () -> {
            window.setDark(false);
            window.crate().aim("files");
        }, listed);
        step("", () -> window.crate().changeOptions(o -> o.withTreatment(Treatment.NONE).withContainer(Choice.of("mp3")), "mailing"), listed);
        step("", () -> {
            window.chooseLine("overture glass");
            window.turnToResult();
        }, listed);
        step("result", () -> {}, () -> window.beside().comparedProperty().get().isPresent());
        step("", () -> {
            window.setDark(false);
            window.turnToResult();
            window.crate().undo();
            window.crate().undo();
        }, listed);
        step("", () -> {
            window.setDark(false);
            window.chooseLine("bottle_72");
            window.showBench("wave");
        }, listed);
        step("loop", () -> {
            window.actions().find("bench-size").run().run();
            window.actions().find("loop-find").run().run();
        }, () -> listed.getAsBoolean() && !window.loops().found().isEmpty() && window.wave().isRead());
        step("", () -> {
            window.actions().find("bench-size").run().run();
            window.crate().undo();
        }, listed);
        step("", () -> window.crate().start(Job.EMPTY.gathering(List.of(demo.sources().getFirst().resolve("Tin Kitchen"))).aimedAt("files")), listed);
        step("library", () -> {
            window.library().playsOnChoiceProperty().set(false);
            window.library().open(demo.sources().getFirst());
            window.showBench("library");
            window.actions().find("bench-size").run().run();
        }, () -> window.library().count() > 0 && window.library().toReadProperty().get() == 0 && listed.getAsBoolean());
        step("", () -> {
            window.actions().find("bench-size").run().run();
            window.crate().start(demo);
            window.crate().aim("files");
        }, listed);
        step("", () -> {
            window.crate().changeOptions(o -> o.withContainer(Choice.of("sf2")).withTreatment(Treatment.NONE), "bank");
            window.chooseLine("wind-up harp.sfz");
            window.list().currentProperty().get().ifPresent(i -> window.list().unfold(i, true));
            window.showBench("keys");
        }, listed);
        step("key-bench", () -> window.keys().choose(3, false), listed);
        step("", () -> window.crate().changeOptions(o -> o.withContainer(Choice.asDestination()), "bank"), listed);
        step("", () -> window.chooseLine("windmill 96"), listed);
        step("", () -> {
            window.treatments().scopeProperty().set(TreatmentModel.Scope.CHOSEN);
            window.treatments().change("slices", t -> t.withFinds(t.finds().withChop(Chop.by(Chop.By.ONSETS))));
        }, listed);
        step("", () -> {
            window.chooseLine("windmill 96");
            window.showBench("keys");
        }, listed);
        step("slices", () -> window.keys().choose(4, false), listed);
        step("spectrum-dark", () -> {
            window.setDark(true);
            window.showBench("wave");
            window.wave().asSpectrumProperty().set(true);
            window.wave().inBarsProperty().set(true);
        }, listed);
        step("", () -> {
            window.setDark(false);
            window.wave().asSpectrumProperty().set(false);
            window.wave().inBarsProperty().set(false);
            window.treatments().scopeProperty().set(TreatmentModel.Scope.ALL);
            window.crate().undo();
        }, listed);
        step("", () -> {
            window.crate().aim("keyboard-sampler");
            window.crate().changeOptions(o -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMemory(Optional.of(0.4)))), "memory");
        }, listed);
        step("", () -> {
            window.chooseLine("wind-up harp.sfz");
            window.showBench("fit");
        }, listed);
        step("fit", () -> window.actions().find("bench-size").run().run(), listed);
        step("", () -> {
            window.actions().find("bench-size").run().run();
            window.crate().changeOptions(o -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMemory(Optional.empty()))), "memory");
            window.crate().aim("files");
        }, listed);
        step("", () -> {
            window.crate().start(Job.EMPTY.gathering(List.of(demo.sources().getFirst().resolve("Rhythms"))).aimedAt("session").packingInto(demo.into()));
            window.crate().changeOptions(o -> o.withSession(o.session().withTracks(TrackStart.at(3))), "tracks");
            window.showBench("session");
        }, listed);
        step("session", () -> window.actions().find("bench-size").run().run(), listed);
        step("", () -> {
            window.actions().find("bench-size").run().run();
            window.crate().start(demo);
            window.crate().aim("files");
        }, listed);
        step("sheet", () -> {
            window.crate().aim("card-sampler");
            window.cards().editSheet();
        }, listed);
        step("", () -> {
            window.cards().close();
            window.crate().start(Job.EMPTY.gathering(List.of(demo.sources().getFirst().resolve("Tin Kitchen"))).aimedAt("drum-pads")
                    .packingInto(Optional.of(crateFolder.resolveSibling("orchard card"))));
        }, listed);
        step("", () -> {
            window.crate().changeOptions(o -> o.withExisting(ExistingFiles.REPLACE), "existing files");
            window.run().pack(window.crate().listProperty().get(), window.crate().path(), window.crate().job().into().orElseThrow());
        }, () -> !window.run().runningProperty().get());
        step("", () -> {
            window.cards().close();
            window.showBench("device");
            window.actions().find("bench-size").run().run();
        }, () -> window.device().card().shownProperty().get().isPresent() && !window.device().card().outlinesProperty().get().isEmpty());
        step("device", () -> window.device().on(PAD_KEY, DeviceModel.USUAL_VELOCITY), () -> true);
        step("", () -> {
            window.device().off(PAD_KEY);
            window.actions().find("bench-size").run().run();
            window.crate().start(demo);
            window.crate().aim("files");
        }, listed);
        step("", () -> {
            window.crate().start(Job.EMPTY.gathering(List.of(demo.sources().getFirst().resolve("Bottle Organ"))).aimedAt("files"));
            window.crate().changeOptions(o -> o.withPlacing(o.placing().withJoining(o.placing().joining().withName("bottles").withGap(250))), "join");
        }, listed);
        step("joined-dark", () -> {
            window.setDark(true);
            window.chooseLine("bottles");
            window.showBench("wave");
        }, listed);
        step("", () -> {
            window.setDark(false);
            window.crate().start(demo);
            window.crate().aim("files");
        }, listed);
        step("", () -> {
            // What an earlier run left is no part of the picture.
            window.crate().changeOptions(o -> o.withExisting(ExistingFiles.REPLACE)
                    .withTreatment(o.treatment().withLevel(Optional.of(new LevelTarget(LevelMeasure.LUFS_M, -14))).withCeiling(Optional.of(-1.0))),
                    "existing files");
        }, listed);
        step("", () -> {
            window.crate().alsoFor("drum-pads");
            window.crate().packInto(crateFolder.resolveSibling("orchard card"));
            window.crate().showDelivery(0);
        }, listed);
        step("packing-slip", () -> window.actions().find("pack").run().run(), () -> !window.run().runningProperty().get());
        new Clock().start();
    }

    private void step(String name, Runnable prepare, BooleanSupplier ready) { steps.add(new Step(name, prepare, ready)); }

    private final class Clock extends AnimationTimer {
        private boolean prepared;
        private long readySince;

        @Override public void handle(long now) {
            Step step = steps.peek();
            if (step == null) {
                stop();
                end.run();
                return;
            }
            if (!prepared) {
                step.prepare().run();
                prepared = true;
                readySince = 0;
            } else
                if (!step.ready().getAsBoolean())
                    readySince = 0;
                else
                    if (readySince == 0)
                        readySince = now;
                    else
                        if (now - readySince > SETTLE_NANOS) {
                            if (!step.name().isEmpty()) write(step.name());
                            steps.remove();
                            if (!step.name().isEmpty() && step.name().equals(until)) steps.clear();
                            prepared = false;
                        }
        }
    }

    private void write(String name) {
        WritableImage image = window.scene().snapshot(null);
        PixelReader pixels = image.getPixelReader();
        BufferedImage picture = new BufferedImage((int) image.getWidth(), (int) image.getHeight(), BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < picture.getHeight(); y++)
            for (int x = 0; x < picture.getWidth(); x++)
                picture.setRGB(x, y, pixels.getArgb(x, y));
        try {
            ImageIO.write(picture, "png", folder.resolve(name + ".png").toFile());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
