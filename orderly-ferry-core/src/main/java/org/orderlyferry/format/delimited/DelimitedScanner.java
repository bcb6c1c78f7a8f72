package org.orderlyferry.format.delimited;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.csv.LineEnd;
import org.orderlyferry.format.csv.LineEnds;
import org.orderlyferry.io.DecodedInput;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** Takes a file of any dialect apart into records, character by character. */
final class DelimitedScanner implements AutoCloseable {

    private static final int END = -1;
    private static final int LONGEST = 256 * 1024 * 1024;

    /**
     * One value.
     *
     * @param raw as it is written, with its escapes, which a word for null may have
     */
    record Field(String text, String raw, boolean quoted) {

        Field(String text, boolean quoted) {
            this(text, text, quoted);
        }
    }

    /**
     * One record and the line on which it begins.
     *
     * @param fault why it is none; null for a good one
     */
    record Scanned(List<Field> fields, long line, String fault) {}

    private final BufferedReader in;
    private final String source;
    private final String table;
    private final DelimitedDialect dialect;
    private final Deque<Scanned> held = new ArrayDeque<>();
    private final LineEnds lineEnds = new LineEnds();
    private long line = 1;
    private long comments;
    private long firstComment;
    private int ahead = END - 1;
    private boolean started;
    private String fault;

    DelimitedScanner(InputStream in, String source, String table, DelimitedDialect dialect) {
        this.in = new BufferedReader(
                new InputStreamReader(new DecodedInput(in, dialect.encoding(), this::origin), StandardCharsets.UTF_8),
                64 * 1024);
        this.source = source;
        this.table = table;
        this.dialect = dialect;
    }

    Origin origin(long at) {
        return new Origin(table, source, at, true);
    }

    /** The next record; null behind the last. */
    Scanned next() {
        start();
        while (held.size() <= dialect.skipLastRows()) {
            Scanned scanned = scan();
            if (scanned == null) {
                return null;
            }
            held.add(scanned);
        }
        return held.remove();
    }

    private void start() {
        if (started) {
            return;
        }
        started = true;
        if (peek() == '\uFEFF') {
            take();
        }
        for (int i = 0; i < dialect.skipRows() && peek() != END; i++) {
            line();
        }
    }

    private Scanned scan() {
        while (peek() != END) {
            long at = line;
            if (isBlank()) {
                continue;
            }
            if (!dialect.comment().isEmpty() && startsWith(dialect.comment())) {
                firstComment = comments++ == 0 ? at : firstComment;
                line();
                continue;
            }
            fault = null;
            List<Field> fields = dialect.widths().isEmpty() ? delimited(at) : fixed();
            return new Scanned(
                    fields.subList(Math.min(fields.size(), dialect.skipColumns()), fields.size()), at, fault);
        }
        return null;
    }

    /** Takes an empty line, which holds no record. */
    private boolean isBlank() {
        if (peek() != '\n' && peek() != '\r') {
            return false;
        }
        lineEnd();
        return true;
    }

    private List<Field> fixed() {
        String text = line();
        List<Field> fields = new ArrayList<>();
        int at = 0;
        for (int width : dialect.widths()) {
            int from = Math.min(text.length(), at);
            int to = text.offsetByCodePoints(from, Math.min(width, text.codePointCount(from, text.length())));
            fields.add(new Field(trimmed(text.substring(from, to)), false));
            at = to;
        }
        if (!text.substring(Math.min(at, text.length())).isBlank()) {
            fields.add(new Field(text.substring(at), false));
        }
        return fields;
    }

    private List<Field> delimited(long at) {
        List<Field> fields = new ArrayList<>();
        while (true) {
            fields.add(field(at));
            if (peek() == END) {
                return fields;
            }
            if (peek() == '\n' || peek() == '\r') {
                lineEnd();
                return fields;
            }
            take(dialect.delimiter().length());
        }
    }

    private Field field(long at) {
        StringBuilder text = new StringBuilder();
        if (dialect.trim().takesFirst()) {
            while ((peek() == ' ' || peek() == '\t') && !startsWith(dialect.delimiter())) {
                take();
            }
        }
        if (dialect.quote() != 0 && peek() == dialect.quote()) {
            take();
            quoted(text, at);
            return new Field(text.toString(), true);
        }
        StringBuilder raw = null;
        while (peek() != END && peek() != '\n' && peek() != '\r' && !startsWith(dialect.delimiter())) {
            if (escaped()) {
                raw = raw == null ? new StringBuilder(text) : raw;
                raw.append(dialect.escape()).append((char) peek());
                text.append(meant(take()));
            } else {
                char c = take();
                text.append(c);
                if (raw != null) {
                    raw.append(c);
                }
            }
            mustEnd(text, at);
        }
        String value = trimmed(text.toString());
        return new Field(value, raw == null ? value : trimmed(raw.toString()), false);
    }

    private void quoted(StringBuilder text, long at) {
        while (true) {
            if (peek() == END) {
                throw new MalformedFileException(
                        origin(at), "the file ends inside the quoted value that begins in this record");
            }
            if (escaped()) {
                text.append(meant(take()));
            } else if (peek() == dialect.quote()) {
                take();
                if (peek() != dialect.quote() || dialect.escape() != 0) {
                    break;
                }
                text.append(take());
            } else {
                line += peek() == '\n' ? 1 : 0;
                text.append(take());
            }
            mustEnd(text, at);
        }
        while (dialect.trim().takesLast() && (peek() == ' ' || peek() == '\t') && !startsWith(dialect.delimiter())) {
            take();
        }
        boolean ends = peek() == END || peek() == '\n' || peek() == '\r' || startsWith(dialect.delimiter());
        if (!ends) {
            fault = "text follows the closing quote of a value (" + BadValueException.shown(text.toString())
                    + "); if quotes are characters like others here, give no quote";
            while (peek() != END && peek() != '\n' && peek() != '\r' && !startsWith(dialect.delimiter())) {
                text.append(take());
                mustEnd(text, at);
            }
        }
    }

    private void mustEnd(StringBuilder text, long at) {
        if (text.length() > LONGEST) {
            throw new MalformedFileException(
                    origin(at), "a value of more than " + LONGEST / 1024 / 1024 + " million characters begins here");
        }
    }

    /** Takes an escape character, if one stands here and something behind it. */
    private boolean escaped() {
        if (dialect.escape() == 0 || peek() != dialect.escape()) {
            return false;
        }
        take();
        if (peek() == END) {
            throw new MalformedFileException(origin(line), "the file ends behind a " + dialect.escape());
        }
        return true;
    }

    private static char meant(char behindEscape) {
        return switch (behindEscape) {
            case 'n' -> '\n';
            case 'r' -> '\r';
            case 't' -> '\t';
            default -> behindEscape;
        };
    }

    private String trimmed(String text) {
        return dialect.trim().trimmed(text);
    }

    private String line() {
        StringBuilder text = new StringBuilder();
        while (peek() != END && peek() != '\n' && peek() != '\r') {
            text.append(take());
            mustEnd(text, line);
        }
        if (peek() != END) {
            lineEnd();
        }
        return text.toString();
    }

    private void lineEnd() {
        LineEnd end = LineEnd.LF;
        if (take() == '\r') {
            end = LineEnd.CR;
            if (peek() == '\n') {
                take();
                end = LineEnd.CRLF;
            }
        }
        lineEnds.saw(end, line);
        line++;
    }

    /** What was passed over as no records; empty for nothing. */
    Optional<String> passedOver() {
        return comments == 0
                ? Optional.empty()
                : Optional.of(comments + (comments == 1 ? " line that begins" : " lines that begin") + " with "
                        + dialect.comment() + " (line " + firstComment + (comments == 1 ? "" : " the first")
                        + ") held no record");
    }

    LineEnds lineEnds() {
        return lineEnds;
    }

    private boolean startsWith(String text) {
        if (peek() != text.charAt(0)) {
            return false;
        }
        if (text.length() == 1) {
            return true;
        }
        try {
            in.mark(text.length());
            boolean same = true;
            for (int i = 1; i < text.length() && same; i++) {
                same = in.read() == text.charAt(i);
            }
            in.reset();
            return same;
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private int peek() {
        if (ahead == END - 1) {
            try {
                ahead = in.read();
            } catch (IOException e) {
                throw failed(e);
            }
        }
        return ahead;
    }

    private char take() {
        char taken = (char) peek();
        ahead = END - 1;
        return taken;
    }

    private void take(int count) {
        for (int i = 0; i < count; i++) {
            peek();
            take();
        }
    }

    private RuntimeException failed(IOException e) {
        return new PlaceException(source, "can't be read: " + e.getMessage(), e);
    }

    @Override
    public void close() {
        try {
            in.close();
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
