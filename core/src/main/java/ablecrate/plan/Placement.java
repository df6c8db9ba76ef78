package ablecrate.plan;

import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern;
import ablecrate.destination.NamePattern.Word;
import ablecrate.destination.NameRules;
import ablecrate.library.Gathered;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/// Gives every output its folder and its name: by the destination's layout, in its alphabet and length, each once.
final class Placement {
    private final DestinationSheet sheet;
    private final NamePattern namePattern, folderPattern;
    private final NameRules rules;
    private final boolean mirror;
    /// Names in use in each folder.
    private final Map<String, NameRules.Taken> taken = new HashMap<>();
    private int number, folderNumber, inFolder;
    private String openFolder;

    Placement(DestinationSheet sheet, PackOptions options) throws OptionConflict {
        this.sheet = sheet;
        try {
            namePattern = NamePattern.parse(options.namePattern().orElse(sheet.names().pattern()));
        } catch (IllegalArgumentException e) {
            throw new OptionConflict(e.getMessage());
        }
        folderPattern = sheet.layout().folder().isEmpty() ? null : NamePattern.parse(sheet.layout().folder());
        rules = new NameRules(sheet.names());
        mirror = options.mirror().orElse(sheet.layout().mirror());
    }

    List<PackingItem> place(List<PackingItem> items) { return items.stream().map(i -> i.verdict() == Verdict.BLOCKED ? i : place(i)).toList(); }

    private PackingItem place(PackingItem item) {
        number++;
        List<PlannedOutput> placed = new ArrayList<>();
        String firstWanted = "", firstName = "";
        for (int i = 0; i < item.outputs().size(); i++) {
            PlannedOutput output = item.outputs().get(i);
            openFolderFor(item.source());
            int limit = sheet.layout().maxFolders();
            if (limit > 0 && folderNumber > limit)
                return item.with(new Change(Property.FOLDER, item.source().folderName(), "–", Verdict.BLOCKED, String.format(Locale.ROOT,
                        "it would lie in folder %,d, the destination holds %,d; pack fewer sounds at a time", folderNumber, limit)), List.of());
            Map<Word, String> values = values(item, output, i);
            String folder = folder(item.source(), values), wanted = namePattern.apply(values);
            boolean isSplit = item.outputs().size() > 1 && !namePattern.uses(Word.CHANNEL);
            if (isSplit) wanted += "-" + values.get(Word.CHANNEL);
            String extension = "." + SoundFormats.byId(output.formatId()).orElseThrow().extensions().getFirst();
            String fitted = isSplit ? fitKeepingEnd(wanted, "-" + values.get(Word.CHANNEL)) : rules.fit(wanted);
            String name = rules.unique(fitted, extension, taken.computeIfAbsent(folder, _ -> new NameRules.Taken()));
            if (i == 0) {
                firstWanted = wanted;
                firstName = name;
            }
            placed.add(output.at((folder.isEmpty() ? "" : folder + "/") + name + extension));
        }
        boolean asWanted = firstName.equals(firstWanted);
        String before = item.source().fileName(), after = placed.getFirst().path() + (placed.size() > 1 ? " +" + (placed.size() - 1) : "");
        return item.with(
                new Change(Property.NAME, before, after, asWanted ? Verdict.KEPT : Verdict.ADJUSTED, asWanted ? "" : nameReason(firstWanted, firstName)),
                placed);
    }

    private static String nameReason(String wanted, String name) {
        return name.length() < wanted.length()
                ? "name cut from " + wanted.length() + " to " + name.length() + " characters"
                : name.length() == wanted.length() ? "name put into the destination's alphabet" : "name numbered, another has it already";
    }

    /// A long name is cut before its channel, so that left and right stay told apart.
    private String fitKeepingEnd(String wanted, String end) {
        String stem = wanted.substring(0, wanted.length() - end.length());
        int longest = sheet.names().maxLength();
        if (longest > 0 && wanted.length() > longest) stem = stem.substring(0, Math.max(1, longest - end.length()));
        return rules.fit(stem + end);
    }

    private void openFolderFor(Gathered source) {
        int size = sheet.layout().soundsPerFolder();
        String folder = String.valueOf(source.relative().getParent());
        if (openFolder == null || size > 0 && (!folder.equals(openFolder) || inFolder == size)) {
            openFolder = folder;
            folderNumber++;
            inFolder = 0;
        }
        inFolder++;
    }

    private Map<Word, String> values(PackingItem item, PlannedOutput output, int channel) {
        Gathered source = item.source();
        Map<Word, String> values = new EnumMap<>(Word.class);
        values.put(Word.NAME, source.stem());
        values.put(Word.FOLDER, source.folderName());
        values.put(Word.NUMBER, Integer.toString(number));
        values.put(Word.ROOT, output.facts().mapping().rootKey().map(Object::toString).orElse(""));
        values.put(Word.RATE, Integer.toString(output.shape().rateHz()));
        values.put(Word.DEPTH, output.shape().depth().id());
        values.put(Word.CHANNEL, item.outputs().size() == 1 ? "" : item.outputs().size() == 2 ? channel == 0 ? "L" : "R" : Integer.toString(channel + 1));
        values.put(Word.KIT, Integer.toString(folderNumber));
        values.put(Word.PAD, Integer.toString(inFolder));
        return values;
    }

    private String folder(Gathered source, Map<Word, String> values) {
        List<String> parts = new ArrayList<>();
        if (folderPattern != null) parts.add(rules.fit(folderPattern.apply(values)));
        Path parent = source.relative().getParent();
        if (mirror && parent != null)
            for (Path part : parent)
                parts.add(rules.fit(part.toString()));
        return String.join("/", parts);
    }
}
