package org.orderlyferry.office.ods;

import java.io.IOException;
import java.io.Writer;
import java.util.Locale;

/** Texts as XML has them in cells. */
final class OdsText {

    private final Writer out;

    OdsText(Writer out) {
        this.out = out;
    }

    /**
     * A text that a cell can hold.
     *
     * @throws IllegalArgumentException if it has a character that XML 1.0 hasn't
     */
    static void mustHold(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c < ' ' && c != '\t' && c != '\n' && c != '\r' || c == '\uFFFE' || c == '\uFFFF') {
                throw new IllegalArgumentException(String.format(
                        Locale.ROOT, "XML 1.0, which such files are made of, has no character U+%04X", (int) c));
            }
        }
    }

    /** Ends a text cell's element: paragraphs for people; and where these can't have all, the value as such. */
    void content(String text) throws IOException {
        if (text.indexOf('\r') >= 0) {
            out.write(" office:string-value=\"");
            attribute(text);
            out.write('"');
        }
        out.write("><text:p>");
        int blanks = 0;
        boolean start = true;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == ' ') {
                blanks++;
                continue;
            }
            blanks(blanks, start || c == '\n');
            blanks = 0;
            start = false;
            switch (c) {
                case '\n' -> {
                    out.write("</text:p><text:p>");
                    start = true;
                }
                case '\t' -> out.write("<text:tab/>");
                default -> escaped(c);
            }
        }
        blanks(blanks, true);
        out.write("</text:p></table:table-cell>");
    }

    /** One blank between others is a blank; more, and those at an end, have an element. */
    private void blanks(int count, boolean atEnd) throws IOException {
        if (count == 1 && !atEnd) {
            out.write(' ');
        } else if (count > 0) {
            out.write("<text:s text:c=\"" + count + "\"/>");
        }
    }

    /** An attribute's value. */
    void attribute(String text) throws IOException {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c < ' ') {
                out.write("&#" + (int) c + ";");
            } else if (c == '"') {
                out.write("&quot;");
            } else {
                escaped(c);
            }
        }
    }

    private void escaped(char c) throws IOException {
        switch (c) {
            case '&' -> out.write("&amp;");
            case '<' -> out.write("&lt;");
            case '>' -> out.write("&gt;");
            case '\r' -> out.write("&#13;");
            default -> out.write(c);
        }
    }
}
