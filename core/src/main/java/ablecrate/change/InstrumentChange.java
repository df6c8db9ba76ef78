package ablecrate.change;

import java.util.ArrayList;
import ablecrate.instrument.Span;
import ablecrate.codec.Problem;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.stream.Collectors;

/// What becomes of instruments: their zones, how they play, and what they say of themselves. The cases in `each` name the zone.
public sealed interface InstrumentChange extends Change {
    @Override List<String> each();

    /// Faults and doubts of one effect, found while the file was read.
    record ProblemsFound(Problem.Effect effect, List<String> found) implements InstrumentChange {
        @Override public Property property() { return Property.STRUCTURE; }

        @Override public Verdict verdict() {
            return switch (effect) {
                case LOST -> Verdict.REDUCED;
                case MEND -> Verdict.CONVERTED;
                case DOUBT -> Verdict.ADJUSTED;
                case NOTE, OWN -> Verdict.KEPT;
            };
        }

        @Override public Text text() {
            String noun = switch (effect) {
                case NOTE -> "note";
                case DOUBT -> "doubt";
                default -> "problem";
            };
            return new Text(Told.count(found.size(), noun), switch (effect) {
                case LOST -> "left out";
                case MEND -> "mended";
                case DOUBT -> "as guessed";
                case NOTE, OWN -> "told";
            }, Told.some(found));
        }

        @Override public List<String> each() { return found.size() > 1 ? found : List.of(); }
    }

    record ZonesEdited() implements InstrumentChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() { return new Text("as the source", "as edited", "zones as edited here"); }

        @Override public List<String> each() { return List.of(); }
    }

    /// Zones whose sound is not there, or cannot be used.
    /// @param zones of all instruments
    record ZonesLost(int zones, List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(zones, "zone"), Told.count(zones - each.size(), "zone"),
                    Told.count(each.size(), "zone") + " left out: " + each.getFirst());
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(zones, zones - each.size(), "zones")); }
    }

    /// Zones that a target cannot choose between.
    /// @param what they are for, in words
    record ZonesUnchosen(String what, String target, List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(each.size(), "zone"), "none",
                    Told.count(each.size(), "zone") + " left out: " + what + ", which " + target + " does not know");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(each.size(), 0, "zones")); }
    }

    /// Zones that are more than the destination plays.
    /// @param what they are, in words
    record ZonesBeyond(String what, List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(each.size(), "zone"), "none", Told.count(each.size(), "zone") + " left out: " + what);
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(each.size(), 0, "zones")); }
    }

    /// Keys that do not sound at the destination.
    /// @param keys that do
    /// @param outside zones that lie on none of them
    /// @param cut zones that lie on some
    record KeysBeyond(Span keys, List<String> outside, List<String> cut) implements InstrumentChange {
        @Override public List<String> each() { return Stream.concat(outside.stream(), cut.stream()).toList(); }

        @Override public Property property() { return Property.MAPPING; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            List<String> told = new ArrayList<>();
            if (!outside.isEmpty()) told.add(Told.count(outside.size(), "zone") + " left out");
            if (!cut.isEmpty()) told.add(Told.count(cut.size(), "zone") + " cut");
            return new Text("all keys", keys.low() + " to " + keys.high(),
                    String.join(", ", told) + ": the destination sounds on the keys " + keys.low() + " to " + keys.high());
        }
    }

    record CrossfadesSplit(String target, List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.MAPPING; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text("crossfades", "strict",
                    "crossfades of " + Told.count(each.size(), "zone") + " become strict splits at the middle: " + target + " has none");
        }
    }

    /// @param instruments each with its articulations, in words
    record KeyswitchesSplit(String target, List<String> instruments) implements InstrumentChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text("keyswitches", "instruments",
                    "one instrument for each articulation, as " + target + " has no keyswitches: " + String.join("; ", instruments));
        }

        @Override public List<String> each() { return List.of(); }
    }

    /// What is odd about a map itself.
    /// @param instrument empty where it is the only one
    record MapOdd(Optional<String> instrument, int zones, List<String> found) implements InstrumentChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() {
            String count = Told.count(zones, "zone");
            return new Text(count, count, instrument.map(i -> "'" + i + "': ").orElse("") + String.join("; ", found));
        }

        @Override public List<String> each() { return List.of(); }
    }

    /// Roots that are far from the pitch of their sound.
    record RootsDoubtful(List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() {
            String roots = Told.count(each.size(), "root");
            return new Text(roots, "as they are", roots + " far from the pitch that is heard: " + Told.some(each));
        }
    }

    record ProgramsMoved(List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.ABOUT; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text("program numbers", "moved", "numbers of " + Told.count(each.size(), "instrument")
                    + " moved, as another has them or the target counts otherwise: " + Told.some(each));
        }
    }

    /// @param fields in words
    record AboutDropped(List<String> fields) implements InstrumentChange {
        @Override public Property property() { return Property.ABOUT; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() { return new Text(String.join(", ", fields), "none", String.join(", ", fields) + " not stored"); }

        @Override public List<String> each() { return List.of(); }
    }

    /// What is said of an instrument as a whole, for a target that has no place for it.
    /// @param settings for people
    record PlayingDropped(List<String> settings, String target) implements InstrumentChange {
        @Override public Property property() { return Property.PLAYING; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() { return new Text(String.join(", ", settings), "none", String.join(", ", settings) + ": not stored in " + target); }

        @Override public List<String> each() { return List.of(); }
    }

    /// All zones softer, as the loudest cannot be raised as far.
    /// @param how the target has gains
    record InstrumentLowered(String instrument, double byDb, String how) implements InstrumentChange {
        @Override public Property property() { return Property.PLAYING; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text("gain", String.format(Locale.ROOT, "%.1f dB softer", byDb), String.format(Locale.ROOT,
                    "all zones of '%s' %.1f dB softer, so that their steps stay: gain is %s there", instrument, byDb, how));
        }

        @Override public List<String> each() { return List.of(); }
    }

    /// Zones louder than before, as their sounds lost more than others when their sides became one.
    record FoldsMadeUp(double mostDb, List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.PLAYING; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            String most = String.format(Locale.ROOT, "%.1f dB", mostDb);
            return new Text("gain", "up to " + most + " louder",
                    Told.count(each.size(), "zone") + " up to " + most + " louder: as mono their sounds play that much softer beside the others");
        }
    }

    /// @param kinds how many zones got which release, by what the instrument is like
    record ReleasesAdded(Map<String, Integer> kinds, List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.PLAYING; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text("no release", "a release", "a release for zones without one: "
                    + kinds.entrySet().stream().map(e -> e.getValue() + " like " + e.getKey()).collect(Collectors.joining("; ")));
        }
    }

    /// Zones that sound to their end whatever the key does, where the target has no word for that.
    /// @param seconds of the release that makes them do so
    record OneShotsReleased(int zones, double seconds, String target, List<String> each) implements InstrumentChange {
        @Override public Property property() { return Property.PLAYING; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            String release = String.format(Locale.ROOT, "a release of %.0f s", seconds);
            return new Text("one-shot", release,
                    "one-shot in " + Told.count(zones, "zone") + " becomes " + release + ", so that they sound to their end: " + target
                            + " has no such setting");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(zones, zones, "zones")); }
    }

    /// A setting that the target does not have.
    /// @param example of what is lost
    /// @param onlyAs how the target has it, where it has it at all
    record SettingDropped(Property property, String setting, int zones, String example, String target, Optional<String> onlyAs, List<String> each)
            implements
                InstrumentChange {
        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(setting, "none", setting + " dropped in " + Told.count(zones, "zone") + " (" + example + "): " + target
                    + onlyAs.map(how -> " has it only as: " + how).orElse(" has no such setting"));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(zones, 0, "zones")); }
    }

    /// A setting that the target has in other steps or bounds.
    /// @param farthest what moves the most
    record SettingMoved(Property property, String setting, int zones, String farthest, String how, List<String> each) implements InstrumentChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(setting, "moved", setting + " moved in " + Told.count(zones, "zone") + ", at most " + farthest + " (" + how + ")");
        }
    }
}
