package ablecrate.option;

import java.util.regex.Pattern;

/// A pattern of file names, as shells have it: `*` is any number of characters, `?` is one; letter cases do not matter. Names are compared without their
/// extension and, where the pattern has a `/`, with their folders.
public final class NameGlob {
    private final Pattern pattern;
    private final boolean hasFolders;

    public NameGlob(String glob) {
        hasFolders = glob.indexOf('/') >= 0;
        // A path may begin anywhere at a folder.
        StringBuilder regex = new StringBuilder(hasFolders ? "(?:.*/)?" : "");
        for (char c : glob.toCharArray())
            regex.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf(c)));
        pattern = Pattern.compile(regex.toString(), Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE | Pattern.DOTALL);
    }

    /// @param relative as [ablecrate.library.Gathered#relative]
    public boolean matches(java.nio.file.Path relative) {
        String whole = relative.toString().replace('\\', '/');
        String name = hasFolders ? whole : whole.substring(whole.lastIndexOf('/') + 1);
        int dot = name.lastIndexOf('.');
        return pattern.matcher(name).matches() || dot > name.lastIndexOf('/') && pattern.matcher(name.substring(0, dot)).matches();
    }
}
