package ablecrate.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// What becomes of a file as such: whether it can be taken at all, what contains it, its structure, its name and its place.
public sealed interface FileChange extends Change {
    /// It cannot be packed.
    /// @param found what it is instead
    record Refused(String found, String why) implements FileChange {
        @Override public Property property() { return Property.KIND; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() { return new Text(found, "–", why); }
    }

    /// Several sounds became one.
    /// @param lost what single sounds say of themselves and the one cannot, in words; empty for nothing
    record Joined(int sounds, double seconds, double gapMs, String lost) implements FileChange {
        @Override public Property property() { return Property.STRUCTURE; }

        @Override public Verdict verdict() { return lost.isEmpty() ? Verdict.CONVERTED : Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(Told.count(sounds, "sound"), String.format(Locale.ROOT, "one of %.3f s", seconds),
                    (gapMs > 0
                            ? String.format(Locale.ROOT, "one after another with %.0f ms between, a cue point at each", gapMs)
                            : "one after another, a cue point at each") + (lost.isEmpty() ? "" : "; lost: " + lost));
        }
    }

    /// Files that were to come first of those that are joined, and are none of them.
    record JoinedFirstMissing(List<String> files) implements FileChange {
        public JoinedFirstMissing {
            files = List.copyOf(files);
        }

        @Override public Property property() { return Property.STRUCTURE; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() { return new Text("first of joined", "not there", "none of the joined sounds is called " + Told.some(files)); }
    }

    /// Joined sounds that one file has no room for.
    /// @param number of this file, from 1
    /// @param full what has no room for more, in words
    record JoinedInFiles(int number, int files, String full) implements FileChange {
        @Override public Property property() { return Property.STRUCTURE; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() { return new Text("one sound", "file " + number + " of " + files, full); }
    }

    /// @param isSame whether instruments stay in their format
    /// @param divided where one bank becomes several
    record InstrumentsWritten(String from, String to, boolean isSame, Optional<Divided> divided) implements FileChange {
        @Override public Property property() { return Property.KIND; }

        @Override public Verdict verdict() { return divided.isPresent() ? Verdict.ADJUSTED : Verdict.CONVERTED; }

        @Override public Text text() { return new Text(from, to, divided.map(Divided::told).orElse(isSame ? "written anew, tidy" : "")); }
    }

    /// @param most instruments that a bank of the destination holds
    record Divided(int instruments, int banks, int most) {
        private String told() {
            return Told.count(instruments, "instrument") + " in " + Told.count(banks, "bank") + ", as the destination holds " + most + " in one";
        }
    }

    record ContainerConverted(String from, String to) implements FileChange {
        @Override public Property property() { return Property.CONTAINER; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() { return new Text(from, to, ""); }
    }

    /// @param codec that the source was compressed with already, with loss; empty for none
    /// @param quality of the result, in words
    record Compressed(String from, String to, Optional<String> codec, String quality) implements FileChange {
        @Override public Property property() { return Property.CONTAINER; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text(from, to, codec.map(c -> "compressed a second time: what " + c + " took is gone, " + to + " takes more; " + quality)
                    .orElse("lossy compression, " + quality));
        }
    }

    /// More bytes than the container can count.
    record FileTooLarge(long bytes, String format, long limitBytes) implements FileChange {
        @Override public Property property() { return Property.CONTAINER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text("", "–", String.format(Locale.ROOT, "%.1f GB of audio, %s holds %.1f GB; choose WAV or split it", bytes / 1e9, format,
                    limitBytes / 1e9));
        }
    }

    record BankTooLarge(long bytes, String format, long limitBytes) implements FileChange {
        @Override public Property property() { return Property.CONTAINER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text("", "–",
                    String.format(Locale.ROOT, "%.1f GB of sounds, one %s holds %.1f GB; split it", bytes / 1e9, format, limitBytes / 1e9));
        }
    }

    /// @param told which count is beyond what a bank has room for
    record BankTooFull(String told) implements FileChange {
        @Override public Property property() { return Property.CONTAINER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() { return new Text("", "–", told); }
    }

    /// @param loses whether something is gone for good
    /// @param problems with their places
    record StructureMended(boolean loses, List<String> problems) implements FileChange {
        @Override public Property property() { return Property.STRUCTURE; }

        @Override public Verdict verdict() { return loses ? Verdict.REDUCED : Verdict.CONVERTED; }

        @Override public Text text() { return new Text("damaged", "mended", String.join("; ", problems)); }
    }

    /// A result of an earlier run that is not what it was.
    record ResultRenewed(String path) implements FileChange {
        @Override public Property property() { return Property.STRUCTURE; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text("damaged since it was packed", "written anew", path + " was damaged since it was packed, and is written anew");
        }
    }

    /// @param wanted what the pattern makes
    /// @param fitted what it became by the destination's rules
    /// @param given what it is called in the end: a name that another has already is numbered
    record Named(String from, String to, String wanted, String fitted, String given) implements FileChange {
        public static Named plainly(String from, String to) { return new Named(from, to, "", "", ""); }

        public boolean isCut() { return fitted.length() < wanted.length(); }

        public boolean isRespelt() { return !isCut() && !fitted.equals(wanted); }

        public boolean isNumbered() { return !given.equals(fitted); }

        @Override public Property property() { return Property.NAME; }

        @Override public Verdict verdict() { return given.equals(wanted) ? Verdict.KEPT : Verdict.ADJUSTED; }

        @Override public Text text() {
            List<String> parts = new ArrayList<>();
            if (isCut()) parts.add("name cut from " + wanted.length() + " to " + fitted.length() + " characters");
            if (isRespelt()) parts.add("name put into the destination's alphabet");
            if (isNumbered()) parts.add("name numbered, another has it already");
            return new Text(from, to, String.join("; ", parts));
        }
    }

    /// A small file beside the sounds.
    /// @param file what kind of file, in words
    /// @param noun what it tells `entries` of
    /// @param detail what else is to be known of it; may be empty
    record SidecarAdded(String file, int entries, String noun, String detail) implements FileChange {
        @Override public Property property() { return Property.SIDECARS; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text("none", file + " of " + Told.count(entries, noun) + (detail.isEmpty() ? "" : ", " + detail), "");
        }
    }

    /// A small file that was asked for and cannot be made.
    record SidecarLeftOut(String file, String why) implements FileChange {
        public static final String SOUNDS_ONLY = "the destination takes sounds alone";

        @Override public Property property() { return Property.SIDECARS; }

        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() { return new Text("none", "no " + file, "no " + file + ": " + why); }
    }

    /// A new track of a recording session.
    /// @param place as bar and time
    /// @param why it is not where it was asked for; empty where it is
    record OnTrack(String track, String place, Optional<String> why) implements FileChange {
        @Override public Property property() { return Property.TIMELINE; }

        @Override public Verdict verdict() { return why.isPresent() ? Verdict.ADJUSTED : Verdict.KEPT; }

        @Override public Text text() { return new Text("not on a track", "track '" + track + "', " + place, why.orElse("")); }
    }
}
