package ablecrate.relink;

import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.destination.DestinationSheet;
import ablecrate.library.Gathered;
import ablecrate.option.ItemEdit;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.pack.Cards;
import ablecrate.plan.Card;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.SessionPlan;
import ablecrate.planner.ListeningPlanner;
import ablecrate.session.SessionDocument;
import ablecrate.signal.Measurements;
import ablecrate.signal.SourceChain;
import ablecrate.json.Json;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BooleanSupplier;

/// Makes a session whole: everything in its audio folder, at its rate and depth, with clips that follow.
///
/// A clip plays its file from any frame on, and at another rate that is seldom a frame. So a conversion starts a few frames later in the file, such that the
/// clip's first frame falls on one of the result: what was heard from there on is heard at the same instant, exactly. Clips whose offsets want different
/// starts have a file each, up to [#MOST_STARTS]; where a file is cut into more, one serves all clips, each at most half a frame from where it was.
/// @param list what packing into the session's folder does
/// @param sources where each file is taken from, by its path in the document
/// @param found how offline files were found, or why not, in words, by their paths
/// @param worstShiftFrames how far a clip's sound lies from where it was; at the session's rate
public record SessionRepair(SessionCheck check, PackingList list, Map<String, Path> sources, Map<String, String> found, double worstShiftFrames) {
    private static final int MOST_STARTS = 4;

    /// @param sheet of recording sessions
    /// @param searched folders in which offline files are looked for
    public static SessionRepair of(SessionCheck check, List<Path> searched, DestinationSheet sheet, Measurements book, BooleanSupplier stopped)
            throws IOException, Json.JsonFault, OptionConflict {
        Map<String, Gathered> sources = new LinkedHashMap<>();
        Map<String, String> told = new LinkedHashMap<>();
        List<SessionDocument.SoundRef> missing = new ArrayList<>();
        for (SessionCheck.Entry entry : check.toMend())
            if (entry.has(Trouble.OFFLINE))
                missing.add(check.document().file(entry.path()).orElseThrow());
            else
                sources.put(entry.path(), entry.there().orElseThrow());
        MissingFiles.find(missing, searched, stopped).forEach((path, found) -> {
            told.put(path, found.how() + found.file().map(g -> ": " + g.path()).orElse(""));
            found.file().ifPresent(g -> sources.put(path, g));
        });
        return new Making(check, sheet, book, sources).repair(told, stopped);
    }

    /// Offline files that stay so.
    public List<SessionCheck.Entry> left() {
        return check.toMend().stream().filter(e -> e.has(Trouble.OFFLINE) && !list.session().orElseThrow().files().containsKey(e.path())).toList();
    }

    /// The lowest rate among the session's own and those of the files that are converted; in hertz.
    public int lowestRateHz() {
        return list.items().stream().flatMap(i -> i.source().sound().stream()).mapToInt(SoundFile::rateHz).reduce(check.document().rateHz(), Math::min);
    }

    /// A file, from one of its frames on.
    private record Start(String file, long frame) {}

    private static final class Making {
        private final SessionCheck check;
        private final SessionDocument document;
        private final DestinationSheet sheet;
        private final Measurements book;
        private final Map<String, Gathered> sources;
        private final List<PackingItem> items = new ArrayList<>();
        private final Map<Start, PlannedOutput> outputs = new HashMap<>();
        /// Files that are converted once for all of their clips.
        private final Set<String> inOne = new HashSet<>();
        private DestinationSheet taking;

        Making(SessionCheck check, DestinationSheet sheet, Measurements book, Map<String, Gathered> sources) {
            this.check = check;
            this.document = check.document();
            this.sheet = sheet;
            this.taking = sheet;
            this.book = book;
            this.sources = sources;
        }

        SessionRepair repair(Map<String, String> told, BooleanSupplier stopped) throws IOException, Json.JsonFault, OptionConflict {
            Card.Session there = Cards.of(check.folder(), sheet).session().orElseThrow();
            Set<String> taken = new HashSet<>(there.files());
            for (List<Start> round : rounds()) {
                Map<Path, ItemEdit> edits = new HashMap<>();
                round.forEach(s -> edits.put(sources.get(s.file()).path(), ItemEdit.NONE.withPart(part(s))));
                Card card = new Card(Set.of(), Map.of(), Optional.of(new Card.Session(document, Map.of(), Map.of(), taken)), Map.of());
                PackingList list = ListeningPlanner.plan(round.stream().map(s -> sources.get(s.file())).toList(), sheet, PackOptions.DEFAULT, edits, book, card,
                        stopped, (_, _) -> {});
                taking = list.destination();
                for (int i = 0; i < round.size(); i++) {
                    PackingItem item = list.items().get(i);
                    items.add(item);
                    item.outputs().forEach(o -> taken.add(o.path()));
                    if (item.outputs().size() == 1) outputs.put(round.get(i), item.outputs().getFirst());
                }
            }
            return followed(told);
        }

        private Optional<FrameRange> part(Start start) {
            return start.frame() == 0 ? Optional.empty() : Optional.of(new FrameRange(start.frame(), sound(start.file()).frames()));
        }

        private SoundFile sound(String file) { return sources.get(file).sound().orElseThrow(); }

        /// Lists in which each file is there once.
        private List<List<Start>> rounds() {
            Map<String, Set<Long>> starts = new LinkedHashMap<>();
            sources.keySet().forEach(f -> starts.put(f, new TreeSet<>()));
            document.tracks().forEach(t -> t.clips().stream().filter(c -> sources.containsKey(c.file())).forEach(c -> starts.get(c.file()).add(start(c))));
            starts.forEach((file, frames) -> {
                if (frames.size() > MOST_STARTS) inOne.add(file);
            });
            inOne.forEach(file -> starts.put(file, Set.of(0L)));
            List<List<Start>> rounds = new ArrayList<>();
            Set<Path> inRound = new HashSet<>();
            starts.forEach((file, frames) -> {
                int round = 0;
                for (long frame : frames.isEmpty() ? Set.of(0L) : frames) {
                    // Two names of one file are two lines of different lists.
                    while (rounds.size() > round && rounds.get(round).stream().anyMatch(s -> sources.get(s.file()).path().equals(sources.get(file).path())))
                        round++;
                    if (rounds.size() == round) rounds.add(new ArrayList<>());
                    rounds.get(round).add(new Start(file, frame));
                }
            });
            return rounds;
        }

        /// The first frame from which on a clip's offset is a whole number of frames at the session's rate.
        private long start(SessionDocument.Clip clip) {
            if (inOne.contains(clip.file())) return 0;
            int rateHz = sound(clip.file()).rateHz();
            int step = rateHz / BigInteger.valueOf(rateHz).gcd(BigInteger.valueOf(document.rateHz())).intValue();
            return clip.offsetFrames() < sound(clip.file()).frames() ? clip.offsetFrames() % step : 0;
        }

        private SessionRepair followed(Map<String, String> told) {
            Map<SessionDocument.Clip, SessionPlan.Follow> clips = new HashMap<>();
            Map<String, String> files = new HashMap<>();
            outputs.forEach((start, output) -> files.merge(start.file(), output.path(), (a, b) -> a.compareTo(b) <= 0 ? a : b));
            double worst = 0;
            for (SessionDocument.Track track : document.tracks())
                for (SessionDocument.Clip clip : track.clips()) {
                    PlannedOutput output = sources.containsKey(clip.file()) ? outputs.get(new Start(clip.file(), start(clip))) : null;
                    if (output == null) continue;
                    SourceChain chain = output.sourceChain();
                    double exact = (double) (clip.offsetFrames() - chain.part().start()) * chain.outputStep() / chain.inputStep();
                    long offset = Math.clamp(Math.round(exact), 0, Math.max(0, output.shape().frames() - 1));
                    worst = Math.max(worst, Math.abs(offset - exact));
                    clips.put(clip, new SessionPlan.Follow(output.path(), offset, Math.min(clip.lengthFrames(), output.shape().frames() - offset)));
                }
            Map<String, Path> from = new LinkedHashMap<>();
            sources.forEach((file, g) -> from.put(file, g.path()));
            return new SessionRepair(check,
                    new PackingList(taking, PackOptions.DEFAULT, items, Optional.of(new SessionPlan(document, false, Map.of(), clips, files))), from, told,
                    worst);
        }
    }
}
