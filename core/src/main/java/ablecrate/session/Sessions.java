package ablecrate.session;

import ablecrate.disk.SafeFile;
import ablecrate.json.Json;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/// Reads and writes the documents of sessions.
public final class Sessions {
    private Sessions() {}

    /// @param folder of the session
    /// @return empty where there is none
    /// @throws Json.JsonFault if the document is none of ours, or says what cannot be; the message says where
    public static Optional<SessionDocument> in(Path folder) throws IOException, Json.JsonFault {
        Path file = folder.resolve(SessionDocument.NAME);
        return Files.exists(file) ? Optional.of(Json.read(file, SessionDocument.class)) : Optional.empty();
    }

    /// @throws Json.JsonFault if there is none as well
    public static SessionDocument open(Path folder) throws IOException, Json.JsonFault {
        return in(folder).orElseThrow(
                () -> new Json.JsonFault(folder + " holds no " + SessionDocument.NAME + "; name a session's folder, or make one with 'ablecrate session new'"));
    }

    public static void write(SessionDocument document, Path folder) throws IOException {
        SafeFile.write(folder.resolve(SessionDocument.NAME), Json.write(document));
    }

    /// The published JSON schema.
    public static String schema() {
        try (InputStream in = Sessions.class.getResourceAsStream(SessionDocument.SCHEMA)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }
}
