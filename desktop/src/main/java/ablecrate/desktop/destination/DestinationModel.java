package ablecrate.desktop.destination;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern;
import ablecrate.dsp.Dither;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.names.NameReading;
import ablecrate.library.Gathered;
import ablecrate.plan.Banks;
import ablecrate.plan.Change;
import ablecrate.plan.Choice;
import ablecrate.plan.ExistingFiles;
import ablecrate.plan.FactsChoice;
import ablecrate.plan.InstrumentOptions;
import ablecrate.plan.KeyGaps;
import ablecrate.plan.Kits;
import ablecrate.plan.MapBy;
import ablecrate.plan.Mending;
import ablecrate.plan.MonoLaw;
import ablecrate.plan.PackOptions;
import ablecrate.plan.PadOrder;
import ablecrate.plan.PackingItem;
import ablecrate.plan.Property;
import ablecrate.plan.Verdict;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// What a sheet leaves to the user, and the fixes that its rules offer.
public final class DestinationModel {
    private static final List<Integer> USUAL_RATES = List.of(22050, 32000, 44100, 48000, 88200, 96000);

    private final CrateModel crate;

    public DestinationModel(CrateModel crate) { this.crate = crate; }

    public CrateModel crate() { return crate; }

    private DestinationSheet sheet() { return crate.sheetProperty().get(); }

    private PackOptions options() { return crate.job().options(); }

    /// A choice among values in words.
    /// @param values at least two; one alone is no choice
    public record Option<T>(String id, String title, List<T> values, T value, java.util.function.Function<T, String> text,
            java.util.function.Consumer<T> set) {}

    /// What is open at this destination, in the order of the signal.
    public List<Option<?>> openOptions() {
        List<Option<?>> open = new ArrayList<>();
        Mending mending = options().mending();
        DestinationSheet.Accepts a = sheet().accepts();
        List<String> containers = new ArrayList<>(a.containers().isEmpty() ? SoundFormats.WRITTEN.stream().map(f -> f.id()).toList() : a.containers());
        containers.addAll(a.instruments());
        if (containers.size() > 1)
            open.add(choice("container", "Container", containers, options().container(), DestinationModel::containerText,
                    v -> set("container", options().withContainer(v))));
        if (options().container() instanceof Choice.Of<String>(String id) && InstrumentFormats.byId(id).isPresent()) instrumentOptions(open);
        List<Integer> rates = a.ratesHz().isEmpty() ? USUAL_RATES : a.ratesHz();
        if (rates.size() > 1)
            open.add(choice("rate", "Rate", rates, options().rateHz(), r -> String.format(Locale.ROOT, "%,d Hz", r), v -> set("rate", options().withRate(v))));
        List<Depth> depths = a.depths().isEmpty() ? List.of(Depth.values()) : a.depthList();
        if (depths.size() > 1) open.add(choice("depth", "Depth", depths, options().depth(), Depth::label, v -> set("depth", options().withDepth(v))));
        List<Optional<ChannelChoice>> channels = new ArrayList<>(List.of(Optional.empty()));
        for (ChannelChoice c : ChannelChoice.values())
            if (c == ChannelChoice.KEEP || accepts(c == ChannelChoice.STEREO ? 2 : 1)) channels.add(Optional.of(c));
        open.add(new Option<>("channels", "Channels", channels, options().channels(),
                c -> c.map(DestinationModel::channelText).orElse("by the destination"),
                c -> set("channels", options().withChannels(c))));
        if (accepts(1))
            open.add(new Option<>("mono", "Stereo to mono", List.of(MonoLaw.values()), options().monoLaw(), DestinationModel::monoText,
                    m -> set("stereo to mono", options().withMonoLaw(m))));
        open.add(new Option<>("dither", "Dither", List.of(Dither.values()), options().dither(), Dither::label, d -> set("dither", options().withDither(d))));
        if (containers.contains("mp3") || containers.contains("opus")) open.add(qualityOption());
        open.add(factsOption());
        open.add(new Option<>("damage", "Damage",
                List.of(Mending.NONE.withLikelyDelay(mending.takesLikelyDelay()), mending.withLooking(true).withMending(false),
                        mending.withLooking(true).withMending(true)),
                mending,
                DestinationModel::damageText, v -> set("damage", options().withMending(v))));
        open.add(new Option<>("delay", "Delay not said", List.of(false, true), mending.takesLikelyDelay(), t -> t ? "take the likely one off" : "leave it",
                t -> set("delay", options().withMending(mending.withLikelyDelay(t)))));
        open.add(new Option<>("existing", "If it is there", List.of(ExistingFiles.values()), options().existing(), DestinationModel::existingText,
                e -> set("existing files", options().withExisting(e))));
        open.add(new Option<>("verify", "Trust what is there", List.of(false, true), options().placing().verifies(),
                v -> v ? "by its checksum" : "by size and time", v -> set("trust", options().withPlacing(options().placing().withVerifying(v)))));
        if (NamePattern.parse(sheet().layout().folder().isEmpty() ? "(name)" : sheet().layout().folder()).uses(NamePattern.Word.KIT)) kitOptions(open);
        open.add(new Option<>("mirror", "Source folders", List.of(false, true), options().mirror().orElse(sheet().layout().mirror()),
                m -> m ? "rebuilt" : "left out",
                m -> set("source folders", options().withMirror(Optional.of(m)))));
        return open;
    }

    private void kitOptions(List<Option<?>> open) {
        Kits now = options().placing().kits();
        List<OptionalInt> numbers = new ArrayList<>(List.of(OptionalInt.empty()));
        IntStream.rangeClosed(1, Math.max(sheet().layout().maxFolders(), 1)).mapToObj(OptionalInt::of).forEach(numbers::add);
        if (!numbers.contains(now.first())) numbers.add(now.first());
        open.add(new Option<>("first-kit", "First new kit", numbers, now.first(), n -> n.isPresent() ? Integer.toString(n.getAsInt()) : "after those there",
                n -> set("first kit", options().withPlacing(options().placing().withKits(now.withFirst(n))))));
        open.add(new Option<>("pad-order", "Pads", List.of(PadOrder.values()), now.order(), PadOrder::label,
                o -> set("order of pads", options().withPlacing(options().placing().withKits(now.withOrder(o))))));
    }

    private Option<Quality> qualityOption() {
        List<Quality> all = new ArrayList<>(Stream.of(Quality.Word.values()).map(Quality::of).toList());
        if (!all.contains(options().quality())) all.add(options().quality());
        return new Option<>("quality", "MP3 and Opus", all, options().quality(),
                q -> q.constantKbps().isPresent() ? q.constantKbps().getAsInt() + " kbit/s throughout" : q.word().id(),
                q -> set("quality", options().withQuality(q)));
    }

    private static String damageText(Mending m) { return m.mendsClicks() ? "look for it, mend clicks" : m.looksForDamage() ? "look for it" : "not looked for"; }

    private void instrumentOptions(List<Option<?>> open) {
        InstrumentOptions now = options().instruments();
        open.add(new Option<>("map", "Loose sounds", List.of(MapBy.values()), now.mapBy(), DestinationModel::mapText,
                m -> set("map of loose sounds", options().withInstruments(now.withMapBy(m)))));
        List<Integer> steps = new ArrayList<>(List.of(1, 2, 3));
        if (!steps.contains(now.kit().stepKeys())) steps.add(now.kit().stepKeys());
        open.add(new Option<>("kit-step", "Keys of a kit", steps, now.kit().stepKeys(), DestinationModel::stepText,
                k -> set("keys of a kit", options().withInstruments(now.withKit(now.kit().withStep(k))))));
        open.add(new Option<>("kits", "Kits", List.of(false, true), now.kit().isOfAll(), a -> a ? "one of all" : "one a folder",
                a -> set("kits", options().withInstruments(now.withKit(now.kit().withAll(a))))));
        open.add(new Option<>("gaps", "Between roots", List.of(KeyGaps.values()), now.gaps(), DestinationModel::gapsText,
                g -> set("keys between roots", options().withInstruments(now.withGaps(g)))));
        List<NameReading> readings = new ArrayList<>(
                Stream.of(OptionalInt.empty(), OptionalInt.of(0), OptionalInt.of(12), OptionalInt.of(-12)).map(now.names()::withShift).toList());
        if (!readings.contains(now.names())) readings.add(now.names());
        open.add(new Option<>("middle-c", "Middle C", readings, now.names(), DestinationModel::middleText,
                r -> set("middle C in names", options().withInstruments(now.withNames(r)))));
        open.add(new Option<>("bank", "Instruments", List.of(Banks.values()), now.banks(), DestinationModel::banksText,
                b -> set("banks", options().withInstruments(now.withBanks(b)))));
        open.add(new Option<>("defaults", "If no release", List.of(true, false), now.playingDefaults(), d -> d ? "a fitting one" : "leave it so",
                d -> set("playing defaults", options().withInstruments(now.withPlayingDefaults(d)))));
    }

    private static String containerText(String id) {
        return SoundFormats.byId(id).map(SoundFormat::name).or(() -> InstrumentFormats.byId(id).map(InstrumentFormat::name)).orElse(id);
    }

    private static String middleText(NameReading reading) {
        if (reading.shiftKeys().isEmpty()) return "as it sounds";
        return switch (reading.shiftKeys().getAsInt()) {
            case 0 -> "is C4";
            case 12 -> "is C3";
            case -12 -> "is C5";
            default -> String.format(Locale.ROOT, "keys moved by %+d", reading.shiftKeys().getAsInt());
        };
    }

    private static String stepText(int keys) {
        return switch (keys) {
            case 1 -> "neighbours";
            case 2 -> "every second";
            case 3 -> "every third";
            default -> "every " + keys + "th";
        };
    }

    private static String banksText(Banks banks) {
        return switch (banks) {
            case AS_SOURCE -> "as the source";
            case ONE -> "all in one bank";
            case EACH -> "a bank each";
        };
    }

    private static String factsText(FactsChoice choice) {
        if (choice.equals(FactsChoice.ALL)) return "all of them";
        if (choice.leavesFiles()) return "files as they are";
        if (choice.equals(FactsChoice.WITH_UNKNOWN)) return "all, unknown chunks too";
        Keeps k = choice.written();
        List<String> kinds = new ArrayList<>();
        if (k.loops()) kinds.add("loops");
        if (k.mapping()) kinds.add("map");
        if (k.cues()) kinds.add("cues");
        if (k.broadcast()) kinds.add("dates");
        if (k.texts()) kinds.add("texts");
        if (choice.keepsUnknown()) kinds.add("unknown chunks");
        return kinds.isEmpty() ? "none" : String.join(", ", kinds);
    }

    private Option<FactsChoice> factsOption() {
        List<FactsChoice> all = new ArrayList<>(List.of(FactsChoice.ALL, new FactsChoice(new Keeps(true, true, true, false, false), false, false),
                new FactsChoice(new Keeps(true, true, false, false, false), false, false),
                new FactsChoice(new Keeps(false, false, false, false, false), false, false),
                FactsChoice.AS_THEY_ARE, FactsChoice.WITH_UNKNOWN));
        if (!all.contains(options().facts())) all.add(options().facts());
        return new Option<>("facts", "Facts in files", all, options().facts(), DestinationModel::factsText,
                f -> set("facts in files", options().withFacts(f)));
    }

    private static String gapsText(KeyGaps gaps) {
        return switch (gaps) {
            case HALF -> "half-way each";
            case UP -> "to the lower root";
            case DOWN -> "to the higher root";
        };
    }

    private static String mapText(MapBy by) {
        return switch (by) {
            case AUTO -> "as they tell";
            case CHUNKS -> "by their chunks";
            case NAMES -> "by their names";
            case KIT -> "a kit, one a key";
        };
    }

    private boolean accepts(int channels) { return sheet().accepts().channels().isEmpty() || sheet().accepts().channels().contains(channels); }

    private void set(String what, PackOptions next) { crate.changeOptions(_ -> next, what); }

    private static <T> Option<Choice<T>> choice(String id, String title, List<T> values, Choice<T> value, java.util.function.Function<T, String> text,
            java.util.function.Consumer<Choice<T>> set) {
        List<Choice<T>> all = new ArrayList<>(List.of(Choice.<T>asDestination()));
        all.add(Choice.keep());
        values.forEach(v -> all.add(Choice.of(v)));
        return new Option<>(id, title, all, value, c -> switch (c) {
            case Choice.AsDestination<T>() -> "by the destination";
            case Choice.Keep<T>() -> "as the source";
            case Choice.Of<T>(T v) -> text.apply(v);
        }, set);
    }

    private static String channelText(ChannelChoice choice) {
        return switch (choice) {
            case KEEP -> "as the source";
            case MONO -> "mono";
            case STEREO -> "stereo";
            case SPLIT -> "split into mono files";
        };
    }

    private static String monoText(MonoLaw law) {
        return switch (law) {
            case MID -> "middle, (L+R)/2";
            case LEFT -> "left only";
            case RIGHT -> "right only";
        };
    }

    private static String existingText(ExistingFiles existing) {
        return switch (existing) {
            case SKIP -> "leave it";
            case UPDATE -> "update what changed";
            case REPLACE -> "replace it";
            case NUMBER -> "number the new";
        };
    }

    public String namePattern() { return options().namePattern().orElse(sheet().names().pattern()); }

    /// Takes a pattern over if it is one.
    /// @return what is wrong with it
    public Optional<String> setNamePattern(String pattern) {
        try {
            NamePattern.parse(pattern);
        } catch (IllegalArgumentException e) {
            return Optional.of(e.getMessage());
        }
        Optional<String> own = pattern.equals(sheet().names().pattern()) ? Optional.empty() : Optional.of(pattern);
        if (!own.equals(options().namePattern())) set("names", options().withNamePattern(own));
        return Optional.empty();
    }

    /// What the first sound that goes will be called.
    public String namePreview() {
        return crate.listProperty().get().items().stream().filter(i -> !i.outputs().isEmpty()).findFirst()
                .map(i -> i.source().fileName() + " → " + i.outputs().getFirst().path()).orElse("");
    }

    /// A way out of what a rule causes, in words, and what it does.
    public record Fix(String text, Runnable run) {}

    public List<Fix> fixes(Property rule) {
        List<PackingItem> touched = crate.listProperty().get().items().stream().filter(i -> i.change(rule).filter(Change::isOfNote).isPresent())
                .toList();
        List<Fix> fixes = new ArrayList<>();
        List<Path> linked = touched.stream().map(i -> i.source().content()).filter(Gathered.Content.Links.class::isInstance)
                .map(Gathered.Content.Links.class::cast)
                .flatMap(l -> l.list().there().stream()).distinct().toList();
        if (rule == Property.KIND && !linked.isEmpty())
            fixes.add(new Fix("Gather the " + linked.size() + (linked.size() == 1 ? " sound" : " sounds") + " that playlists point at",
                    () -> crate.gather(linked)));
        if (rule == Property.STRUCTURE && !touched.isEmpty())
            fixes.add(new Fix("Leave the " + touched.size() + (touched.size() == 1 ? " damaged file" : " damaged files") + " out",
                    () -> crate.remove(touched.stream().map(i -> i.source().path()).collect(java.util.stream.Collectors.toSet()))));
        if (rule == Property.START && !options().mending().takesLikelyDelay() && !touched.isEmpty())
            fixes.add(new Fix("Take the likely delay off", () -> set("line up", options().withMending(options().mending().withLikelyDelay(true)))));
        if (rule == Property.DAMAGE && !options().mending().mendsClicks() && !touched.isEmpty())
            fixes.add(new Fix("Mend short clicks", () -> set("mend clicks", options().withMending(options().mending().withMending(true)))));
        List<PackingItem> blocked = touched.stream().filter(i -> i.verdict() == Verdict.BLOCKED).toList();
        if (rule == Property.CHANNELS && options().channels().filter(c -> c == ChannelChoice.SPLIT).isEmpty() && accepts(1) && !touched.isEmpty())
            fixes.add(new Fix("Split into mono files", () -> set("split into mono files", options().withChannels(Optional.of(ChannelChoice.SPLIT)))));
        if (rule == Property.NAME && !touched.isEmpty() && !namePattern().equals("(name)"))
            fixes.add(new Fix("Use the plain name", () -> set("plain names", options().withNamePattern(Optional.of("(name)")))));
        if (!blocked.isEmpty())
            fixes.add(new Fix("Take " + blocked.size() + (blocked.size() == 1 ? " blocked file" : " blocked files") + " out of the job",
                    () -> crate.remove(blocked.stream().map(i -> i.source().path()).collect(java.util.stream.Collectors.toSet()))));
        return fixes;
    }
}
