package ablecrate.plan;

import ablecrate.audio.Figures;
import ablecrate.audio.Depth;
import ablecrate.change.Property;
import ablecrate.change.Told;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.CardRules;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DeviceLimits;
import ablecrate.format.InstrumentFormats;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/// A sheet as a checklist: each rule in words, with the property whose changes it causes.
public final class SheetRules {
    /// @param text what the destination takes
    public record Rule(Property property, String text) {
        public String title() { return property.label(); }
    }

    private static final String OF_THE_SESSION = "the session's";

    private SheetRules() {}

    public static List<Rule> of(DestinationSheet sheet) {
        List<Rule> rules = new ArrayList<>();
        DestinationSheet.Accepts a = sheet.accepts();
        List<String> maps = a.instruments().stream().map(i -> InstrumentFormats.byId(i).orElseThrow().name()).toList();
        rules.add(new Rule(Property.KIND, maps.isEmpty() ? "sounds; instruments apart" : "sounds, " + String.join(", ", maps)));
        rules.add(new Rule(Property.ZONES,
                maps.isEmpty() ? "a sound each" + (sheet.limits().isNone() ? "" : ", " + limits(sheet)) : limits(sheet)));
        rules.add(new Rule(Property.PLAYING, maps.isEmpty() ? "not used" : "as the format has it"));
        rules.add(new Rule(Property.ABOUT, maps.isEmpty() ? "not used" : "as the format has it"));
        rules.add(new Rule(Property.STRUCTURE, "whole files"));
        rules.add(new Rule(Property.DAMAGE, "none"));
        rules.add(new Rule(Property.START, "on the first frame"));
        rules.add(new Rule(Property.CONTAINER, list(a.containers().stream().map(c -> SoundFormats.byId(c).orElseThrow().name()).toList())));
        rules.add(new Rule(Property.RATE,
                sheet.isSession() && a.ratesHz().size() != 1
                        ? OF_THE_SESSION
                        : rates(a)));
        rules.add(new Rule(Property.DEPTH,
                sheet.isSession() && a.depths().size() != 1 ? OF_THE_SESSION : list(a.depthList().stream().map(Depth::label).toList())));
        rules.add(new Rule(Property.CHANNELS, list(a.channels().stream().map(Told::channels).toList())));
        for (Property chosen : List.of(Property.TEMPO, Property.TRIM, Property.OFFSET, Property.LEVEL, Property.FADES))
            rules.add(new Rule(chosen, "as chosen"));
        if (a.maxSeconds() > 0) rules.add(new Rule(Property.LENGTH, String.format(Locale.ROOT, "up to %.0f s", a.maxSeconds())));
        rules.add(new Rule(Property.LOOPS,
                sheet.keeps().loops() && !a.loops().equals(DestinationSheet.Loops.ANY) ? loops(a.loops()) : used(sheet.keeps().loops())));
        List<Integer> keys = sheet.limits().playing().keys();
        rules.add(new Rule(Property.MAPPING, keys.isEmpty() ? used(sheet.keeps().mapping()) : "keys " + keys.get(0) + " to " + keys.get(1)));
        rules.add(new Rule(Property.CUES, used(sheet.keeps().cues())));
        rules.add(new Rule(Property.BROADCAST, used(sheet.keeps().broadcast())));
        rules.add(new Rule(Property.TEXTS, used(sheet.keeps().texts())));
        rules.add(new Rule(Property.CHUNKS, "if audio is untouched"));
        rules.add(new Rule(Property.TIMELINE, sheet.isSession() ? "as chosen" : "not used"));
        rules.add(new Rule(Property.SIDECARS, sheet.layout().soundsOnly() ? "none" : "as chosen"));
        int length = sheet.names().maxLength();
        rules.add(new Rule(Property.NAME, length == 0 ? "any" : "up to " + length + " characters"));
        folders(sheet).ifPresent(text -> rules.add(new Rule(Property.FOLDER, text)));
        if (sheet.card().capacityBytes() > 0 || sheet.card().fileBytes() > 0) rules.add(new Rule(Property.SPACE, space(sheet.card())));
        return rules;
    }

    private static Optional<String> folders(DestinationSheet sheet) {
        List<String> out = new ArrayList<>();
        if (sheet.layout().oneFolder()) out.add("none");
        if (sheet.layout().maxFolders() > 0)
            out.add("up to " + sheet.layout().maxFolders() + (sheet.layout().soundsPerFolder() > 0 ? " of " + sheet.layout().soundsPerFolder() : ""));
        if (sheet.card().foldersDeep() > 0) out.add(Told.count(sheet.card().foldersDeep(), "folder") + " deep");
        if (sheet.card().filesInFolder() > 0) out.add(Told.count(sheet.card().filesInFolder(), "file") + " each");
        if (sheet.card().pathLength() > 0) out.add("paths of " + Told.count(sheet.card().pathLength(), "character"));
        return out.isEmpty() ? Optional.empty() : Optional.of(String.join(", ", out));
    }

    private static String space(CardRules card) {
        List<String> out = new ArrayList<>();
        if (card.capacityBytes() > 0) out.add(Figures.bytes(card.capacityBytes()));
        if (card.fileBytes() > 0) out.add(Figures.bytes(card.fileBytes()) + " a file");
        return String.join(", ", out);
    }

    private static String rates(DestinationSheet.Accepts a) {
        return a.ratesHz().isEmpty() && !a.rateRangeHz().isEmpty()
                ? String.format(Locale.ROOT, "%,d to %,d Hz", a.rateRangeHz().get(0), a.rateRangeHz().get(1))
                : list(a.ratesHz().stream().map(r -> String.format(Locale.ROOT, "%,d Hz", r)).toList());
    }

    private static String loops(DestinationSheet.Loops loops) {
        List<String> out = new ArrayList<>();
        if (loops.most() > 0) out.add(Integer.toString(loops.most()));
        if (!loops.modes().isEmpty()) out.add(String.join(" or ", loops.modes()));
        if (loops.shortestFrames() > 0) out.add("from " + loops.shortestFrames() + " frames on");
        if (loops.longestFrames() > 0) out.add("up to " + loops.longestFrames() + " frames");
        if (loops.aroundFrames() > 0) out.add(loops.aroundFrames() + " frames in front and behind");
        return String.join(", ", out);
    }

    private static String limits(DestinationSheet sheet) {
        DeviceLimits limits = sheet.limits();
        List<String> out = new ArrayList<>();
        if (limits.layers() > 0) out.add(Told.count(limits.layers(), "layer"));
        if (limits.samples() > 0) out.add(Told.count(limits.samples(), "sample"));
        if (limits.zones() > 0) out.add(Told.count(limits.zones(), "zone"));
        if (limits.playing().turns() > 0) out.add(Told.count(limits.playing().turns(), "turn"));
        if (limits.instrumentBytes() > 0) out.add(Figures.bytes(limits.instrumentBytes()) + " each");
        if (limits.totalBytes() > 0) out.add(Figures.bytes(limits.totalBytes()) + " in all");
        if (sheet.layout().instrumentsPerBank() > 0) out.add(Told.count(sheet.layout().instrumentsPerBank(), "instrument") + " a bank");
        return out.isEmpty() ? "any number" : "up to " + String.join(", ", out);
    }

    private static String list(List<String> accepted) { return accepted.isEmpty() ? "any" : accepted.stream().collect(Collectors.joining(", ")); }

    private static String used(boolean keeps) { return keeps ? "kept" : "not used"; }
}
