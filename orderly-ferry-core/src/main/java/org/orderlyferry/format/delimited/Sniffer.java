package org.orderlyferry.format.delimited;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.PlaceException;

/** Finds out what nobody said of a delimited file: the delimiter, and whether it is in UTF-16. */
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
        Optional<String> encoding = needsEncoding ? encoding(head) : Optional.empty();
        if (encoding.isPresent()) {
            found = found.with("encoding", encoding.get());
        }
        if (needsDelimiter) {
            String text = new String(
                    head,
                    found.encoding("encoding", StandardCharsets.UTF_8)
                            .newEncoder()
                            .charset());
            for (int i = settings.count("skipRows", 0); i > 0; i--) {
                text = text.substring(text.indexOf('\n') + 1);
            }
            found = found.with("delimiter", delimiter(text, settings.text("quoteChar", "\"")));
        }
        return found;
    }

    /** UTF-16 shows itself by a mark, or by the zeros that are every other byte of most texts and of no other encoding. */
    private static Optional<String> encoding(byte[] head) {
        int first = head.length < 2 ? 0 : (head[0] & 0xFF) << 8 | head[1] & 0xFF;
        if (first == 0xFEFF || first == 0xFFFE) {
            return Optional.of("UTF-16");
        }
        int[] zeros = new int[2];
        for (int i = 0; i < head.length; i++) {
            zeros[i % 2] += head[i] == 0 ? 1 : 0;
        }
        int most = head.length / 4;
        if (Math.max(zeros[0], zeros[1]) <= most || Math.min(zeros[0], zeros[1]) > most / 20) {
            return Optional.empty();
        }
        return Optional.of(zeros[1] > zeros[0] ? "UTF-16LE" : "UTF-16BE");
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
