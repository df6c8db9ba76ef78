package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.play.KeptSounds;
import ablecrate.play.Voices;
import ablecrate.signal.SoundPath;
import java.nio.file.Path;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// The sizes that sounds may be kept in: from the whole down, each smaller for more harm, on the lower hull of both.
class StackSizesTest {
    @TempDir Path folder;

    /// @param instruments how many the task has, all alike
    private List<List<Row.SizeChoice>> sizes(int instruments) throws Exception {
        FitTask one = MadeInstrument.ofRoots(folder, 4, 5).task(DeviceLimits.NONE);
        Instrument instrument = one.instruments().getFirst();
        FitTask task = new FitTask(Collections.nCopies(instruments, instrument), one.sounds(), one.limits(), List.of(), true, FitTask.Format.ANY, one.rules());
        Voices.Sounds sounds = sample -> MadeInstrument.loaded(task, sample);
        SizedSounds sized = new SizedSounds(task, sounds, new KeptSounds(), new SoundPath());
        Row row = MemoryFitter.rows(task, instrument).getFirst();
        SampleUsers users = new SampleUsers(Map.of(), SampleUsers.count(List.of(row)));
        return new StackSizes(task, instrument, sounds, sized, new SizeHarms(task.isBank()), new Notes(sounds, task.format()), users).of(row);
    }

    @Test void lessMemoryCostsMore() throws Exception {
        for (List<Row.SizeChoice> ofStack : sizes(1)) {
            assertThat(ofStack).hasSizeGreaterThan(2);
            assertThat(ofStack.getFirst().harm()).as("of the whole").isZero();
            double slope = 0;
            for (int i = 1; i < ofStack.size(); i++) {
                Row.SizeChoice before = ofStack.get(i - 1), size = ofStack.get(i);
                assertThat(size.bytes()).isLessThan(before.bytes());
                double next = (size.harm() - before.harm()) / (before.bytes() - size.bytes());
                assertThat(next).as("harm for each byte less").isGreaterThanOrEqualTo(i == 1 ? 0 : slope);
                slope = next;
            }
        }
    }

    /// In a bank, of neighbours no more than six keys apart one is listened to.
    @Test void neighboursInABankLoseAsMuch() throws Exception {
        List<List<Row.SizeChoice>> bank = sizes(17);
        assertThat(smallest(bank.get(0))).isEqualTo(smallest(bank.get(1)));
        assertThat(smallest(bank.get(2))).as("ten keys from the first").isNotEqualTo(smallest(bank.get(1))).isEqualTo(smallest(bank.get(3)));
        List<List<Row.SizeChoice>> alone = sizes(1);
        assertThat(smallest(alone.get(0))).isNotEqualTo(smallest(alone.get(1)));
    }

    private static double smallest(List<Row.SizeChoice> sizes) { return sizes.getLast().harm(); }
}
