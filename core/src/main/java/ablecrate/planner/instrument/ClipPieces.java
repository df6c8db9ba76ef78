package ablecrate.planner.instrument;

import ablecrate.audio.FrameRange;
import ablecrate.change.Told;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.format.InstrumentFile;
import ablecrate.format.Sample;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gathered;
import ablecrate.option.KitLayout;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// A clip's pieces as an instrument: one a key, so that they are named, mapped, converted and levelled as the samples of a bank are.
/// @param noun of a piece: `slice`, `part`
/// @param isMapped whether the result is an instrument; sounds alone play as they do anyway
record ClipPieces(String noun, KitLayout layout, boolean isMapped) {
    static final String ID = "slices";

    /// @param name absent for the clip's, with a number
    /// @param fadeInFrames,fadeOutFrames 0 for none
    record Piece(Optional<String> name, FrameRange frames, int fadeInFrames, int fadeOutFrames) {}

    /// @param problems that are known already
    Gathered of(Gathered clip, SoundFile sound, List<Piece> pieces, List<Problem> problems) {
        List<Sample> samples = new ArrayList<>();
        List<Zone> zones = new ArrayList<>();
        List<Problem> told = new ArrayList<>(problems);
        String digits = "%0" + Math.max(2, Integer.toString(pieces.size()).length()) + "d";
        for (int i = 0; i < pieces.size(); i++) {
            Piece piece = pieces.get(i);
            String name = piece.name().orElse(clip.stem() + " " + String.format(Locale.ROOT, digits, i + 1));
            SoundFile part = soundOf(sound, piece, name);
            samples.add(new Sample.Found(name, part));
            int key = layout.startKey() + i * layout.stepKeys();
            Zone zone = Zone.of(i).with(Parameter.KEYS, new Span(Math.min(127, key), Math.min(127, key))).with(Parameter.ROOT_KEY, Math.min(127, key));
            if (key <= 127 || !isMapped)
                zones.add(played(zone, part.metadata().loops()));
            else
                if (zones.size() == i)
                    told.add(Problem.lost("from key " + layout.startKey() + " on there is room for " + i + " " + noun + "s; " + (pieces.size() - i)
                            + " are left out", ""));
        }
        About about = About.named(clip.stem());
        return new Gathered(clip.path(), clip.relative(),
                new Gathered.Content.Instruments(new InstrumentFile(clip.path(), sound.fileBytes(), ID,
                        Told.count(pieces.size(), noun) + " of " + sound.container(), about,
                        List.of(new Instrument(about, Optional.empty(), List.of(new ZoneGroup("", zones)))), samples, List.of(), told)));
    }

    /// What has a loop sounds while its key is held, all else to its end.
    private Zone played(Zone zone, List<Loop> loops) {
        return !loops.isEmpty() ? zone.with(Parameter.LOOPS, loops) : isMapped ? zone.with(Parameter.ONE_SHOT, true) : zone;
    }

    /// With the cues and loops that lie in it.
    private static SoundFile soundOf(SoundFile whole, Piece piece, String name) {
        FrameRange range = piece.frames();
        SoundMetadata metadata = SoundMetadata.NONE.withTexts(Map.of(TextField.NAME, name))
                .withLoops(Loop.usedByPlace(
                        whole.metadata().loops().stream().filter(l -> l.frames().start() >= range.start() && l.frames().end() <= range.end())
                                .map(l -> l.withFrames(l.frames().movedBy(-range.start()))).toList()))
                .withCues(whole.metadata().cues().stream().filter(c -> c.frame() >= range.start() && c.frame() < range.end())
                        .map(c -> c.at(c.frame() - range.start(), Math.min(c.lengthFrames(), range.end() - c.frame()))).toList());
        return new SoundFile(whole.path(), whole.fileBytes(), ID, whole.container(), whole.codec(), whole.encoding(), whole.rateHz(), whole.channels(),
                range.length(), new AudioPlace.Slice(whole, range, piece.fadeInFrames(), piece.fadeOutFrames()), metadata, List.of(), List.of());
    }
}
