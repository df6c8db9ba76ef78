package ablecrate.desktop;

import ablecrate.change.Verdict;
import ablecrate.desktop.action.Action;
import ablecrate.desktop.action.Actions;
import ablecrate.desktop.help.Report;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.desktop.slip.SlipView;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyEvent;

/// All that the window does, group by group, each with its key; the benches bring their own.
final class WindowActions {
    private final Models models;
    private final Views views;
    private final Commands commands;
    private final Cards cards;
    private final Remembered remembered;
    private final Actions actions = new Actions();

    WindowActions(Models models, Views views, Commands commands, Cards cards, Remembered remembered) {
        this.models = models;
        this.views = views;
        this.commands = commands;
        this.cards = cards;
        this.remembered = remembered;
        List.of(gather(), check(), hear(), prepare()).forEach(actions::add);
        views.bench.benches().forEach(b -> actions.add(b.keys()));
        List.of(pack(), job(), window()).forEach(actions::add);
    }

    Actions all() { return actions; }

    /// Does what a key means.
    void key(KeyEvent event) {
        boolean isOfBench = !event.isShortcutDown() && !event.isAltDown() && views.bench.openProperty().get().takes(event.getCode());
        if (!isOfBench) actions.answer(event, views.bench.getScene().getFocusOwner(), cards.isOpen());
    }

    private List<Action> gather() {
        return List.of(Action.of("gather-folder", "Gather", "Gather a folder", "Shortcut+G", commands::gatherFolder),
                Action.of("gather-files", "Gather", "Gather files", "Shortcut+Shift+G", commands::gatherFiles),
                Action.of("library", "Gather", "Walk through a folder by ear", "Shortcut+Shift+F", this::toLibrary),
                Action.of("rescan", "Gather", "Look at all files again", "F5", models.crate::rescan),
                Action.plain("remove", "Gather", "Take the chosen out of the job", "Delete", models.list::removeChosen).or("Backspace"),
                Action.of("remove-shown", "Gather", "Take the lines that are shown out of the job", "Shortcut+Delete", models.list::removeShown),
                Action.of("reveal", "Gather", "Show the file in its folder", "Shortcut+R", commands::reveal));
    }

    private List<Action> check() {
        return List.of(Action.told("unfold", "Check", "Unfold an instrument, fold it", "→ ←"),
                Action.of("filter", "Check", "Filter by name", "Shortcut+F", views.list::focusFilter).or("Slash"),
                only(Verdict.KEPT), only(Verdict.CONVERTED), only(Verdict.ADJUSTED), only(Verdict.REDUCED), only(Verdict.BLOCKED),
                Action.of("choose-shown", "Check", "Choose all lines that are shown", "Shortcut+Shift+A", views.list::chooseShown),
                Action.plain("all-lines", "Check", "Show all lines", "0", models.list::showAll),
                Action.plain("worst-first", "Check", "The worst first, or as before", "W", views.list::worstFirst));
    }

    private List<Action> hear() {
        return List.of(Action.plain("play", "Hear", "Play or stop", "Space", () -> views.heard.getValue().toggle()),
                Action.plain("other-side", "Hear", "Source or result", "A", () -> views.heard.getValue().otherSide()),
                Action.plain("piece-next", "Hear", "The next slice or part of a clip", "N", () -> views.wave.walk(1)),
                Action.plain("piece-before", "Hear", "The slice or part before", "Shift+N", () -> views.wave.walk(-1)),
                Action.plain("result", "Hear", "Source beside result, or back", "R", this::turnToResult).forCards());
    }

    private List<Action> prepare() {
        return List.of(Action.plain("start", "Prepare", "Start the sound at the mark", "S", () -> models.edits.cutStart(views.wave.place())),
                Action.plain("end", "Prepare", "End it at the mark", "E", () -> models.edits.cutEnd(views.wave.place())),
                Action.plain("fade-in", "Prepare", "Fade in up to the mark", "Shift+S", () -> models.edits.fadeIn(views.wave.place())),
                Action.plain("fade-out", "Prepare", "Fade out from the mark", "Shift+E", () -> models.edits.fadeOut(views.wave.place())),
                Action.plain("part-add", "Prepare", "Make a part of what lies between start and end", "P", models.edits::addPart),
                Action.plain("part-remove", "Prepare", "Take away the part at the mark", "Shift+P", () -> models.edits.removePart(views.wave.place())),
                Action.plain("cut", "Prepare", "Begin a slice at the mark", "C", () -> models.edits.cutAt(views.wave.place())),
                Action.plain("cut-remove", "Prepare", "Take away the beginning of the slice at the mark", "Shift+C",
                        () -> models.edits.uncutAt(views.wave.place())),
                Action.plain("downbeat", "Prepare", "Begin bar 1 at the mark", "D", () -> models.tempo.beginBarAt(views.wave.place())),
                Action.plain("undo-edits", "Prepare", "Take all edits of the chosen back", "Shift+Backspace", models.edits::undoAll),
                Action.of("line-up", "Prepare", "Line the chosen up by their first onset", "Shortcut+U", models.edits::lineUp),
                Action.of("clicks-out", "Prepare", "Find click tracks beside stems, and take them out", "Shortcut+Shift+U", models.clickTracks::takeOut),
                Action.of("join-order", "Prepare", "Put the joined sounds in order", "Shortcut+Shift+T", cards::showJoinOrder),
                Action.of("level-together", "Prepare", "Level the chosen together", "Shortcut+J", models.edits::group),
                Action.of("level-shown", "Prepare", "Set levels of the lines that are shown", "Shortcut+Shift+J", this::levelShown),
                Action.of("put-on-keys", "Prepare", "Put the chosen sounds on keys of the last instrument", "Shortcut+K", this::putOnKeys),
                Action.plain("loop-add", "Prepare", "Add a loop from the mark to the end", "L", () -> models.loops.add(views.wave.place())),
                Action.plain("loop-find", "Prepare", "Look for places to loop", "Shift+L", models.loops::find),
                Action.of("loop-crossfade", "Prepare", "Loop crossfade of the chosen on or off", "Shortcut+B", models.edits::crossfade),
                Action.of("mono", "Prepare", "Stereo to mono of the chosen: middle, left, right", "Shortcut+M", models.edits::nextMonoLaw));
    }

    private List<Action> pack() {
        return List.of(Action.of("destination", "Pack", "Choose the destination", "Shortcut+D", views.destination::focusDestination),
                Action.of("destination-add", "Pack", "Pack for another destination as well", "Alt+Shift+D", views.destination::addDestination),
                Action.of("destination-next", "Pack", "Look at the next destination of the job", "Alt+D", models.crate::showNextDelivery),
                Action.of("destination-remove", "Pack", "Pack for this destination no longer", "Alt+Shift+Delete", models.crate::notFor),
                Action.of("sheet", "Pack", "Change the destination sheet, or make one", "Shortcut+Shift+D", cards::editSheet),
                Action.of("into", "Pack", "Choose the folder to pack into", "Shortcut+I", commands::chooseInto),
                Action.of("pack", "Pack", "Pack", "Shortcut+Enter", commands::pack),
                Action.of("dumps", "Pack", "Send samples over MIDI, or ask for them", "Shortcut+Shift+M", cards::showDumps),
                Action.of("slip", "Pack", "Show the last packing slip", "Shortcut+L", cards::showSlip),
                Action.of("escape", "Pack", "Stop packing; close what lies over the list", "Esc", this::escape).forCards());
    }

    private List<Action> job() {
        return List.of(Action.of("new", "Job", "New job", "Shortcut+N", commands::newJob),
                Action.of("open-session", "Job", "Open a recording session", "Shortcut+Shift+O", commands::openSession),
                Action.of("open", "Job", "Open a job", "Shortcut+O", commands::openJob), Action.of("save", "Job", "Save the job", "Shortcut+S", commands::save),
                Action.of("save-as", "Job", "Save under another name", "Shortcut+Shift+S", commands::saveAs),
                Action.of("undo", "Job", "Undo", "Shortcut+Z", models.crate::undo),
                Action.of("redo", "Job", "Redo", "Shortcut+Shift+Z", models.crate::redo).or("Shortcut+Y"),
                Action.of("presets", "Job", "Presets", "Shortcut+E", cards::showPresets),
                Action.of("contents", "Job", "Know moved files by their content", "Shortcut+Shift+K",
                        () -> remembered.knowContents(!remembered.isContentKnown()))
                        .on(remembered::isContentKnown));
    }

    private List<Action> window() {
        return List.of(Action.of("to-folders", "Window", "To the folders", "Alt+1", views.top::toFolders),
                Action.of("to-list", "Window", "To the packing list", "Alt+2", views.top::toList),
                Action.of("to-bench", "Window", "To the bench", "Alt+3", () -> views.bench.openProperty().get().focus()),
                Action.plain("turn-bench", "Window", "Levels of all on the bench, or back", "V", this::turnBench),
                Action.plain("bench-size", "Window", "Bench large or small", "B", remembered::toggleBench),
                Action.of("first-steps", "Window", "First steps in an empty list", "Shortcut+F1", () -> remembered.showSteps(!remembered.areStepsShown()))
                        .on(remembered::areStepsShown),
                Action.of("dark", "Window", "Dark window", "Shortcut+T", () -> remembered.setDark(!remembered.isDark())).forCards()
                        .on(remembered::isDark),
                Action.of("text-larger", "Window", "Larger text", "Shortcut+Plus", () -> remembered.stepTextSize(1)).or("Shortcut+Equals").forCards(),
                Action.of("text-smaller", "Window", "Smaller text", "Shortcut+Minus", () -> remembered.stepTextSize(-1)).forCards(),
                Action.of("text-usual", "Window", "Text at its usual size", "Shortcut+0", () -> remembered.setTextSize(TextSize.USUAL)).forCards(),
                Action.of("formats", "Window", "What survives where", "Shortcut+H", cards::showFormats),
                Action.of("guide", "Window", "Guide to what is on the screen", "F1", () -> cards.showGuide(views.bench.openProperty().get().id())).forCards(),
                Action.of("report", "Window", "Copy a report of faults, without file names", "Shift+F1", this::copyReport).forCards(),
                Action.of("actions", "Window", "Actions and keys", "F2", () -> cards.showActions(actions)).forCards());
    }

    private Action only(Verdict verdict) {
        return Action.plain("only-" + verdict.id(), "Check", "Only " + verdict.id(), Integer.toString(verdict.ordinal() + 1),
                () -> models.list.toggle(verdict));
    }

    private void toLibrary() {
        views.bench.show("library");
        if (models.library.folderProperty().get().isEmpty()) commands.walkThroughFolder();
        views.bench.openProperty().get().focus();
    }

    /// The form of levels, for just the lines that are shown.
    private void levelShown() {
        views.list.chooseShown();
        models.treatments.scopeProperty().set(TreatmentModel.Scope.CHOSEN);
        views.bench.show("levels");
    }

    private void putOnKeys() {
        List<Path> sounds = models.list.chosenSounds();
        if (models.keys.zones().isEmpty() || sounds.isEmpty()) {
            models.crate.tell(sounds.isEmpty() ? "choose sounds of the list first" : "choose an instrument's line first, then the sounds");
            return;
        }
        views.bench.show("keys");
        models.keys.putSoundsBeside(sounds);
        views.keys.focus();
    }

    private void escape() {
        if (models.run.runningProperty().get())
            models.run.stop();
        else
            if (cards.isOpen())
                cards.close();
            else
                views.top.toList();
    }

    /// From what one line has, a wave or keys, to the levels of all, and back.
    void turnBench() { turnTo("levels"); }

    /// To the result beside its source, and back to what the line itself has.
    void turnToResult() { cards.openSlip().ifPresentOrElse(SlipView::compareChosen, () -> turnTo("result")); }

    private void turnTo(String bench) {
        if (views.bench.openProperty().get().id().equals(bench))
            views.bench.showOwn();
        else
            views.bench.show(bench);
    }

    private void copyReport() {
        ClipboardContent content = new ClipboardContent();
        content.putString(Report.of(Report.logFile()));
        Clipboard.getSystemClipboard().setContent(content);
        models.crate.tell("a report is on the clipboard; the whole log is " + Report.logFile());
    }
}
