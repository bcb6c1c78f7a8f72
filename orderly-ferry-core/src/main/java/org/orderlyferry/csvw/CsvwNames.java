package org.orderlyferry.csvw;

import java.nio.charset.StandardCharsets;
import java.util.Locale;

/** Names that can stand in a URI template (RFC 6570), as CSVW asks of a column's {@code name}. */
public final class CsvwNames {

    private CsvwNames() {}

    /** Letters, digits and inner underscores stay; every other byte is percent-encoded, so no two names become one. */
    public static String safe(String name) {
        StringBuilder safe = new StringBuilder();
        for (byte b : name.getBytes(StandardCharsets.UTF_8)) {
            boolean plain = b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= '0' && b <= '9';
            if (plain || b == '_' && safe.length() > 0) {
                safe.append((char) b);
            } else {
                safe.append(String.format(Locale.ROOT, "%%%02X", b));
            }
        }
        return safe.toString();
    }

    /** A path as a relative URL. */
    public static String url(String path) {
        StringBuilder url = new StringBuilder();
        for (byte b : path.getBytes(StandardCharsets.UTF_8)) {
            boolean plain =
                    b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= '0' && b <= '9' || "_-./".indexOf(b) >= 0;
            if (plain) {
                url.append((char) b);
            } else {
                url.append(String.format(Locale.ROOT, "%%%02X", b));
            }
        }
        return url.toString();
    }

    /** The path that a relative URL stands for. */
    public static String path(String url) {
        return java.net.URLDecoder.decode(url.replace("+", "%2B"), StandardCharsets.UTF_8);
    }
}
