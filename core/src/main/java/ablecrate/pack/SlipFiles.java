package ablecrate.pack;

import ablecrate.disk.SafeFile;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinTask;

/// Leaves the slip in the folder packed into: JSON for programs, HTML for people.
final class SlipFiles {
    private SlipFiles() {}

    /// @param along slips of other folders that the page tells of as well
    static void write(PackingSlip slip, List<PackingSlip> along, Path folder) throws IOException {
        // Of ten thousand items both take a while.
        ForkJoinTask<String> html = ForkJoinPool.commonPool().submit(() -> SlipPage.html(slip, along));
        SafeFile.write(folder.resolve(Packer.SLIP_JSON), Json.write(slip));
        SafeFile.write(folder.resolve(Packer.SLIP_HTML), html.join());
    }
}
