package ablecrate.planner.place;

import ablecrate.change.FileChange;
import ablecrate.change.MetadataChange;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet;
import ablecrate.instrument.Broadcast;
import ablecrate.option.PackOptions;
import ablecrate.option.TrackStart;
import ablecrate.plan.Card;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.SessionPlan;
import ablecrate.session.SessionDocument;
import ablecrate.session.TempoMap;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/// Gives each new sound of a session its track and its start. The two sides of a pair share a track.
public final class TrackPlaces {
    private static final Pattern SIDE = Pattern.compile("(.*\\S)[ ._-]+(L|R|left|right)", Pattern.CASE_INSENSITIVE);
    private static final double LEFT = -100, RIGHT = 100;

    private final SessionDocument document;
    private final TrackStart start;
    private final TempoMap bars;
    /// Names of sounds by folder, to see which sides have a partner.
    private final Set<Path> names = new HashSet<>();
    /// Paths that a clip plays already, with where the first of them starts.
    private final Map<String, Long> there = new HashMap<>();
    private final boolean saysStamps;
    private final Map<Path, Long> pairStarts = new HashMap<>();
    private final Map<String, SessionPlan.Place> places = new HashMap<>();
    private long rowEnd;

    private TrackPlaces(SessionDocument document, TrackStart start, boolean saysStamps) {
        this.document = document;
        this.start = start;
        this.saysStamps = saysStamps;
        bars = document.bars();
        rowEnd = document.endFrame();
        document.tracks().forEach(t -> t.clips().forEach(c -> there.merge(c.file(), c.startFrame() - c.offsetFrames(), Math::min)));
    }

    /// @param sheet of the session, with its rate and depth
    public static PackingList of(DestinationSheet sheet, PackOptions options, Card card, List<PackingItem> items) {
        SessionDocument document = SessionSheet.document(sheet, options, card);
        TrackStart start = options.session().onTracks();
        // The first that is on the time line says what its start is of the day.
        if (start.by() == TrackStart.By.STAMP && document.endFrame() == 0) {
            OptionalLong first = items.stream().flatMap(i -> i.outputs().stream()).flatMap(o -> stamp(o).stream()).mapToLong(s -> s).min();
            if (first.isPresent()) document = document.from(first.getAsLong());
        }
        TrackPlaces places = new TrackPlaces(document, start, options.metadata().written().broadcast());
        items.forEach(i -> each(i).forEach(p -> places.names.add(p.source().path().resolveSibling(p.source().stem()))));
        List<PackingItem> placed = items.stream().map(start.by() == TrackStart.By.OFF ? places::stamped : places::placed).toList();
        return new PackingList(sheet, options, placed, Optional.of(SessionPlan.adding(document, card.session().isEmpty(), places.places)));
    }

    private static Stream<PackingItem> each(PackingItem item) { return item.isInstruments() ? item.parts().stream() : Stream.of(item); }

    private static Optional<Long> stamp(PlannedOutput output) {
        return output.metadata().broadcast().map(Broadcast::timeReferenceFrames).filter(t -> t > 0);
    }

    private PackingItem placed(PackingItem item) {
        List<PackingItem> parts = each(item).toList();
        // Instruments are played from keys, not along a time line.
        if (item.isInstruments() && !item.maps().isEmpty() || parts.stream().allMatch(p -> p.outputs().isEmpty())) return item;
        List<FileChange> told = new ArrayList<>();
        parts.forEach(p -> track(p).ifPresent(told::add));
        return told.isEmpty() || item.isInstruments() ? stamped(item) : stamped(item.with(told.getFirst(), item.outputs()));
    }

    /// A side of a pair: the name of both, and which it is.
    private Optional<Matcher> side(PackingItem item) {
        Matcher side = SIDE.matcher(item.source().stem());
        if (item.outputs().size() != 1 || item.outputs().getFirst().shape().channels() != 1 || !side.matches()) return Optional.empty();
        String own = side.group(2), stem = item.source().stem(), start = stem.substring(0, stem.length() - own.length());
        boolean isLeft = isLeft(own);
        String other = switch (own.length()) {
            case 1 -> isLeft ? "R" : "L";
            default -> isLeft ? "right" : "left";
        };
        return Stream.of(other, other.toLowerCase(Locale.ROOT), other.toUpperCase(Locale.ROOT), Character.toUpperCase(other.charAt(0)) + other.substring(1))
                .anyMatch(o -> names.contains(item.source().path().resolveSibling(start + o))) ? Optional.of(side) : Optional.empty();
    }

    private static boolean isLeft(String side) { return Character.toUpperCase(side.charAt(0)) == 'L'; }

    private Optional<FileChange> track(PackingItem item) {
        if (item.outputs().isEmpty() || item.outputs().stream().allMatch(o -> there.containsKey(o.path()))) return Optional.empty();
        Optional<Matcher> side = side(item);
        String name = side.map(s -> s.group(1)).orElse(item.source().stem());
        PlannedOutput first = item.outputs().getFirst();
        Optional<Path> pair = side.map(s -> item.source().path().resolveSibling(name));
        Start at = pair.map(pairStarts::get).map(f -> new Start(f, Optional.empty())).orElseGet(() -> start(first));
        pair.ifPresent(p -> pairStarts.put(p, at.frame()));
        rowEnd = Math.max(rowEnd, at.frame() + first.shape().frames());
        for (int i = 0; i < item.outputs().size(); i++) {
            double pan = side.isPresent() ? isLeft(side.get().group(2)) ? LEFT : RIGHT : item.outputs().size() == 2 ? i == 0 ? LEFT : RIGHT : 0;
            places.put(item.outputs().get(i).path(), new SessionPlan.Place(name, at.frame(), pan));
        }
        return Optional.of(new FileChange.OnTrack(name, bars.text(at.frame()), at.why()));
    }

    /// What lies on the time line says the time of day of its first frame, so that others put it there as well.
    private PackingItem stamped(PackingItem item) {
        if (!saysStamps || item.isInstruments()) return item;
        List<PlannedOutput> all = new ArrayList<>();
        Optional<MetadataChange> change = Optional.empty();
        for (PlannedOutput output : item.outputs()) {
            Optional<Broadcast> own = output.metadata().broadcast();
            Optional<Long> before = own.map(Broadcast::timeReferenceFrames),
                    at = Optional.ofNullable(places.get(output.path())).map(SessionPlan.Place::startFrame)
                            .or(() -> Optional.ofNullable(there.get(output.path())))
                            .map(f -> f + document.dayFrame());
            boolean isSaid = at.isEmpty() || at.get() < 0 || at.get().equals(before.orElse(0L)) || !canSay(output);
            all.add(isSaid ? output : output.saying(own.map(b -> b.withTimeReference(at.get())).orElseGet(() -> Broadcast.starting(at.get()))));
            if (!isSaid) change = Optional.of(new MetadataChange.TimeStamped(before, at.get()));
        }
        return change.map(c -> item.with(c, all)).orElse(item);
    }

    private static boolean canSay(PlannedOutput output) {
        return SoundFormats.written(output.formatId()).filter(f -> f.capabilities().broadcast()).isPresent();
    }

    private record Start(long frame, Optional<String> why) {}

    private Start start(PlannedOutput output) {
        return switch (start.by()) {
            case BAR -> new Start(Math.round(bars.frame(start.bar())), Optional.empty());
            case ROW -> new Start(rowEnd, Optional.empty());
            default -> {
                Optional<Long> at = stamp(output).map(t -> t - document.dayFrame());
                yield at.isEmpty()
                        ? new Start(0, Optional.of("no time stamp; put at bar 1"))
                        : at.get() < 0
                                ? new Start(0, Optional.of(String.format(Locale.ROOT, "its time stamp is %.3f s before bar 1; put at bar 1",
                                        -at.get() / (double) document.rateHz())))
                                : new Start(at.get(), Optional.empty());
            }
        };
    }
}
