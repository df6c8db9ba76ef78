package ablecrate.plan;

import ablecrate.audio.Depth;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.Capabilities;
import ablecrate.codec.ChunkInfo;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.dsp.Dither;
import ablecrate.dsp.RateConverters;
import ablecrate.instrument.SoundFacts;
import ablecrate.library.Gathered;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/// Makes packing lists. Reads no audio and writes nothing; the same input gives the same list.
public final class Planner {
    /// A rate that keeps less than this of the audible band loses something one can hear.
    private static final double AUDIBLE_HZ = 20_000;
    /// Of Nyquist, what rate conversion keeps whole; the converter's own figure.
    private static final double KEPT_BAND = 0.95;
    /// Fewer bits than these and the noise of rounding is heard.
    private static final int QUIET_BITS = 16;

    private final DestinationSheet sheet;
    private final PackOptions options;
    private final Accepted accepted;

    private Planner(DestinationSheet sheet, PackOptions options) throws OptionConflict {
        this.sheet = sheet;
        this.options = options;
        this.accepted = new Accepted(sheet, options);
    }

    /// @throws OptionConflict if an option asks for what the destination does not accept, or the name pattern is none
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options) throws OptionConflict {
        Planner planner = new Planner(sheet, options);
        List<PackingItem> items = gathered.stream().map(planner::item).toList();
        return new PackingList(sheet, options, new Placement(sheet, options).place(items));
    }

    private PackingItem item(Gathered gathered) {
        return switch (gathered.content()) {
            case Gathered.Content.Unread() -> blocked(gathered, "not read yet", "its headers are being read");
            case Gathered.Content.Refused(_, String name, String reason) -> blocked(gathered, name, reason);
            case Gathered.Content.Sound(SoundFile file) -> sound(gathered, file);
        };
    }

    private static PackingItem blocked(Gathered gathered, String kind, String reason) {
        return PackingItem.of(gathered, List.of(new Change(Property.KIND, kind, "–", Verdict.BLOCKED, reason)), List.of());
    }

    private PackingItem sound(Gathered gathered, SoundFile file) {
        List<Change> changes = new ArrayList<>();
        SoundFormat source = SoundFormats.of(file), target = accepted.container(file.formatId());
        if (file.frames() == 0) return blocked(gathered, target.name(), "the sound is empty: it has no frames");

        int rateHz = accepted.rateHz(file.rateHz());
        Depth sourceDepth = file.encoding().depth(), depth = accepted.depth(sourceDepth);
        List<ChannelMix> mixes = channels(file, target.capabilities(), changes);
        boolean selects = mixes.stream().allMatch(ChannelMix::isSelection);
        boolean requantises = !depth.isFloat() && exactBits(file, rateHz, selects) > depth.bits();
        Dither dither = requantises ? options.dither() : Dither.NONE;

        if (source != target) changes.add(new Change(Property.CONTAINER, file.container(), target.name(), Verdict.CONVERTED, ""));
        if (rateHz != file.rateHz())
            changes.add(rate(file.rateHz(), rateHz, requantises && depth == sourceDepth ? "rounded to " + depth.label() + ", " + dither(dither) : ""));
        if (depth != sourceDepth) changes.add(depth(sourceDepth, depth, dither, requantises));

        long frames = RateConverters.lengthAfter(file.frames(), rateHz, file.rateHz());
        double seconds = (double) frames / rateHz;
        if (sheet.accepts().maxSeconds() > 0 && seconds > sheet.accepts().maxSeconds())
            changes.add(new Change(Property.LENGTH, String.format(Locale.ROOT, "%.1f s", seconds), "–", Verdict.BLOCKED,
                    String.format(Locale.ROOT, "%.1f s long, the destination takes %.0f s; shorten it first", seconds, sheet.accepts().maxSeconds())));

        FactsTransfer transfer = new FactsTransfer(target, sheet.keeps(), file.rateHz(), rateHz, frames);
        SoundFacts facts = transfer.carry(file.facts());
        changes.addAll(transfer.changes());
        structure(file, changes);

        boolean audioChanges = rateHz != file.rateHz() || depth != sourceDepth || changes.stream().anyMatch(c -> c.property() == Property.CHANNELS);
        boolean verbatim = source == target && !audioChanges && !file.needsMending() && transfer.changes().isEmpty();
        if (!verbatim) chunks(file, source, target, audioChanges, changes);

        List<PlannedOutput> outputs = new ArrayList<>();
        for (ChannelMix mix : mixes) {
            OutputShape shape = new OutputShape(rateHz, mix.weights().size(), depth, frames);
            long bytes = frames * shape.channels() * (depth.bits() / 8);
            if (bytes > target.capabilities().maxFileBytes() - (1 << 20))
                changes.add(new Change(Property.CONTAINER, "", "–", Verdict.BLOCKED, String.format(Locale.ROOT,
                        "%.1f GB of audio, %s holds 4.2 GB; choose WAV or split it", bytes / 1e9, target.name())));
            outputs.add(new PlannedOutput("", target.id(), shape, facts, mix, dither, verbatim, audioChanges));
        }
        return PackingItem.of(gathered, changes, outputs);
    }

    private List<ChannelMix> channels(SoundFile file, Capabilities can, List<Change> changes) {
        int n = file.channels();
        ChannelChoice choice = accepted.channels(n);
        String before = channelName(n);
        switch (choice) {
            case MONO -> {
                if (n == 1) return List.of(ChannelMix.keep(1));
                if (n == 2) {
                    ChannelMix mix = switch (options.monoLaw()) {
                        case MID -> ChannelMix.middle();
                        case LEFT -> ChannelMix.only(0, 2);
                        case RIGHT -> ChannelMix.only(1, 2);
                    };
                    String reason = switch (options.monoLaw()) {
                        case MID -> "both sides folded to the middle, (L+R)/2";
                        case LEFT -> "right channel dropped";
                        case RIGHT -> "left channel dropped";
                    };
                    changes.add(new Change(Property.CHANNELS, before, "mono", Verdict.REDUCED, reason));
                    return List.of(mix);
                }
            }
            case STEREO -> {
                if (n == 2) return List.of(ChannelMix.keep(2));
                if (n == 1) {
                    changes.add(new Change(Property.CHANNELS, before, "stereo", Verdict.CONVERTED, "the same on both sides"));
                    return List.of(ChannelMix.doubled());
                }
            }
            case SPLIT -> {
                if (n == 1) return List.of(ChannelMix.keep(1));
                changes.add(new Change(Property.CHANNELS, before, n + " × mono", Verdict.CONVERTED, "each channel a file of its own"));
                List<ChannelMix> mixes = new ArrayList<>();
                for (int channel = 0; channel < n; channel++)
                    mixes.add(ChannelMix.only(channel, n));
                return mixes;
            }
            case KEEP -> {
                if (accepted.acceptsChannels(n) && n <= can.maxChannels()) return List.of(ChannelMix.keep(n));
            }
        }
        changes.add(new Change(Property.CHANNELS, before, "–", Verdict.BLOCKED, before + " do not fit; split them into mono files"));
        return List.of();
    }

    static String channelName(int channels) { return channels == 1 ? "mono" : channels == 2 ? "stereo" : channels + " channels"; }

    /// Bits that hold every sample exactly when it comes to rounding.
    private static int exactBits(SoundFile file, int rateHz, boolean selects) {
        SampleEncoding encoding = file.encoding();
        if (encoding.isFloat() || rateHz != file.rateHz()) return Integer.MAX_VALUE;
        return encoding.validBits() + (selects ? 0 : 1);
    }

    /// @param rounding how samples are rounded where no change of depth tells it
    private static Change rate(int from, int to, String rounding) {
        double band = KEPT_BAND * Math.min(from, to) / 2;
        boolean loses = to < from && band < AUDIBLE_HZ;
        String lost = to < from ? String.format(Locale.ROOT, "the band above %.1f kHz goes", band / 1000) : "";
        return new Change(Property.RATE, hertz(from), hertz(to), loses ? Verdict.REDUCED : Verdict.CONVERTED,
                lost + (lost.isEmpty() || rounding.isEmpty() ? "" : "; ") + rounding);
    }

    private static String hertz(int hz) { return String.format(Locale.ROOT, "%,d Hz", hz); }

    private static Change depth(Depth from, Depth to, Dither dither, boolean requantises) {
        String reason = "";
        if (requantises) {
            // 6.02 N + 1.76 dB for plain rounding, 4.77 dB more noise with triangular dither (Lipshitz, Wannamaker, Vanderkooy 1992).
            double noise = -(6.02 * to.bits() + 1.76) + (dither == Dither.NONE ? 0 : 4.77);
            reason = "rounded with " + dither(dither) + (dither == Dither.SHAPED ? "" : String.format(Locale.ROOT, ", noise at %.1f dBFS", noise));
        }
        boolean loses = !to.isFloat() && to.bits() < QUIET_BITS && requantises;
        return new Change(Property.DEPTH, from.label(), to.label(), loses ? Verdict.REDUCED : Verdict.CONVERTED, reason);
    }

    private static String dither(Dither dither) {
        return switch (dither) {
            case NONE -> "no dither";
            case TPDF -> "TPDF dither";
            case SHAPED -> "noise-shaped dither";
        };
    }

    private static void structure(SoundFile file, List<Change> changes) {
        for (Problem.Effect effect : List.of(Problem.Effect.LOST, Problem.Effect.MEND)) {
            List<Problem> problems = file.problems().stream().filter(p -> p.effect() == effect).toList();
            if (problems.isEmpty()) continue;
            String reason = problems.stream().map(p -> p.place().isEmpty() ? p.text() : p.place() + ": " + p.text()).collect(Collectors.joining("; "));
            changes.add(new Change(Property.STRUCTURE, "damaged", "mended", effect == Problem.Effect.LOST ? Verdict.REDUCED : Verdict.CONVERTED, reason));
        }
    }

    private static void chunks(SoundFile file, SoundFormat source, SoundFormat target, boolean audioChanges, List<Change> changes) {
        List<ChunkInfo> lost = file.chunks().stream().filter(c -> switch (source.role(c.id())) {
            case FILLER, FACT -> false;
            case TRAVELLER -> source != target;
            case UNKNOWN -> source != target || audioChanges;
        }).toList();
        if (lost.isEmpty()) return;
        String names = lost.stream().map(c -> String.format(Locale.ROOT, "'%s' (%,d bytes)", c.id(), c.bytes())).collect(Collectors.joining(", "));
        changes.add(new Change(Property.CHUNKS, FactsTransfer.count(lost.size(), "chunk"), "none", Verdict.REDUCED,
                FactsTransfer.count(lost.size(), "unknown chunk") + " dropped: " + names));
    }

    /// Whether a chunk of the source goes into an output of the same format.
    public static boolean carries(SoundFormat format, String chunkId, boolean audioChanges) {
        return format.role(chunkId) != ChunkRole.UNKNOWN || !audioChanges;
    }
}
