package ablecrate.plan;

import ablecrate.audio.Depth;
import ablecrate.change.Property;
import ablecrate.change.Told;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet;
import ablecrate.format.InstrumentFormats;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/// A sheet as a checklist: each rule in words, with the property whose changes it causes.
public final class SheetRules {
    /// @param title what the rule is about
    /// @param text what the destination takes
    public record Rule(Property property, String title, String text) {}

    private SheetRules() {}

    public static List<Rule> of(DestinationSheet sheet) {
        List<Rule> rules = new ArrayList<>();
        DestinationSheet.Accepts a = sheet.accepts();
        List<String> maps = a.instruments().stream().map(i -> InstrumentFormats.byId(i).orElseThrow().name()).toList();
        rules.add(new Rule(Property.KIND, "Kind", maps.isEmpty() ? "sounds; instruments apart" : "sounds, " + String.join(", ", maps)));
        rules.add(new Rule(Property.ZONES, "Zones", maps.isEmpty() ? "a sound each" : "any number"));
        rules.add(new Rule(Property.PLAYING, "Playing", maps.isEmpty() ? "not used" : "as the format has it"));
        rules.add(new Rule(Property.STRUCTURE, "Structure", "whole files"));
        rules.add(new Rule(Property.DAMAGE, "Damage", "none"));
        rules.add(new Rule(Property.START, "Start", "on the first frame"));
        rules.add(new Rule(Property.CONTAINER, "Container", list(a.containers().stream().map(c -> SoundFormats.byId(c).orElseThrow().name()).toList())));
        rules.add(new Rule(Property.RATE, "Rate", list(a.ratesHz().stream().map(r -> String.format(Locale.ROOT, "%,d Hz", r)).toList())));
        rules.add(new Rule(Property.DEPTH, "Depth", list(a.depthList().stream().map(Depth::label).toList())));
        rules.add(new Rule(Property.CHANNELS, "Channels", list(a.channels().stream().map(Told::channels).toList())));
        if (a.maxSeconds() > 0) rules.add(new Rule(Property.LENGTH, "Length", String.format(Locale.ROOT, "up to %.0f s", a.maxSeconds())));
        rules.add(new Rule(Property.LOOPS, "Loops", used(sheet.keeps().loops())));
        rules.add(new Rule(Property.MAPPING, "Key mapping", used(sheet.keeps().mapping())));
        rules.add(new Rule(Property.CUES, "Cues", used(sheet.keeps().cues())));
        rules.add(new Rule(Property.BROADCAST, "Time stamp", used(sheet.keeps().broadcast())));
        rules.add(new Rule(Property.TEXTS, "Texts", used(sheet.keeps().texts())));
        rules.add(new Rule(Property.CHUNKS, "Other chunks", "if audio is untouched"));
        int length = sheet.names().maxLength();
        rules.add(new Rule(Property.NAME, "Names", length == 0 ? "any" : "up to " + length + " characters"));
        if (sheet.layout().maxFolders() > 0)
            rules.add(new Rule(Property.FOLDER, "Folders",
                    "up to " + sheet.layout().maxFolders() + (sheet.layout().soundsPerFolder() > 0 ? " of " + sheet.layout().soundsPerFolder() : "")));
        return rules;
    }

    private static String list(List<String> accepted) { return accepted.isEmpty() ? "any" : accepted.stream().collect(Collectors.joining(", ")); }

    private static String used(boolean keeps) { return keeps ? "kept" : "not used"; }
}
