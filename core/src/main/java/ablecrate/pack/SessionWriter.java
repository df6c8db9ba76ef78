package ablecrate.pack;

import ablecrate.json.Json;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.SessionPlan;
import ablecrate.session.SessionDocument;
import ablecrate.session.Sessions;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Enters what was packed into the document of its session, and keeps what was there, so that the whole pack can be taken back.
final class SessionWriter {
    private static final Set<String> NEW = Set.of("written", "numbered"), UNCHANGED = Set.of(SlipLines.SKIPPED, SlipLines.LEFT);

    private final SessionPlan plan;
    private final Path root;
    private final Originals originals;

    SessionWriter(SessionPlan plan, Path root, Instant now) {
        this.plan = plan;
        this.root = root;
        this.originals = new Originals(root, now);
    }

    Originals originals() { return originals; }

    /// Writes document and slip.
    /// @throws IOException if the session is not the one any more that the list was made for
    /// @param along slips of the same run that the page tells of as well
    void write(PackingList list, PackingSlip slip, List<PackingSlip> along) throws IOException {
        SessionDocument before = present(), after = entered(before, list.items(), slip.ofThisRun());
        List<PackingSlip.Output> outputs = slip.ofThisRun().stream().flatMap(i -> i.outputs().stream()).toList();
        boolean isNew = plan.isNew() && !outputs.isEmpty() || !after.equals(before);
        boolean isKept = isNew || outputs.stream().anyMatch(o -> !UNCHANGED.contains(o.state()));
        Path file = root.resolve(SessionDocument.NAME);
        List<Path> rewritten = Stream
                .concat(isNew ? Stream.of(file) : Stream.empty(), Stream.of(root.resolve(Packer.SLIP_JSON), root.resolve(Packer.SLIP_HTML)))
                .toList();
        if (isKept)
            originals.keep(rewritten, outputs.stream().filter(o -> NEW.contains(o.state())).map(o -> new Originals.Added(o.path(), Optional.of(o.xxh128())))
                    .toList());
        if (isNew) {
            Sessions.write(after, root);
            originals.guard(file);
        }
        retire(before, after, outputs);
        SlipFiles.write(slip, along, root);
    }

    private SessionDocument present() throws IOException {
        try {
            Optional<SessionDocument> there = Sessions.in(root);
            if (there.isEmpty()) return plan.document();
            SessionDocument document = there.get();
            if (document.rateHz() != plan.document().rateHz() || !document.depth().equals(plan.document().depth()))
                throw new IOException("the session in " + root + " got another rate or depth while it was packed into; the files are there, its document is as "
                        + "it was; plan again");
            return document.endFrame() == 0 ? document.from(plan.document().dayFrame()) : document;
        } catch (Json.JsonFault e) {
            throw new IOException(e.getMessage());
        }
    }

    private SessionDocument entered(SessionDocument document, List<PackingItem> planned, List<PackingSlip.Item> packed) {
        Set<String> onTracks = document.tracks().stream().flatMap(t -> t.clips().stream()).map(SessionDocument.Clip::file).collect(Collectors.toSet());
        List<SessionDocument.SoundRef> files = new ArrayList<>();
        Map<String, List<SessionDocument.Clip>> tracks = new LinkedHashMap<>();
        Map<String, String> names = new HashMap<>(), there = new HashMap<>();
        for (int i = 0; i < packed.size(); i++)
            for (int k = 0; k < packed.get(i).outputs().size(); k++) {
                PackingSlip.Output output = packed.get(i).outputs().get(k);
                String wanted = planned.get(i).outputs().get(k).path();
                there.put(wanted, output.path());
                files.add(new SessionDocument.SoundRef(output.path(), Optional.of(output.frames()), Optional.of(output.xxh128())));
                Optional<SessionPlan.Place> place = plan.of(wanted);
                if (place.isEmpty() || onTracks.contains(output.path())) continue;
                SessionPlan.Place at = place.get();
                // The two sides of a pair share a track, and nothing else does.
                String key = at.panPercent() != 0 ? at.track() + "\n" + at.startFrame() : output.path();
                names.put(key, at.track());
                tracks.computeIfAbsent(key, _ -> new ArrayList<>())
                        .add(SessionDocument.Clip.of(output.path(), at.startFrame(), output.frames(), at.panPercent()));
            }
        return followed(document, there).with(files,
                tracks.entrySet().stream().map(t -> new SessionDocument.Track(names.get(t.getKey()), 0, 0, false, t.getValue())).toList());
    }

    /// Clips play what took the place of their files, as far as that was written; a file that nothing plays any more goes out of the document.
    /// @param there where outputs lie, by the paths that were planned
    private SessionDocument followed(SessionDocument document, Map<String, String> there) {
        UnaryOperator<SessionDocument.Clip> follow = clip -> Optional.ofNullable(plan.clips().get(clip)).filter(f -> there.containsKey(f.path()))
                .map(f -> clip.of(there.get(f.path()), f.offsetFrames(), f.lengthFrames())).orElse(clip);
        Map<String, Set<String>> inPlace = new HashMap<>();
        plan.files().forEach((file, path) -> inPlace.computeIfAbsent(file, _ -> new LinkedHashSet<>()).add(there.get(path)));
        document.tracks().forEach(t -> t.clips().stream().filter(c -> plan.clips().containsKey(c))
                .forEach(c -> inPlace.computeIfAbsent(c.file(), _ -> new LinkedHashSet<>()).add(follow.apply(c).file())));
        List<SessionDocument.SoundRef> all = new ArrayList<>();
        for (SessionDocument.SoundRef file : document.files()) {
            Set<String> others = inPlace.getOrDefault(file.path(), Set.of(file.path()));
            // What could not be written leaves its clips with the file that they had.
            if (others.stream().anyMatch(Objects::isNull) || others.contains(file.path())) all.add(file);
            others.stream().filter(o -> o != null && !o.equals(file.path()))
                    .forEach(o -> all.add(new SessionDocument.SoundRef(o, Optional.empty(), Optional.empty())));
        }
        return document.following(all, follow);
    }

    /// Files of the session's own folder whose places others took go to the originals.
    private void retire(SessionDocument before, SessionDocument after, List<PackingSlip.Output> outputs) throws IOException {
        Map<String, String> sums = outputs.stream().collect(Collectors.toMap(PackingSlip.Output::path, PackingSlip.Output::xxh128, (a, _) -> a));
        for (SessionDocument.SoundRef gone : before.files()) {
            Path file = root.resolve(gone.path()).normalize();
            if (after.file(gone.path()).isPresent() || !file.startsWith(root) || !Files.isRegularFile(file)) continue;
            String by = plan.files().getOrDefault(gone.path(), "");
            originals.putAside(file, sums.containsKey(by) ? List.of(new Originals.Result(root.resolve(by), sums.get(by))) : List.of());
        }
    }
}
