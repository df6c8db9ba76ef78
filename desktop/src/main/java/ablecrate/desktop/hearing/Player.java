package ablecrate.desktop.hearing;

import ablecrate.audio.FrameSource;
import ablecrate.dsp.ChannelMixer;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.RateConverters;
import java.io.IOException;
import java.util.concurrent.Callable;
import java.util.function.Consumer;
import java.util.function.IntFunction;
import javax.sound.sampled.LineUnavailableException;

/// Plays one source in a thread of its own. Made for one playing; asked from any thread.
public final class Player {
    private static final int BLOCK = 1024, SAFE_RATE = 48_000;
    private static final double FALL_DB_PER_BLOCK = 1.5;

    private final Callable<FrameSource> opener;
    private final IntFunction<AudioOut> outs;
    private final Thread thread;
    private volatile boolean stopped, over;
    private volatile double gain = 1;
    private volatile AudioOut out;
    private volatile int sourceRateHz = 1;
    private volatile double leftDb = Double.NEGATIVE_INFINITY, rightDb = Double.NEGATIVE_INFINITY;

    /// @param outs an output for a rate, always with two channels
    /// @param ended told when it is over, of what went wrong or null; from the player's thread
    public Player(Callable<FrameSource> opener, IntFunction<AudioOut> outs, Consumer<Exception> ended) {
        this.opener = opener;
        this.outs = outs;
        thread = Thread.ofPlatform().name("hearing").daemon().unstarted(() -> {
            Exception fault = null;
            try {
                play();
            } catch (InterruptedException e) {
                // Stopped by the user.
            } catch (Exception e) {
                fault = e;
            }
            over = true;
            ended.accept(fault);
        });
    }

    public void start() { thread.start(); }

    public void stop() {
        stopped = true;
        thread.interrupt();
    }

    public boolean isOver() { return over; }

    private void play() throws Exception {
        try (FrameSource source = opener.call()) {
            sourceRateHz = source.rateHz();
            try (AudioOut device = outs.apply(source.rateHz())) {
                out = device;
                run(new RateConverters().convert(stereo(source), device.rateHz()), device);
            }
        }
    }

    private void run(FrameSource heard, AudioOut device) throws IOException, InterruptedException {
        double[][] block = new double[2][BLOCK];
        for (int got; !stopped && (got = heard.read(block, 0, BLOCK)) > 0;) {
            leftDb = meter(block[0], got, leftDb);
            rightDb = meter(block[1], got, rightDb);
            double factor = gain;
            if (factor != 1) scale(block, got, factor);
            device.write(block, got);
        }
        if (!stopped) device.drain();
    }

    private static void scale(double[][] block, int frames, double factor) {
        for (double[] plane : block)
            for (int i = 0; i < frames; i++)
                plane[i] *= factor;
    }

    /// How loud it is heard, from now on; what the meters show is the sound's own level.
    /// @param db 0 or below
    public void setVolumeDb(double db) { gain = Decibels.toFactor(db); }

    /// The peak of a block, falling slowly from the one before.
    private static double meter(double[] plane, int frames, double before) {
        double peak = 1e-9;
        for (int i = 0; i < frames; i++)
            peak = Math.max(peak, Math.abs(plane[i]));
        return Math.max(20 * Math.log10(peak), before - FALL_DB_PER_BLOCK);
    }

    /// Two channels for two ears: mono on both, more than two spread from left to right.
    private static FrameSource stereo(FrameSource source) {
        int n = source.channels();
        if (n == 2) return source;
        double[][] weights = new double[2][n];
        for (int channel = 0; channel < n; channel++) {
            if (n == 1 || channel % 2 == 0) weights[0][channel] = n == 1 ? 1 : 2.0 / n;
            if (n == 1 || channel % 2 == 1) weights[1][channel] = n == 1 ? 1 : 2.0 / n;
        }
        return new ChannelMixer(source, weights);
    }

    /// Frames of the source that were heard.
    public double heardSourceFrames() {
        AudioOut device = out;
        return device == null ? 0 : (double) device.heardFrames() * sourceRateHz / device.rateHz();
    }

    public double leftDb() { return leftDb; }

    public double rightDb() { return rightDb; }

    /// The device at the wanted rate, or at one that every device takes; the silent clock where there is none.
    /// @param noDevice told if there is none
    public static AudioOut deviceOrClock(int rateHz, Runnable noDevice) {
        try {
            return new DeviceOut(rateHz, 2);
        } catch (LineUnavailableException other) {
            try {
                return new DeviceOut(SAFE_RATE, 2);
            } catch (LineUnavailableException none) {
                noDevice.run();
                return new SilentOut(rateHz, 2);
            }
        }
    }
}
