package ablecrate.change;

import ablecrate.audio.Figures;
import java.util.Locale;
import java.util.Optional;

/// What a card or a device has no room for.
public sealed interface CardChange extends Change {
    record TooManyFolders(String from, int folder, int most) implements CardChange {
        @Override public Property property() { return Property.FOLDER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(from, "–", String.format(Locale.ROOT, "it would lie in folder %,d, the destination holds %,d; pack fewer sounds at a time", folder,
                    most));
        }
    }

    record FolderFull(String from, String folder, int most) implements CardChange {
        @Override public Property property() { return Property.FOLDER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(from, "–", folder.isEmpty()
                    ? String.format(Locale.ROOT, "the destination holds %,d sounds and is full; leave others out, or pack a second card", most)
                    : String.format(Locale.ROOT,
                            "the folder '%s' holds %,d sounds at this destination and is full; its name has no number (kit) by which there could be another",
                            folder, most));
        }
    }

    /// @param format of instruments that the destination loads
    /// @param isJoined whether it is made of several sounds
    record SoundAlone(String name, String format, boolean isJoined) implements CardChange {
        @Override public Property property() { return Property.CONTAINER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(name, "–", "the destination loads sounds only as parts of instruments; "
                    + (isJoined ? "do not join them" : "choose " + format + " as the container"));
        }
    }

    /// @param deep folders that it would lie in
    record TooDeep(String path, int deep, int most) implements CardChange {
        @Override public Property property() { return Property.FOLDER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(path, "–", "it would lie " + Told.count(deep, "folder") + " deep, and the destination looks no deeper than "
                    + most + "; do not rebuild the source's folders, or let names make none");
        }
    }

    record PathTooLong(String path, int most) implements CardChange {
        @Override public Property property() { return Property.FOLDER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(path, "–", "its path has " + path.length() + " characters, the destination takes " + most
                    + "; take a shorter name pattern, or do not rebuild the source's folders");
        }
    }

    /// @param folder empty is the card itself
    record TooManyFiles(String path, String folder, int most) implements CardChange {
        @Override public Property property() { return Property.FOLDER; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(path, "–", (folder.isEmpty() ? "the card's own folder" : "the folder '" + folder + "'") + " holds " + Told.count(most, "file")
                    + " and is full; sort into folders, or leave others out");
        }
    }

    record BeyondCardFile(String path, long bytes, long most) implements CardChange {
        @Override public Property property() { return Property.SPACE; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(path, "–", "it takes " + Figures.bytes(bytes) + ", and a file of the card has " + Figures.bytes(most)
                    + " at most; pack it in parts, at a lower rate or depth, or in fewer channels");
        }
    }

    /// The card is taken by what is on it and by the lines before this one.
    /// @param bytes that it takes, in whole clusters
    record CardFull(String path, long bytes, long free, long all) implements CardChange {
        @Override public Property property() { return Property.SPACE; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(path, "–", "it takes " + Figures.bytes(bytes) + " of the card, and " + Figures.bytes(free) + " of " + Figures.bytes(all)
                    + " are free after what is there and the lines before it; leave others out, or pack a second card");
        }
    }

    /// What would come of it if all sounds were made smaller, so that each has room.
    sealed interface AllFitted {
        String text();

        /// @param harmDb how different they would be in the mean
        record Possible(double harmDb) implements AllFitted {
            @Override public String text() { return String.format(Locale.ROOT, "made to fit, sounds would be %.1f dB different in the mean", harmDb); }
        }

        /// @param leastBytes of all lines that would have room by themselves, with sounds as small as they may become
        record Impossible(long leastBytes) implements AllFitted {
            @Override public String text() { return "however small they are made, sounds take at least " + Figures.bytes(leastBytes) + " together"; }
        }
    }

    /// The device's memory is taken by the lines before this one.
    /// @param bytes that it takes
    /// @param free that are left
    /// @param all that there are
    /// @param whole what is known of making all sounds fit
    record MemoryFull(String name, long bytes, long free, long all, Optional<AllFitted> whole) implements CardChange {
        @Override public Property property() { return Property.ZONES; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(name, "–", String.format(Locale.ROOT,
                    "it takes %s, and %s of %s are free after the lines before it; trim it, take a lower rate, or leave others out%s", Figures.bytes(bytes),
                    Figures.bytes(free), Figures.bytes(all),
                    whole.map(w -> "; " + w.text()).orElse("")));
        }
    }
}
