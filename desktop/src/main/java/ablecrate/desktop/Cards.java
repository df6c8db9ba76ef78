package ablecrate.desktop;

import ablecrate.desktop.action.Actions;
import ablecrate.desktop.action.ActionsView;
import ablecrate.desktop.dump.DumpView;
import ablecrate.desktop.help.FormatsView;
import ablecrate.desktop.help.Guide;
import ablecrate.desktop.help.GuideView;
import ablecrate.desktop.join.JoinOrderView;
import ablecrate.desktop.presets.PresetsView;
import ablecrate.desktop.sheet.SheetModel;
import ablecrate.desktop.sheet.SheetView;
import ablecrate.desktop.slip.SlipView;
import ablecrate.job.Delivery;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;

/// What can lie over the window, and what brings it there.
final class Cards {
    private final Models models;
    private final Background background;
    private final Overlays overlays;
    private final Supplier<Choosers> choosers;
    private final SlipView slip;

    /// @param showPacked lays what was packed of a source over it
    Cards(Models models, Background background, Overlays overlays, Commands commands, Supplier<Choosers> choosers, Consumer<Path> showPacked) {
        this.models = models;
        this.background = background;
        this.overlays = overlays;
        this.choosers = choosers;
        slip = new SlipView(models.run, overlays::close, this::lookAt, commands::reveal, showPacked, commands::pack);
        models.run.slipsProperty().subscribe(s -> {
            if (s.isEmpty()) return;
            overlays.show(slip);
            models.crate.foresee();
        });
    }

    boolean isOpen() { return overlays.isOpen(); }

    void close() { overlays.close(); }

    /// The packing slip, where it lies open.
    Optional<SlipView> openSlip() { return Optional.of(slip).filter(overlays::shows); }

    void showSlip() {
        if (models.run.slipProperty().get().isPresent())
            overlays.show(slip);
        else
            models.crate.tell("nothing was packed yet");
    }

    /// Turns to the destination that packs into a folder.
    private void lookAt(Path folder) {
        List<Delivery> all = models.crate.job().deliveries();
        for (int i = 0; i < all.size(); i++)
            if (all.get(i).into().filter(f -> f.toAbsolutePath().normalize().equals(folder)).isPresent()) {
                models.crate.showDelivery(i);
                return;
            }
        models.run.lookAt(Optional.of(folder));
    }

    void showActions(Actions actions) { overlays.show(new ActionsView(actions, overlays::close)); }

    /// The page of the guide for what is on the screen.
    /// @param bench that is open
    void showGuide(String bench) {
        boolean hasLoop = models.list.currentProperty().get().flatMap(i -> i.source().sound()).filter(f -> !f.metadata().loops().isEmpty()).isPresent();
        overlays.show(new GuideView(Guide.pageFor(bench, models.crate.job().destination(), models.list.all().isEmpty(), hasLoop), overlays::close));
    }

    /// The sheet of the destination, to be changed.
    void editSheet() { overlays.show(new SheetView(new SheetModel(models.crate, background), s -> choosers.get().sheetToSave(s), overlays::close)); }

    /// Samples to a device over MIDI, and from it.
    void showDumps() { overlays.show(new DumpView(models.dumps, () -> choosers.get().folder("Put the sounds into"), overlays::close)); }

    void showJoinOrder() { overlays.show(new JoinOrderView(models.joinOrder, overlays::close)); }

    void showPresets() { overlays.show(new PresetsView(models.presets, overlays::close)); }

    void showFormats() { overlays.show(new FormatsView(overlays::close)); }
}
