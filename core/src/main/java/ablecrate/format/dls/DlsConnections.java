package ablecrate.format.dls;

import ablecrate.format.BankDecay;
import ablecrate.format.Precision;
import ablecrate.instrument.Extras;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntToDoubleFunction;
import java.util.function.ToIntFunction;

/// Connection blocks of articulators that stand for one parameter each, both ways. Scales are 16.16 fixed point; a time of nothing is the lowest number.
final class DlsConnections {
    private static final int NONE = 0, KEY = 3, VIBRATO = 9, WHEEL = 0x81, PRESSURE = 8, EG2 = 5;
    private static final int PITCH = 3, PAN = 4, CUTOFF = 0x500, Q = 0x501, VIB_FREQUENCY = 0x114, VIB_DELAY = 0x115;
    private static final double ONE = 65_536;
    /// Sustain is told in percent of this many decibels.
    private static final double RANGE_DB = 96;

    /// @param how for people
    record Setting(int source, int control, int destination, Parameter<Double> parameter, ToIntFunction<Double> write, IntToDoubleFunction read, String how) {
        Precision<Double> carried() { return Precision.as(how, v -> read.applyAsDouble(write.applyAsInt(v))); }

        Block block(double value) { return new Block(source, control, destination, 0, write.applyAsInt(value)); }

        boolean fits(Block b) { return b.source() == source && b.control() == control && b.destination() == destination; }
    }

    record Block(int source, int control, int destination, int transform, int scale) {
        private static final String NAME = "connection";

        Extras.Setting setting() { return new Extras.Setting(NAME, source + " " + control + " " + destination + " " + transform + " " + scale); }

        static List<Block> of(Extras extras) {
            return extras.in(DlsFormat.ID).settings().stream().map(s -> s.value().split(" ")).map(n -> new Block(Integer.parseInt(n[0]), Integer.parseInt(n[1]),
                    Integer.parseInt(n[2]), Integer.parseInt(n[3]), Integer.parseInt(n[4]))).toList();
        }
    }

    static final List<Setting> ALL = List.of(linear(NONE, NONE, PAN, Parameter.PAN, 5, "steps of 1/327,680"),
            linear(KEY, NONE, PITCH, Parameter.KEY_TRACKING, 128, "up to 255 cents a key"), time(0x20B, Parameter.DELAY), time(0x206, Parameter.ATTACK),
            time(0x20C, Parameter.HOLD), time(0x207, Parameter.DECAY),
            new Setting(NONE, NONE, 0x20A, Parameter.SUSTAIN, db -> (int) (Math.rint(Math.clamp(1000 * (1 + db / RANGE_DB), 0, 1000)) * ONE),
                    v -> Math.clamp((v / ONE / 1000 - 1) * RANGE_DB, -144, 0), "0.1 dB, down to −96"),
            time(0x209, Parameter.RELEASE),
            new Setting(NONE, NONE, CUTOFF, Parameter.CUTOFF, DlsConnections::pitch, DlsConnections::hertz, "whole cents"),
            new Setting(NONE, NONE, Q, Parameter.RESONANCE, db -> (int) (Math.rint(Math.clamp(db, 0, 22.5) * 10) * ONE), v -> v / ONE / 10,
                    "0…22.5 dB, 0.1 dB"),
            linear(EG2, NONE, CUTOFF, Parameter.FILTER_ENVELOPE, 1, "steps of 1/65,536"), time(0x30A, Parameter.FILTER_ATTACK),
            time(0x310, Parameter.FILTER_HOLD),
            time(0x30B, Parameter.FILTER_DECAY), linear(NONE, NONE, 0x30E, Parameter.FILTER_SUSTAIN, 10, "steps of 0.1 %"),
            time(0x30D, Parameter.FILTER_RELEASE),
            linear(2, NONE, CUTOFF, Parameter.FILTER_VELOCITY, 1, "steps of 1/65,536"),
            new Setting(NONE, NONE, VIB_FREQUENCY, Parameter.VIBRATO_RATE, DlsConnections::pitch, DlsConnections::hertz, "whole cents"),
            time(VIB_DELAY, Parameter.VIBRATO_DELAY),
            linear(VIBRATO, NONE, PITCH, Parameter.VIBRATO_DEPTH, 1, "steps of 1/65,536"),
            linear(VIBRATO, WHEEL, PITCH, Parameter.VIBRATO_WHEEL, 1, "steps of 1/65,536"),
            linear(VIBRATO, PRESSURE, PITCH, Parameter.VIBRATO_PRESSURE, 1, "steps of 1/65,536"));

    private static final BankDecay DECAY = new BankDecay(RANGE_DB);

    private DlsConnections() {}

    /// Decays on whole timecents.
    static Zone fitDecays(Zone zone) {
        Setting time = time(NONE, Parameter.DECAY);
        return DECAY.fit(zone, seconds -> time.read.applyAsDouble(time.write.applyAsInt(seconds)));
    }

    private static Setting linear(int source, int control, int destination, Parameter<Double> parameter, double unit, String how) {
        double most = Integer.MAX_VALUE / ONE;
        return new Setting(source, control, destination, parameter, v -> (int) Math.rint(Math.clamp(v * unit, -most, most) * ONE), v -> v / ONE / unit, how);
    }

    private static Setting time(int destination, Parameter<Double> parameter) {
        return new Setting(NONE, NONE, destination, parameter,
                s -> s < 0.0005 ? Integer.MIN_VALUE : (int) (Math.rint(Math.clamp(1200 * Math.log(s) / Math.log(2), -13_200, 10_000)) * ONE),
                v -> v == Integer.MIN_VALUE ? 0 : Math.pow(2, v / ONE / 1200), "whole timecents");
    }

    private static int pitch(double hertz) { return (int) (Math.rint(6900 + 1200 * Math.log(hertz / 440) / Math.log(2)) * ONE); }

    private static double hertz(int scale) { return 440 * Math.pow(2, (scale / ONE - 6900) / 1200); }

    /// Whole semitones of a tuning beyond one. What of them the root key cannot tell, see [DlsFormat#together], goes into a connection.
    static int semitoneCents(double tuning) { return Math.abs(Math.rint(tuning)) <= 100 ? 0 : 100 * (int) Math.rint(tuning / 100); }

    /// A key's pitch is counted from key 0, that of the sample from its root: where keys are no semitone apart, the root does not play its pitch by itself.
    private static double pivotCents(Zone zone) { return zone.get(Parameter.ROOT_KEY) * (100 - zone.get(Parameter.KEY_TRACKING)); }

    private static boolean isTuning(Block b) { return b.source() == NONE && b.control() == NONE && b.destination() == PITCH; }

    static List<Block> of(Zone zone) {
        List<Block> out = new ArrayList<>();
        long tuning = Math.round((semitoneCents(zone.get(Parameter.TUNING)) + pivotCents(zone)) * ONE);
        // Connections to one place add up; the farthest pivots are more than one can hold.
        for (long rest = tuning; rest != 0;) {
            int held = Math.clamp(rest, -Integer.MAX_VALUE, Integer.MAX_VALUE);
            out.add(new Block(NONE, NONE, PITCH, 0, held));
            rest -= held;
        }
        Zone said = DECAY.written(zone);
        for (Setting s : ALL)
            said.said(s.parameter()).ifPresent(v -> out.add(s.block(v)));
        out.addAll(Block.of(zone.get(Parameter.EXTRAS)));
        return out;
    }

    static Zone into(Zone zone, List<Block> blocks) {
        Zone out = zone;
        List<Extras.Setting> extras = new ArrayList<>();
        double tuning = 0;
        for (Block b : blocks) {
            if (isTuning(b)) {
                tuning += b.scale() / ONE;
                continue;
            }
            Optional<Setting> setting = ALL.stream().filter(s -> s.fits(b)).findFirst();
            if (setting.isEmpty())
                extras.add(b.setting());
            else {
                double value = setting.get().read().applyAsDouble(b.scale());
                if (setting.get().parameter().allows(value)) out = out.with(setting.get().parameter(), value);
            }
        }
        out = DECAY.read(out);
        if (!extras.isEmpty()) out = out.with(Parameter.EXTRAS, new Extras(DlsFormat.ID, extras));
        double cents = out.get(Parameter.TUNING) + Math.rint((tuning - pivotCents(out)) * 1000) / 1000;
        if (cents != out.get(Parameter.TUNING) && Parameter.TUNING.allows(cents)) out = out.with(Parameter.TUNING, cents);
        return out.said(Parameter.CUTOFF).isPresent() ? out.with(Parameter.FILTER, FilterKind.LOW_PASS) : out;
    }
}
