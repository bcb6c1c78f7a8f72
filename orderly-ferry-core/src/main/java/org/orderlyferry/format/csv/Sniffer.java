package org.orderlyferry.format.csv;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.PlaceException;

/** Finds out what nobody said of a delimited file: the delimiter, and the encoding where a byte-order mark tells it. */
final class Sniffer {

    private static final int HEAD = 64 * 1024;
    private static final String DELIMITERS = ",;\t|";
    private static final int LINES = 50;

    private Sniffer() {}

    /** The settings, together with what the file's beginning tells where they say nothing. */
    static FileSettings complete(FileSource file, FileSettings settings) {
        boolean needsDelimiter =
                settings.text("delimiter").isEmpty() && settings.text("widths").isEmpty();
        boolean needsEncoding = settings.text("encoding").isEmpty();
        if (!needsDelimiter && !needsEncoding) {
            return settings;
        }
        byte[] head;
        try (InputStream in = file.open()) {
            head = in.readNBytes(HEAD);
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
        FileSettings found = settings;
        boolean utf16 = head.length >= 2
                && ((head[0] & 0xFF) == 0xFF && (head[1] & 0xFF) == 0xFE
                        || (head[0] & 0xFF) == 0xFE && (head[1] & 0xFF) == 0xFF);
        if (needsEncoding && utf16) {
            found = found.with("encoding", "UTF-16");
        }
        if (needsDelimiter) {
            String text = new String(
                    head,
                    found.encoding("encoding", StandardCharsets.UTF_8)
                            .newEncoder()
                            .charset());
            found = found.with("delimiter", delimiter(text, settings.text("quoteChar", "\"")));
        }
        return found;
    }

    /** The one that stands as often in each of the first lines, outside of quotes; a comma where none does. */
    private static String delimiter(String text, String quote) {
        char best = ',';
        double bestScore = 0;
        for (char candidate : DELIMITERS.toCharArray()) {
            double score = score(text, candidate, quote.charAt(0));
            if (score > bestScore) {
                best = candidate;
                bestScore = score;
            }
        }
        return String.valueOf(best);
    }

    private static double score(String text, char delimiter, char quote) {
        int first = -1;
        int count = 0;
        int lines = 0;
        int same = 0;
        boolean quoted = false;
        for (int i = 0; i < text.length() && lines < LINES; i++) {
            char c = text.charAt(i);
            if (c == quote) {
                quoted = !quoted;
            } else if (!quoted && c == delimiter) {
                count++;
            } else if (!quoted && c == '\n') {
                first = first < 0 ? count : first;
                same += count == first ? 1 : 0;
                count = 0;
                lines++;
            }
        }
        if (first < 0) {
            first = count;
            same = 1;
            lines = 1;
        }
        return first == 0 ? 0 : (double) same / lines + first / 1_000.0;
    }
}
