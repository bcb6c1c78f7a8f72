package org.orderlyferry.format.xml;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Names of tables and columns as names of XML, by the rules of ISO/IEC 9075-14: what XML can't have is {@code _xHHHH_}. */
final class XmlNames {

    private static final Pattern ESCAPE = Pattern.compile("_x([0-9A-F]{4}|[0-9A-F]{6})_");

    private XmlNames() {}

    static String of(String name) {
        StringBuilder xml = new StringBuilder();
        int[] points = name.codePoints().toArray();
        for (int i = 0; i < points.length; i++) {
            int c = points[i];
            boolean escaped = c == '_' && i + 1 < points.length && points[i + 1] == 'x';
            boolean letter = Character.isLetter(c) && c < 0x10000;
            boolean inner = letter || c >= '0' && c <= '9' || c == '-' || c == '.' || c == '_';
            if (!escaped && (i == 0 ? letter || c == '_' : inner)) {
                xml.appendCodePoint(c);
            } else {
                xml.append(String.format(Locale.ROOT, c > 0xFFFF ? "_x%06X_" : "_x%04X_", c));
            }
        }
        // XML keeps names that begin so for itself
        return xml.toString().regionMatches(true, 0, "xml", 0, 3)
                ? String.format(Locale.ROOT, "_x%04X_", (int) xml.charAt(0)) + xml.substring(1)
                : xml.toString();
    }

    static String back(String xml) {
        if (xml.indexOf("_x") < 0) {
            return xml;
        }
        Matcher matcher = ESCAPE.matcher(xml);
        StringBuilder name = new StringBuilder();
        while (matcher.find()) {
            String point = Character.toString(Integer.parseInt(matcher.group(1), 16));
            matcher.appendReplacement(name, Matcher.quoteReplacement(point));
        }
        return matcher.appendTail(name).toString();
    }
}
