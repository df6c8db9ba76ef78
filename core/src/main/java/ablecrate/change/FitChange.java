package ablecrate.change;

import ablecrate.audio.Figures;
import ablecrate.destination.DeviceLimits;
import ablecrate.fit.Fit;
import ablecrate.fit.FitStep;
import ablecrate.fit.FitTask;
import ablecrate.fit.Harm;
import ablecrate.fit.Need;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;

/// What becomes of instruments that are more than a device holds. Differences are those of [ablecrate.fit.HeardNote], in dB, in the mean over notes.
public sealed interface FitChange extends Change {
    @Override default Property property() { return Property.ZONES; }

    /// All of a fit: what nothing makes fit, how different the others sound, and each step.
    static List<Change> of(Fit fit) {
        List<Change> out = new ArrayList<>();
        if (!fit.leftOut().isEmpty()) out.add(LeftOut.of(fit));
        if (!fit.divided().isEmpty()) out.add(KitsDivided.of(fit));
        if (fit.kept().stream().anyMatch(Fit.Fitted::isChanged)) out.add(Fitted.of(fit));
        Map<FitStep.Kind, List<String>> each = new TreeMap<>();
        Map<FitStep.Kind, List<FitStep>> steps = new TreeMap<>();
        for (Fit.Fitted f : fit.kept())
            for (FitStep step : f.steps()) {
                steps.computeIfAbsent(step.kind(), _ -> new ArrayList<>()).add(step);
                each.computeIfAbsent(step.kind(), _ -> new ArrayList<>())
                        .add("'" + f.after().name() + "': " + FitStepTaken.counted(step.kind(), step.before(), step.after()));
            }
        steps.forEach((kind, all) -> out
                .add(new FitStepTaken(kind, fit.kept().stream().mapToLong(f -> counted(f, kind)).sum(), all.stream().mapToLong(FitStep::after).sum(),
                        all.stream().mapToLong(FitStep::savedBytes).sum(), all.stream().mapToDouble(FitStep::harmDb).sum() / fit.kept().size(),
                        each.get(kind).size() > 1 ? each.get(kind) : List.of())));
        return out;
    }

    /// What of an instrument there was to take a step with; samples, also where none of them was changed.
    private static long counted(Fit.Fitted fitted, FitStep.Kind kind) {
        return fitted.steps().stream().filter(s -> s.kind() == kind).findFirst().map(FitStep::before)
                .orElse(kind.isOfEachSample() ? (long) fitted.need().samples() : 0);
    }

    /// Made to fit.
    /// @param harmDb in the mean; `ninetiethDb` is what nine notes of ten stay below
    /// @param worst the note that differs most
    /// @param levelDb mean difference of levels
    /// @param simpleDb what the best simple plan within the same limits would have cost; `simple` is its name
    record Fitted(int instruments, int samplesBefore, int samplesAfter, int zonesBefore, int zonesAfter, int layersBefore, int layersAfter, long bytesBefore,
            long bytesAfter,
            double harmDb, double ninetiethDb, double worstDb, String worst, double levelDb, Optional<Double> simpleDb, String simple, List<String> each)
            implements
                FitChange {
        static Fitted of(Fit fit) {
            List<Fit.Fitted> changed = fit.kept().stream().filter(Fit.Fitted::isChanged).toList();
            Fit.Fitted worst = changed.stream().max(Comparator.comparingDouble(f -> f.harm().worstDb())).orElseThrow();
            Optional<Map.Entry<String, Double>> simple = changed.size() == 1
                    ? changed.getFirst().simpleDb().entrySet().stream().min(Map.Entry.comparingByValue())
                    : Optional.empty();
            return new Fitted(changed.size(), samples(changed.stream().map(Fit.Fitted::before).toList()),
                    samples(changed.stream().map(Fit.Fitted::after).toList()),
                    changed.stream().mapToInt(f -> f.needed().zones()).sum(), changed.stream().mapToInt(f -> f.need().zones()).sum(),
                    changed.stream().mapToInt(f -> f.needed().layers()).max().orElse(0), changed.stream().mapToInt(f -> f.need().layers()).max().orElse(0),
                    fit.bytesBefore(), fit.bytes(), mean(changed, Harm::meanDb), mean(changed, Harm::ninetiethDb), worst.harm().worstDb(),
                    NoteName.of(worst.harm().worstKey()) + " at velocity " + worst.harm().worstVelocity()
                            + (changed.size() > 1 ? " of '" + worst.after().name() + "'" : ""),
                    mean(changed, Harm::levelDb), simple.map(Map.Entry::getValue), simple.map(Map.Entry::getKey).orElse(""), changed.size() > 1
                            ? changed.stream()
                                    .map(f -> String.format(Locale.ROOT, "'%s': %d → %d samples, %s → %s, %.1f dB different", f.after().name(),
                                            f.needed().samples(),
                                            f.need().samples(), Figures.bytes(f.needed().bytes()), Figures.bytes(f.need().bytes()), f.harm().meanDb()))
                                    .toList()
                            : List.of());
        }

        private static int samples(List<Instrument> instruments) {
            return (int) instruments.stream().flatMap(i -> i.zones().stream()).map(z -> z.sample()).distinct().count();
        }

        private interface Figure {
            double of(Harm harm);
        }

        private static double mean(List<Fit.Fitted> all, Figure figure) { return all.stream().mapToDouble(f -> figure.of(f.harm())).average().orElse(0); }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            List<String> less = new ArrayList<>();
            if (layersAfter < layersBefore) less.add(Told.fewer(layersBefore, layersAfter, "layer"));
            if (samplesAfter < samplesBefore) less.add(Told.fewer(samplesBefore, samplesAfter, "sample"));
            if (zonesAfter < zonesBefore && samplesAfter == samplesBefore) less.add(Told.fewer(zonesBefore, zonesAfter, "zone"));
            if (bytesAfter < bytesBefore) less.add(Figures.bytes(bytesBefore) + " → " + Figures.bytes(bytesAfter));
            return new Text(taken(samplesBefore, zonesBefore, bytesBefore), taken(samplesAfter, zonesAfter, bytesAfter),
                    String.format(Locale.ROOT, "fitted%s; sounds %.1f dB different in the mean, %.1f dB at %s%s",
                            less.isEmpty() ? "" : ": " + String.join(", ", less), harmDb, worstDb, worst,
                            simpleDb.map(db -> String.format(Locale.ROOT, " (%s: %.1f dB)", simple, db)).orElse("")));
        }

        /// What of it there are fewer of, before or after.
        private String taken(int samples, int zones, long bytes) {
            return samplesAfter != samplesBefore ? Told.count(samples, "sample") : bytesAfter != bytesBefore ? Figures.bytes(bytes) : Told.count(zones, "zone");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(bytesBefore, bytesAfter, "bytes")); }
    }

    /// One step of it.
    /// @param from,to layers on a key, turns of a round robin, or samples; for rates, sides and ends how many samples there are, and how many are changed
    record FitStepTaken(FitStep.Kind step, long from, long to, long savedBytes, double harmDb, List<String> each) implements FitChange {
        @Override public Verdict verdict() { return Verdict.REDUCED; }

        /// What was done, in words.
        public static String counted(FitStep.Kind step, long before, long after) {
            return switch (step) {
                case KEYS -> after + " of " + before + " keys played, as sounds cannot be moved further";
                case TURNS -> Told.fewer(before, after, "round-robin turn") + "; those that sound most like the others stay";
                case RELEASES -> Told.fewer(before, after, "release sample");
                case LAYERS -> Told.fewer(before, after, "velocity layer");
                case ROOTS -> Told.fewer(before, after, "sample") + "; neighbours stand in";
                case DEPTH -> "fewer bits for " + after + " of " + Told.count(before, "sample");
                case RATE -> "lower sample rate for " + after + " of " + Told.count(before, "sample");
                case MONO -> "mono for " + after + " of " + Told.count(before, "sample");
                case TAILS -> "ends left out of " + after + " of " + Told.count(before, "sample");
            };
        }

        @Override public Text text() {
            return new Text(figure(from, "as before"), figure(to, smaller()),
                    counted(step, from, to) + ": " + (savedBytes > 0 ? "saves " + Figures.bytes(savedBytes) + " for " : "") + Figures.decimal(harmDb, 1)
                            + " dB of difference");
        }

        /// What of it is counted, or in words what becomes of the sounds.
        private String figure(long count, String words) {
            return switch (step) {
                case KEYS -> Told.count(count, "key");
                case LAYERS -> Told.count(count, "layer");
                case TURNS -> Told.count(count, "turn");
                case RELEASES, ROOTS -> Told.count(count, "sample");
                case DEPTH, RATE, MONO, TAILS -> words;
            };
        }

        private String smaller() {
            return switch (step) {
                case DEPTH -> "fewer bits";
                case RATE -> "lower rate";
                case MONO -> "mono";
                default -> "shorter";
            };
        }
    }

    /// Kits that are more than a device holds, each in several instruments of some of its keys.
    /// @param parts how many they are
    record KitsDivided(int kits, int parts, List<String> each) implements FitChange {
        private static String turned(Fit.Fitted kit) {
            int before = FitTask.turns(kit.before()), after = kit.parts().stream().mapToInt(FitTask::turns).max().orElse(before);
            return after == before ? "" : ", with " + after + " of " + Told.count(before, "turn");
        }

        static KitsDivided of(Fit fit) {
            return new KitsDivided(fit.divided().size(), fit.divided().stream().mapToInt(f -> f.parts().size()).sum(),
                    fit.divided().stream().map(f -> "'" + f.before().name() + "' (" + f.lacking() + ") in " + f.parts().size() + " parts" + turned(f))
                            .toList());
        }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(Told.count(kits, "kit"), Told.count(parts, "part"),
                    "divided by keys, as sounds of a kit cannot stand in for each other: " + Told.some(each));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(kits, parts, "instruments")); }
    }

    /// Of many instruments some that nothing makes fit, beside those that do.
    /// @param of how many there are
    /// @param areKits whether all of them are
    record LeftOut(int of, boolean areKits, List<String> each) implements FitChange {
        static LeftOut of(Fit fit) {
            return new LeftOut(fit.instruments().size(), fit.leftOut().stream().allMatch(Fit.Fitted::isKit),
                    fit.leftOut().stream().map(f -> "'" + f.before().name() + "' (" + f.lacking() + ")").toList());
        }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(of, "instrument"), Told.count(of - each.size(), "instrument"),
                    each.size() + " of " + Told.count(of, "instrument") + " left out: " + Told.some(each) + "; nothing makes "
                            + (each.size() == 1 ? "it" : "them") + " fit" + (areKits ? ", as the sounds of a kit cannot stand in for each other" : ""));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(of, of - each.size(), "instruments")); }
    }

    /// A loose sound, made smaller, as all sounds together are more than a device holds.
    /// @param bytesBefore,bytesAfter of its audio
    /// @param allBefore,allAfter of all sounds together
    /// @param harmDb in the mean over its notes
    record SoundFitted(long bytesBefore, long bytesAfter, long allBefore, long allAfter, double harmDb) implements FitChange {
        @Override public Property property() { return Property.SPACE; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Figures.bytes(bytesBefore), Figures.bytes(bytesAfter),
                    String.format(Locale.ROOT, "fitted: %s → %s, %.1f dB different; all sounds together take %s → %s", Figures.bytes(bytesBefore),
                            Figures.bytes(bytesAfter), harmDb, Figures.bytes(allBefore), Figures.bytes(allAfter)));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(bytesBefore, bytesAfter, "bytes")); }
    }

    /// More than the device holds; it will be made to fit once it is known how.
    /// @param over what is too much, in words
    record NotFittedYet(String over) implements FitChange {
        public static NotFittedYet of(FitTask task) { return new NotFittedYet(TooLarge.over(task)); }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() { return new Text(over, "not known yet", "being made to fit: " + over); }
    }

    /// More than the device holds, and not made to fit.
    /// @param over what is too much, in words
    /// @param advice what fitting would cost; empty where that was not asked, or cannot be
    record TooLarge(String over, String advice, List<String> each) implements FitChange {
        public static TooLarge of(FitTask task) { return new TooLarge(over(task), "", List.of()); }

        public static TooLarge advised(FitTask task, Fit fit) {
            List<Change> all = FitChange.of(fit);
            List<String> would = Stream.of(Fitted.class, KitsDivided.class, LeftOut.class).flatMap(kind -> all.stream().filter(kind::isInstance))
                    .map(Change::reason).toList();
            return new TooLarge(over(task),
                    fit.leftOut().size() == fit.instruments().size()
                            ? "it cannot be made to fit: '" + fit.leftOut().getFirst().before().name() + "' is left with " + fit.leftOut().getFirst().lacking()
                                    + (fit.leftOut().getFirst().isKit() ? "; it is a kit, whose sounds cannot stand in for each other" : "")
                            : String.join("; ", would).replaceFirst("fitted", "--fit do would make it fit"),
                    List.of());
        }

        private static String over(FitTask task) {
            DeviceLimits limits = task.limits();
            List<String> out = new ArrayList<>();
            for (Instrument instrument : task.instruments()) {
                Need need = task.need(instrument);
                List<String> each = new ArrayList<>();
                add(each, need.layers(), limits.layers(), "velocity layers");
                add(each, need.samples(), limits.samples(), "samples");
                add(each, need.zones(), limits.zones(), "zones");
                add(each, FitTask.turns(instrument), task.mostTurns(), "turns of a round robin");
                if (limits.instrumentBytes() > 0 && need.bytes() > limits.instrumentBytes())
                    each.add(Figures.bytes(need.bytes()) + " of " + Figures.bytes(limits.instrumentBytes()));
                if (!each.isEmpty()) out.add((task.instruments().size() > 1 ? "'" + instrument.name() + "': " : "") + String.join(", ", each));
            }
            long most = task.mostTogether();
            if (limits.totalBytes() > 0 && most > limits.totalBytes())
                out.add(Figures.bytes(most) + " of " + Figures.bytes(limits.totalBytes()) + " " + task.totalInWords());
            return out.isEmpty() ? "sounds that would be moved too far" : Told.some(out);
        }

        private static void add(List<String> out, long value, long limit, String noun) {
            if (limit > 0 && value > limit) out.add(value + " of " + limit + " " + noun);
        }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() { return new Text(over, "too large", "more than the device holds: " + over + (advice.isEmpty() ? "" : "; " + advice)); }
    }
}
