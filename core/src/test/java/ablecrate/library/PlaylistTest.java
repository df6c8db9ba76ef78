package ablecrate.library;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PlaylistTest {
    @TempDir Path folder;

    @BeforeEach void twoSounds() throws Exception {
        Files.createDirectories(folder.resolve("in here"));
        Files.writeString(folder.resolve("one.wav"), "x");
        Files.writeString(folder.resolve("in here/two.mp3"), "x");
    }

    private Playlist read(String name, String text) throws Exception { return Playlist.read(Files.writeString(folder.resolve(name), text)); }

    @Test void everyKindOfListIsFollowed() throws Exception {
        String there = folder.resolve("in here/two.mp3").toUri().toString();
        for (Playlist list : new Playlist[]{read("a.m3u", "#EXTM3U\n#EXTINF:1,One\none.wav\nin here\\two.mp3\ngone.wav\nhttps://shop.example/three.mp3\n"),
            read("b.pls",
                    "[playlist]\nFile1=one.wav\nTitle1=One\nFile2=" + there + "\nFile3=gone.wav\nFile4=http://shop.example/three.mp3\nNumberOfEntries=4\n"),
            read("c.xspf", "<?xml version=\"1.0\"?><playlist><trackList><track><location>one.wav</location></track><track><location>" + there
                    + "</location></track><track><location>gone.wav</location></track><track><location>http://shop.example/a</location></track></trackList></playlist>")}) {
            assertThat(list.there()).extracting(p -> p.getFileName().toString()).containsExactly("one.wav", "two.mp3");
            assertThat(list.missing()).containsExactly("gone.wav");
            assertThat(list.remote()).hasSize(1);
            assertThat(list.told()).isEqualTo("it only points at sounds: 4 links, 2 on this machine, which can be gathered, 1 to files that are not there, "
                    + "1 to other machines, from which nothing is fetched");
        }
    }
}
