package ablecrate.pack;

import ablecrate.disk.SafeFile;
import ablecrate.json.Json;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinTask;

/// Leaves the slip in the folder packed into: JSON for programs, HTML for people.
final class SlipFiles {
    private static final int STEP = 1 << 14;

    private SlipFiles() {}

    /// Bit by bit, as all bytes of a long text at once take three times its room.
    private static void write(String text, OutputStream out) throws IOException {
        Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
        for (int at = 0; at < text.length(); at += STEP)
            writer.write(text, at, Math.min(STEP, text.length() - at));
        writer.flush();
    }

    /// @param along slips of other folders that the page tells of as well
    static void write(PackingSlip slip, List<PackingSlip> along, Path folder) throws IOException {
        // Of ten thousand items both take a while.
        ForkJoinTask<String> html = ForkJoinPool.commonPool().submit(() -> SlipPage.html(slip, along));
        SafeFile.write(folder.resolve(Packer.SLIP_JSON), out -> Json.write(slip, out));
        SafeFile.write(folder.resolve(Packer.SLIP_HTML), out -> write(html.join(), out));
    }
}
