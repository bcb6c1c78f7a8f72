package org.orderlyferry.cluster.hdfs;

import java.nio.charset.StandardCharsets;
import java.util.HexFormat;

/** Percent-encoding (RFC 3986, 2.1) of all that isn't unreserved. */
final class Encoded {

    private static final String UNRESERVED = "-._~";

    private Encoded() {}

    /** A path, whose slashes stay. */
    static String path(String path) {
        return encoded(path, UNRESERVED + "/");
    }

    /** A parameter's value. */
    static String value(String value) {
        return encoded(value, UNRESERVED);
    }

    private static String encoded(String text, String kept) {
        StringBuilder encoded = new StringBuilder();
        for (byte b : text.getBytes(StandardCharsets.UTF_8)) {
            char c = (char) (b & 0xFF);
            boolean plain = c < 0x80 && (Character.isLetterOrDigit(c) || kept.indexOf(c) >= 0);
            if (plain) {
                encoded.append(c);
            } else {
                encoded.append('%').append(HexFormat.of().withUpperCase().toHexDigits(b));
            }
        }
        return encoded.toString();
    }
}
