package org.orderlyferry.office.xlsx;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Texts as ISO/IEC 29500's {@code ST_Xstring} has them: {@code _xHHHH_} for what XML can't hold or would change. */
final class XString {

    private static final Pattern ESCAPE = Pattern.compile("_x([0-9A-Fa-f]{4})_");

    private XString() {}

    static String of(String text) {
        StringBuilder written = null;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean looksEscaped =
                    c == '_' && ESCAPE.matcher(text).region(i, text.length()).lookingAt();
            boolean special = c < ' ' && c != '\t' && c != '\n' || c == '\uFFFE' || c == '\uFFFF' || looksEscaped;
            if (special && written == null) {
                written = new StringBuilder(text.substring(0, i));
            }
            if (special) {
                written.append(String.format(Locale.ROOT, "_x%04X_", (int) c));
            } else if (written != null) {
                written.append(c);
            }
        }
        return written == null ? text : written.toString();
    }

    static String back(String written) {
        if (written.indexOf("_x") < 0) {
            return written;
        }
        Matcher matcher = ESCAPE.matcher(written);
        StringBuilder text = new StringBuilder();
        while (matcher.find()) {
            String c = String.valueOf((char) Integer.parseInt(matcher.group(1), 16));
            matcher.appendReplacement(text, Matcher.quoteReplacement(c));
        }
        return matcher.appendTail(text).toString();
    }
}
