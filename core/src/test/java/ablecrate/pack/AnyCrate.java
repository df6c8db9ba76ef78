package ablecrate.pack;

import ablecrate.instrument.PlayingSettings;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.destination.CardRules;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DeviceLimits;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import ablecrate.option.AsOne;
import ablecrate.option.Banks;
import ablecrate.option.CeilingBy;
import ablecrate.option.Choice;
import ablecrate.option.Chop;
import ablecrate.option.ClipPart;
import ablecrate.option.Edges;
import ablecrate.option.Fade;
import ablecrate.option.Finds;
import ablecrate.option.LoopFinds;
import ablecrate.option.Fitting;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.Joining;
import ablecrate.option.KeyGaps;
import ablecrate.option.KitLayout;
import ablecrate.option.LevelTarget;
import ablecrate.option.Limits;
import ablecrate.option.MapBy;
import ablecrate.option.Mending;
import ablecrate.option.MetadataChoice;
import ablecrate.option.MonoLaw;
import ablecrate.option.Overs;
import ablecrate.option.PackOptions;
import ablecrate.option.Playing;
import ablecrate.option.Pieces;
import ablecrate.option.Rhythm;
import ablecrate.option.TempoTarget;
import ablecrate.option.Treatment;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.IntStream;

/// Made-up sounds, instruments, sheets and options, any whatever, for what has to hold for all of them.
public final class AnyCrate {
    private static final List<Integer> RATES = List.of(11_025, 22_050, 32_000, 44_100, 48_000, 96_000);
    private final Random random;

    public AnyCrate(long seed) { random = new Random(seed); }

    @SafeVarargs public final <T> T one(T... of) { return of[random.nextInt(of.length)]; }

    private <T> Optional<T> maybe(T value) { return random.nextBoolean() ? Optional.of(value) : Optional.empty(); }

    /// Short sounds of all rates, depths and one to three channels, with whatever metadata fit or nearly fit.
    public List<Path> sounds(Path folder, int count) throws Exception {
        List<Path> made = new ArrayList<>();
        Files.createDirectories(folder);
        for (int i = 0; i < count; i++) {
            String format = one("wav", "aiff", "wav");
            int rate = RATES.get(random.nextInt(RATES.size())), frames = one(1, 7, 50, 300, 2500, 9000), channels = one(1, 1, 2, 3);
            double[][] planes = new double[channels][];
            for (int c = 0; c < channels; c++)
                planes[c] = Sounds.sine(50 + random.nextInt(rate / 8), 0.05 + 0.9 * random.nextDouble(), rate, frames);
            Path file = folder.resolve("reed " + (char) ('A' + random.nextInt(7)) + random.nextInt(6) + " v" + random.nextInt(4) + " " + i + "." + format);
            made.add(Sounds.write(file, format, rate, one(Depth.INT_8, Depth.INT_16, Depth.INT_24, Depth.INT_32, Depth.FLOAT_32, Depth.FLOAT_64),
                    metadata(frames, format.equals("wav")), planes));
        }
        return made;
    }

    private FrameRange part(int frames) {
        int start = random.nextInt(frames);
        return new FrameRange(start, start + 1 + random.nextInt(frames - start));
    }

    private Rhythm rhythm() { return Rhythm.NONE.withAs(one(Rhythm.As.values())).withStrength(random.nextInt(101)).withSwing(50 + random.nextInt(26)); }

    private Optional<TempoTarget> toTempo() { return one(Optional.empty(), Optional.of(new TempoTarget.Bpm(97.31)), Optional.of(new TempoTarget.OfSession())); }

    private Finds finds() {
        LoopFinds looped = new LoopFinds(random.nextInt(6) == 0, random.nextInt(6) == 0, random.nextBoolean(),
                LoopFinds.Way.values()[random.nextInt(3)], LoopFinds.Decay.values()[random.nextInt(2)]);
        return random.nextInt(4) == 0
                ? new Finds(looped, Chop.NONE.withBpm(one(Optional.empty(), Optional.of(113.7))), Pieces.USUAL,
                        one(List.of(ClipPart.of(new FrameRange(100, 900))),
                                List.of(ClipPart.of(new FrameRange(0, 500)).withName("head"), ClipPart.of(new FrameRange(500, 1L << 40)))),
                        rhythm(), toTempo())
                : new Finds(looped,
                        one(Chop.NONE, Chop.NONE.withBpm(Optional.of(88.25)), Chop.by(Chop.By.ONSETS), Chop.by(Chop.By.CUES), Chop.by(Chop.By.GAPS)),
                        new Pieces(random.nextInt(4) == 0, random.nextBoolean()), List.of(), rhythm(), toTempo());
    }

    private SoundMetadata metadata(int frames, boolean isWav) {
        SoundMetadata metadata = SoundMetadata.NONE;
        if (random.nextBoolean())
            metadata = metadata.withLoops(
                    IntStream.range(0, isWav ? 1 + random.nextInt(3) : 1).mapToObj(i -> new Loop(part(frames), one(LoopMode.FORWARD, LoopMode.ALTERNATING),
                            Loop.Use.SUSTAIN, isWav ? random.nextInt(3) : 0, 0, i)).toList());
        if (random.nextBoolean())
            metadata = metadata.withMapping(Mapping.NONE.withRootKey(Optional.of(random.nextInt(128))).withFineTune(random.nextInt(100) - 50)
                    .withRanges(maybe(new Span(20 + random.nextInt(30), 60 + random.nextInt(60))),
                            maybe(new Span(1 + random.nextInt(60), 70 + random.nextInt(57))))
                    .withGain(maybe((double) random.nextInt(20) - 10)));
        if (random.nextBoolean())
            metadata = metadata.withCues(IntStream.range(0, 1 + random.nextInt(4)).mapToObj(i -> new Cue(i + 1, random.nextInt(frames), 0, maybe("mark " + i),
                    Optional.empty())).toList());
        if (isWav && random.nextInt(3) == 0)
            metadata = metadata.withBroadcast(
                    Optional.of(new Broadcast("night", "puppet theatre", "R" + random.nextInt(99), "2026-11-26", "10:00:00", random.nextInt(1 << 30), 1,
                            "", Optional.empty(), "")));
        return random.nextBoolean() ? metadata.withTexts(Map.of(TextField.NAME, "reed", TextField.COPYRIGHT, "free")) : metadata;
    }

    /// An instrument of any of the sounds, most settings within their bounds.
    public Path sfz(Path folder, List<Path> sounds, int number) throws Exception {
        StringBuilder text = new StringBuilder("// Name: choir ").append(number).append('\n');
        for (int group = 0; group < 1 + random.nextInt(3); group++) {
            text.append("<group> ").append(one("", "ampeg_release=0.3 ", "pan=-40 ", "seq_length=2 ", "trigger=release ", "group=1 off_by=1 ")).append('\n');
            for (int zone = 0; zone < 1 + random.nextInt(6); zone++) {
                int low = random.nextInt(100), soft = 1 + random.nextInt(100);
                text.append("<region> sample=").append(sounds.get(random.nextInt(sounds.size())).getFileName()).append(" lokey=").append(low).append(" hikey=")
                        .append(low + random.nextInt(28)).append(" lovel=").append(soft).append(" hivel=").append(soft + random.nextInt(28))
                        .append(" pitch_keycenter=")
                        .append(random.nextInt(128)).append(' ');
                for (int n = random.nextInt(6); n > 0; n--)
                    text.append(one("tune=" + (random.nextInt(200) - 100), "transpose=" + (random.nextInt(48) - 24), "volume=" + (random.nextInt(40) - 30),
                            "loop_mode=" + one("no_loop", "one_shot", "loop_continuous", "loop_sustain"), "loop_start=" + random.nextInt(4000) + " loop_end="
                                    + random.nextInt(9000),
                            "offset=" + random.nextInt(200), "end=" + (300 + random.nextInt(3000)), "direction=reverse",
                            "pitch_keytrack=" + random.nextInt(200),
                            "ampeg_attack=0.01 ampeg_decay=0.5 ampeg_sustain=60", "fil_type=lpf_2p cutoff=" + (100 + random.nextInt(9000)), "seq_position=2",
                            "lorand=0.5 hirand=1", "xfin_lovel=" + soft + " xfin_hivel=" + (soft + 10), "bend_up=1200 bend_down=-1200", "amp_veltrack=0",
                            "wild_setting=3")).append(' ');
                text.append('\n');
            }
        }
        return Files.writeString(folder.resolve("choir " + number + ".sfz"), text);
    }

    public PackOptions options(boolean isFree) {
        PackOptions o = PackOptions.DEFAULT.withDither(one(Dither.values())).withMirror(maybe(random.nextBoolean())).withMonoLaw(one(MonoLaw.values()))
                .withMending(Mending.NONE.withLooking(random.nextBoolean()).withMending(random.nextBoolean()).withLikelyDelay(random.nextBoolean())
                        .withDamageFailing(random.nextBoolean()))
                .withMetadata(
                        new MetadataChoice(one(Keeps.ALL, new Keeps(random.nextBoolean(), random.nextBoolean(), random.nextBoolean(), random.nextBoolean(),
                                random.nextBoolean())), random.nextInt(4) == 0, random.nextInt(4) == 0));
        if (random.nextBoolean()) o = o.withNamePattern(Optional.of(one("(number...) (name)", "(name)", "(folder)-(root)-(name)", "(name) (channel)")));
        if (random.nextBoolean())
            o = o.withTreatment(
                    new Treatment(maybe(new LevelTarget(one(LevelMeasure.PEAK, LevelMeasure.TRUE_PEAK, LevelMeasure.LUFS_M), -6.0 - random.nextInt(20))),
                            new AsOne(random.nextBoolean(), random.nextBoolean(), random.nextBoolean()),
                            new Limits(maybe(-1.0), one(CeilingBy.values()), one(0.0, 3.0, 6.0), one(Overs.values())),
                            new Fade(random.nextInt(3) * 5.0, one(FadeShape.values())),
                            new Fade(random.nextInt(3) * 40.0, one(FadeShape.values())),
                            new Edges(maybe(-50.0), random.nextInt(4) == 0, random.nextInt(5), random.nextBoolean()),
                            random.nextBoolean(), random.nextInt(3) * 5.0,
                            finds()));
        if (isFree)
            o = o.withContainer(Choice.of(one("wav", "aiff", "flac", "sfz", "sf2", "dls"))).withRate(one(Choice.keep(), Choice.of(48_000), Choice.of(22_050)))
                    .withDepth(one(Choice.keep(), Choice.of(Depth.INT_16), Choice.of(Depth.INT_24), Choice.of(Depth.FLOAT_32)))
                    .withChannels(maybe(one(ChannelChoice.values())));
        if (random.nextInt(6) == 0)
            o = o.withPlacing(o.placing().withJoining(new Joining("all of it", random.nextInt(3) * 40.0, one(Joining.Order.values()),
                    one(Joining.Contents.values()), random.nextBoolean() ? List.of() : List.of("*o*"))));
        return o.withInstruments(new InstrumentOptions(one(MapBy.values()), new NameReading(random.nextBoolean() ? Map.of(1, one(NamePart.values())) : Map.of(),
                random.nextBoolean() ? OptionalInt.of(12) : OptionalInt.empty()), one(KeyGaps.values()),
                new KitLayout(random.nextInt(128), 1 + random.nextInt(12), random.nextBoolean()), one(Banks.values()),
                new Playing(random.nextBoolean(),
                        new PlayingSettings(maybe(1 + random.nextInt(16)), maybe(random.nextBoolean()), maybe(random.nextInt(25)), maybe(random.nextInt(1201)),
                                maybe(random.nextBoolean()))),
                Fitting.DEFAULT,
                List.of()));
    }

    /// A destination with any limits.
    public DestinationSheet sheet() {
        List<Integer> rates = random.nextInt(3) == 0 ? List.of() : RATES.stream().filter(_ -> random.nextBoolean()).toList();
        List<String> depths = random.nextInt(3) == 0 ? List.of() : List.of("16", "24", "32f").stream().filter(_ -> random.nextBoolean()).toList();
        return new DestinationSheet("any", "Any", "",
                new DestinationSheet.Accepts(one(List.of(), List.of("wav"), List.of("aiff", "wav"), List.of("flac")), List.of(), rates,
                        depths, one(List.of(), List.of(1), List.of(1, 2)), one(0.0, 0.0, 0.1),
                        one(DestinationSheet.Loops.ANY, new DestinationSheet.Loops(1, List.of("forward"), 32, 0, 8),
                                new DestinationSheet.Loops(0, List.of(), 500, 20_000, 0)),
                        rates.isEmpty() ? one(List.of(), List.of(8000, 48_000)) : List.of()),
                DestinationSheet.Defaults.NONE,
                new DestinationSheet.Names(one(0, 8, 12), one("", "A-Z0-9_", "a-z0-9-"), random.nextBoolean(), one("(name)", "(number..)(name)"),
                        one("", "", "(number...)")),
                new DestinationSheet.Layout(one("", "audio", "KIT(kit..)"), random.nextInt(2) * 5, random.nextInt(2) * 3, random.nextBoolean(),
                        random.nextBoolean(), random.nextInt(2), false, false),
                new Keeps(random.nextBoolean(), random.nextBoolean(), random.nextBoolean(), random.nextBoolean(), random.nextBoolean()), DeviceLimits.NONE,
                CardRules.NONE, null);
    }
}
