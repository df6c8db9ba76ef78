package ablecrate.relink;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;

/// How a document writes names. All texts here are bytes as characters: a document is searched and changed as the bytes that it is.
///
/// Sources: RFC 3986 (percent-encoding), RFC 8259 (JSON), *Extensible Markup Language 1.0*, fifth edition, 2.4.
enum Spelling {
    PLAIN {
        @Override String of(String name) { return name; }
    },
    /// As in a URI, all but letters, digits and `-._~`.
    PERCENT {
        @Override String of(String name) { return percent(name, c -> UNRESERVED.indexOf(c) >= 0); }
    },
    /// As in the path of a URI, where more characters may stand as they are.
    PERCENT_PATH {
        @Override String of(String name) { return percent(name, c -> UNRESERVED.indexOf(c) >= 0 || "!$&'()*+,;=:@".indexOf(c) >= 0); }
    },
    XML {
        @Override String of(String name) { return XML_TEXT.of(name).replace("\"", "&quot;").replace("'", "&apos;"); }
    },
    XML_TEXT {
        @Override String of(String name) { return name.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;"); }
    },
    /// A URI within XML.
    XML_PERCENT {
        @Override String of(String name) { return XML.of(PERCENT_PATH.of(name)); }
    },
    JSON {
        @Override String of(String name) { return name.replace("\\", "\\\\").replace("\"", "\\\""); }
    },
    /// With all that is no ASCII as numbers.
    JSON_ASCII {
        @Override String of(String name) {
            String text = new String(name.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8);
            return JSON.of(text).chars().mapToObj(c -> c < 0x80 ? Character.toString(c) : String.format("\\u%04x", c)).collect(Collectors.joining());
        }
    };

    private static final String UNRESERVED = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~";
    /// What may stand between folders.
    static final List<String> SLASHES = List.of("/", "\\", "\\\\", "\\/", "%2F", "%5C", "%2f", "%5c");

    /// @param name UTF-8, each byte a character
    abstract String of(String name);

    private static String percent(String name, IntPredicate plain) {
        return name.chars().mapToObj(c -> plain.test(c) ? Character.toString(c) : String.format("%%%02X", c)).collect(Collectors.joining());
    }

    /// The bytes of a text, each a character.
    static String bytes(String text) { return new String(text.getBytes(StandardCharsets.UTF_8), StandardCharsets.ISO_8859_1); }
}
