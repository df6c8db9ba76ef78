package ablecrate.demo;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.codec.WrittenFormat;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.SoundMetadata;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/// An instrument that no device has room for, and a job for each of three devices.
public final class DemoDevices {
    /// The folder that is made, beside the crate.
    public static final String NAME = "The Tin Chimes";
    private static final List<String> DEVICES = List.of("keyboard-sampler", "card-sampler", "bank-player");
    private static final int RATE = 44_100, LAYERS = 8, ROOTS = 18, LOWEST = 43, STEP = 3;
    private static final double SECONDS = 1.1;
    private static final double[] CHIME = {1, 2.76, 5.4, 8.93, 13.3};

    private DemoDevices() {}

    /// Writes the instrument and the jobs, unless they are there.
    /// @param crate that [DemoCrate] made
    /// @return the jobs
    public static List<Path> make(Path crate) throws IOException {
        Path folder = crate.resolveSibling(NAME), map = folder.resolve("tin chimes.sfz"), sounds = folder.resolve("chimes");
        List<Path> jobs = DEVICES.stream().map(d -> folder.resolve("tin chimes for the " + d.replace('-', ' ') + Jobs.EXTENSION)).toList();
        if (Files.exists(jobs.getLast())) return jobs;
        Files.createDirectories(sounds);
        WrittenFormat wav = SoundFormats.written("wav").orElseThrow();
        try {
            IntStream.range(0, LAYERS * ROOTS).parallel().forEach(i -> {
                int layer = i % LAYERS, key = LOWEST + i / LAYERS * STEP;
                double[] sound = Synth.peak(new Synth(RATE, 9000 + i).strike(Synth.hertz(key), CHIME, SECONDS, 0.1 + 0.11 * layer), -31 + 3.5 * layer);
                try {
                    WholeSound.write(sounds.resolve(name(key, layer)), wav, RATE, Depth.INT_16, SoundMetadata.NONE, List.of(), new double[][]{sound});
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        Files.writeString(map, map());
        for (int i = 0; i < jobs.size(); i++)
            Jobs.save(Job.EMPTY.gathering(List.of(map)).aimedAt(DEVICES.get(i)).packingInto(Optional.of(folder.resolve("card of the " + DEVICES.get(i)))),
                    jobs.get(i));
        return jobs;
    }

    private static String name(int key, int layer) { return "chime " + NoteName.of(key).replace("#", "s") + " v" + (layer + 1) + ".wav"; }

    /// Velocities are shared out unevenly: more steps where one plays softly.
    private static String map() {
        int[] tops = {20, 36, 50, 64, 78, 92, 110, 127};
        StringBuilder map = new StringBuilder("<control> default_path=chimes/\n<global> ampeg_release=0.6\n");
        for (int root = 0; root < ROOTS; root++)
            for (int layer = 0; layer < LAYERS; layer++) {
                int key = LOWEST + root * STEP;
                map.append("<region> sample=").append(name(key, layer)).append(" pitch_keycenter=").append(key).append(" lokey=").append(key - 1)
                        .append(" hikey=")
                        .append(key + 1).append(" lovel=").append(layer == 0 ? 1 : tops[layer - 1] + 1).append(" hivel=").append(tops[layer]).append('\n');
            }
        return map.toString();
    }
}
