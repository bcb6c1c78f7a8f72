package org.orderlyferry.databases.script;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * A script, statement by statement. Its bytes are taken for characters one by one (as ISO 8859-1 does), since a script
 * may hold bytes that are no text; who wants a text decodes it.
 */
final class ScriptInput implements AutoCloseable {

    /** What stands before lists of values. */
    private static final Pattern VALUES = Pattern.compile("(?is)^\\s*(?:INSERT|REPLACE)\\s.*\\bVALUES\\s*$");

    /** What is longer has a quote that isn't closed, or is none that anybody should keep in memory. */
    private static final int LONGEST = 512 * 1024 * 1024;

    private static final Pattern CONDITIONAL = Pattern.compile("M?!\\d*(.*)\\*", Pattern.DOTALL);
    private static final int SHOWN_TAIL = 60;
    private static final int MOST_SHELL_LINES = 1_000;
    private static final int END = ScriptBytes.END;
    private static final String DELIMITER = "DELIMITER ";

    private final ScriptBytes bytes;
    private final String shown;
    private final boolean backslashes;
    private final StatementEnds ends;
    private String delimiter = ";";
    private long statementLine;
    private long statementStart;
    private final StringBuilder tail = new StringBuilder();
    private final List<ShellLine> shellLines = new ArrayList<>();
    /** The line on which the statement began whose lists of values are read. */
    private long insertLine;

    private boolean inValues;
    /** Whether a line has begun since the last statement. */
    private boolean lineBegins = true;
    /** Whether nothing but blanks was taken since a line began. */
    private boolean atLineStart = true;

    /**
     * Opens a script.
     *
     * @param encoding of its texts
     * @param scripting of the system whose script it is
     */
    ScriptInput(FileSource file, Charset encoding, Scripting scripting) {
        this.shown = file.shown();
        this.backslashes = scripting.hasBackslashes();
        this.bytes = new ScriptBytes(file, encoding);
        this.ends = new StatementEnds(scripting.batches(), bytes);
    }

    /** The line on which the last statement, or list of values, began. */
    long line() {
        return statementLine;
    }

    /** The first words behind the lists of values of the last statement that had such; blank for none. */
    String tail() {
        return tail.toString().strip();
    }

    /** Where the last statement began, in bytes of what is read. */
    long start() {
        return statementStart;
    }

    /** Where the next byte is. */
    long position() {
        return bytes.position();
    }

    /** What ends a statement now. */
    String delimiter() {
        return delimiter;
    }

    /** Goes on to a stretch further on. */
    void goOn(ScriptIndex.Stretch stretch) {
        inValues = false;
        delimiter = stretch.delimiter();
        atLineStart = true;
        bytes.goOn(stretch.start(), stretch.line());
    }

    /** A line for the system's own shell. */
    record ShellLine(String text, long line) {}

    /** The lines for the system's own shell that were passed so far; as many as anybody would read. */
    List<ShellLine> shellLines() {
        return shellLines;
    }

    Origin origin(String table, long at) {
        return new Origin(table, shown, at, true);
    }

    /**
     * The next statement, without comments before it and without what ends it; of one that brings records in lists of
     * values only what stands before the first, since it may be of any length: {@link #tuple} gives these.
     *
     * @return null behind the last
     */
    String next() {
        endStatement();
        StringBuilder text = new StringBuilder();
        lineBegins = bytes.position() == 0;
        int depth = 0;
        while (true) {
            int c = peek();
            if (c == END) {
                if (ends.needsNoSemicolon() && !text.toString().isBlank()) {
                    return text.toString().strip();
                }
                if (!text.toString().isBlank()) {
                    throw cutShort(statementLine);
                }
                return null;
            }
            if (text.isEmpty() && isSkipped(c)) {
                continue;
            }
            if (text.isEmpty()) {
                statementLine = bytes.line();
                statementStart = bytes.position();
            }
            if (!ends.isPlain() && atLineStart && depth == 0) {
                boolean separated = ends.separates();
                if (separated) {
                    restOfLine();
                }
                if (separated || ends.beginsAnother(text)) {
                    if (!text.toString().isBlank()) {
                        return text.toString().strip();
                    }
                    if (separated) {
                        text.setLength(0);
                        continue;
                    }
                }
            }
            if (c == delimiter.charAt(0) && !ends.isRoutine(text) && endsHere(c)) {
                if (text.toString().isBlank()) {
                    text.setLength(0);
                    continue;
                }
                return text.toString().strip();
            }
            depth += c == '(' ? 1 : c == ')' ? -1 : 0;
            if (c == '(' && VALUES.matcher(text).find()) {
                inValues = true;
                insertLine = statementLine;
                return text.toString();
            }
            token(c, text);
            if (isDelimiterLine(text)) {
                text.setLength(0);
            }
        }
    }

    /**
     * The next list of values of the statement, in its parentheses; {@link #line} is then the line on which it begins.
     *
     * @return null behind the last
     */
    String tuple() {
        StringBuilder text = new StringBuilder();
        while (peek() != '(') {
            int c = peek();
            if (endsValues(c)) {
                inValues = false;
                return null;
            }
            if (c == END) {
                throw cutShort(insertLine);
            }
            if (Character.isWhitespace(c) || c == ',') {
                take();
                continue;
            }
            token(c, text);
            if (!text.toString().isBlank()) {
                // what the system is to do with the records, or with those that are there already
                endStatement();
                return null;
            }
        }
        statementLine = bytes.line();
        text.setLength(0);
        int depth = 0;
        do {
            int c = peek();
            if (c == END) {
                throw cutShort(insertLine);
            }
            depth += c == '(' ? 1 : c == ')' ? -1 : 0;
            token(c, text);
        } while (depth > 0);
        return text.toString();
    }

    /** Goes behind the statement that has begun, if lists of values are left of it, and keeps nothing of it. */
    void endStatement() {
        if (!inValues) {
            return;
        }
        inValues = false;
        tail.setLength(0);
        int depth = 0;
        StringBuilder scrap = new StringBuilder();
        for (int c = peek(); depth > 0 || !endsValues(c); c = peek()) {
            if (c == END) {
                throw cutShort(insertLine);
            }
            depth += c == '(' ? 1 : c == ')' ? -1 : 0;
            int before = scrap.length();
            token(c, scrap);
            if (depth == 0 && c != ')' && c != ',' && tail.length() < SHOWN_TAIL) {
                tail.append(scrap, Math.min(before, scrap.length()), scrap.length());
            }
            // what stands before a quote says what may stand in it
            scrap.delete(0, Math.max(0, scrap.length() - 2));
        }
    }

    /** Whether a list of lists of values ends here; where no semicolon has to stand there, anything but another list ends it. */
    private boolean endsValues(int c) {
        boolean other = ends.needsNoSemicolon() && (c == END || Character.isLetter(c))
                || !ends.isPlain() && atLineStart && ends.separates();
        return other || endsHere(c);
    }

    private MalformedFileException cutShort(long at) {
        return new MalformedFileException(
                origin("", at), "the file ends in the middle of the statement that begins here");
    }

    /** Takes a character, or all of what it begins: a text in quotes, or a comment, which is left out. */
    private void token(int c, StringBuilder text) {
        mustEnd(text);
        switch (c) {
            case '\'' -> {
                take();
                if (isOwnQuote(text)) {
                    ownQuoted(text);
                } else {
                    quoted(text, '\'');
                }
            }
            case '"', '`' -> quoted(text, (char) take());
            case '[' -> {
                if (ends.needsNoSemicolon()) {
                    text.append((char) take());
                    bracketed(text);
                } else {
                    text.append((char) take());
                }
            }
            case '-' -> dash(text);
            case '#' -> {
                if (backslashes) {
                    restOfLine();
                } else {
                    text.append((char) take());
                }
            }
            case '/' -> slash(text);
            case '$' -> dollar(text);
            default -> text.append((char) take());
        }
    }

    private void mustEnd(StringBuilder text) {
        if (text.length() > LONGEST) {
            throw new MalformedFileException(
                    origin("", statementLine), "a statement of more than 512 MB begins here: is a quote not closed?");
        }
    }

    /** What stands between statements: blanks, and lines for the system's own shell. */
    private boolean isSkipped(int c) {
        lineBegins |= c == '\n';
        if (Character.isWhitespace(c) || c == 0xEF || c == 0xBB || c == 0xBF) {
            take();
            return true;
        }
        boolean first = bytes.position() == 0 || lineBegins;
        boolean plain = ends.isPlain() && (c == '\\' || c == '.' && first && !backslashes);
        if (plain || !ends.isPlain() && atLineStart && ends.isShellLine()) {
            long at = bytes.line();
            String text = restOfLine();
            if (shellLines.size() < MOST_SHELL_LINES) {
                shellLines.add(new ShellLine(text, at));
            }
            return true;
        }
        return false;
    }

    private boolean endsHere(int c) {
        if (c != delimiter.charAt(0)) {
            return false;
        }
        if (delimiter.length() == 1) {
            take();
            return true;
        }
        for (int i = 1; i < delimiter.length(); i++) {
            if (bytes.look(i) != delimiter.charAt(i)) {
                return false;
            }
        }
        for (int i = 0; i < delimiter.length(); i++) {
            take();
        }
        return true;
    }

    private void quoted(StringBuilder text, char quote) {
        text.append(quote);
        boolean escapes = quote == '\'' && (backslashes || isEscapeString(text)) || quote == '"' && backslashes;
        while (true) {
            int c = peek();
            if (c == END) {
                throw inQuotes();
            }
            text.append((char) take());
            if (c == '\\' && escapes && peek() != END) {
                text.append((char) take());
            } else if (c == quote) {
                if (peek() != quote) {
                    return;
                }
                text.append((char) take());
            }
            mustEnd(text);
        }
    }

    /** Whether the quote that was just taken stands behind Oracle's {@code q}, as a word of its own. */
    private boolean isOwnQuote(StringBuilder text) {
        if (ends.isPlain() || ends.needsNoSemicolon()) {
            return false;
        }
        int at = text.length() - 1;
        boolean marked = at >= 0 && (text.charAt(at) == 'q' || text.charAt(at) == 'Q');
        int before = at >= 1 && Character.toUpperCase(text.charAt(at - 1)) == 'N' ? at - 2 : at - 1;
        return marked && (before < 0 || !Character.isLetterOrDigit(text.charAt(before)) && text.charAt(before) != '_');
    }

    /** {@code q'[…]'}, which is put into quotes of ISO/IEC 9075-2. */
    private void ownQuoted(StringBuilder text) {
        text.setLength(text.length() - 1);
        int open = take();
        int close = open == '[' ? ']' : open == '{' ? '}' : open == '(' ? ')' : open == '<' ? '>' : open;
        text.append('\'');
        while (!(peek() == close && bytes.look(1) == '\'')) {
            if (peek() == END) {
                throw inQuotes();
            }
            int c = take();
            text.append(c == '\'' ? "''" : String.valueOf((char) c));
            mustEnd(text);
        }
        take();
        take();
        text.append('\'');
    }

    private MalformedFileException inQuotes() {
        return new MalformedFileException(
                origin("", statementLine), "the file ends inside of quotes, in the statement that begins here");
    }

    /** A name in brackets, in which two that close stand for one. */
    private void bracketed(StringBuilder text) {
        while (true) {
            if (peek() == END) {
                throw inQuotes();
            }
            int c = take();
            text.append((char) c);
            if (c == ']') {
                if (peek() != ']') {
                    return;
                }
                text.append((char) take());
            }
            mustEnd(text);
        }
    }

    /** Whether the quote that was just added stands behind an {@code E}. */
    private static boolean isEscapeString(StringBuilder text) {
        int at = text.length() - 2;
        return at >= 0
                && (text.charAt(at) == 'E' || text.charAt(at) == 'e')
                && (at == 0 || !Character.isLetterOrDigit(text.charAt(at - 1)));
    }

    private void dash(StringBuilder text) {
        text.append((char) take());
        if (peek() == '-') {
            text.setLength(text.length() - 1);
            restOfLine();
        }
    }

    private void slash(StringBuilder text) {
        text.append((char) take());
        if (peek() != '*') {
            return;
        }
        text.setLength(text.length() - 1);
        take();
        StringBuilder comment = new StringBuilder();
        while (peek() != END
                && !(comment.length() > 0 && comment.charAt(comment.length() - 1) == '*' && peek() == '/')) {
            comment.append((char) take());
        }
        if (peek() != END) {
            take();
        }
        // a comment only to other systems, which holds SQL for those of a version
        Matcher conditional = CONDITIONAL.matcher(comment);
        if (backslashes && conditional.matches()) {
            text.append(conditional.group(1).strip());
        }
        text.append(text.isEmpty() ? "" : " ");
    }

    /** {@code $tag$ … $tag$}, which may hold anything. */
    private void dollar(StringBuilder text) {
        StringBuilder tag = new StringBuilder();
        tag.append((char) take());
        while (peek() != END && (Character.isLetterOrDigit(peek()) || peek() == '_')) {
            tag.append((char) take());
        }
        if (backslashes || !ends.isPlain() || peek() != '$') {
            text.append(tag);
            return;
        }
        tag.append((char) take());
        text.append(tag);
        int from = text.length();
        while (text.length() - from < tag.length() || text.indexOf(tag.toString(), text.length() - tag.length()) < 0) {
            if (peek() == END) {
                throw inQuotes();
            }
            text.append((char) take());
        }
    }

    private String restOfLine() {
        StringBuilder rest = new StringBuilder();
        while (peek() != END && peek() != '\n') {
            rest.append((char) take());
        }
        return rest.toString();
    }

    /** A line for the system's own shell, which says what ends statements from now on. */
    private boolean isDelimiterLine(StringBuilder text) {
        if (text.length() != DELIMITER.length() || !DELIMITER.contentEquals(text)) {
            return false;
        }
        String other = restOfLine().strip();
        delimiter = other.isEmpty() ? ";" : other;
        return true;
    }

    /** The rest of the line that the last statement ended on, which holds nothing. */
    void endLine() {
        restOfLine();
        if (peek() != END) {
            take();
        }
    }

    /** The next line of a block of data, without its end; null where the file ends. */
    String dataLine() {
        if (peek() == END) {
            return null;
        }
        statementLine = bytes.line();
        StringBuilder text = new StringBuilder();
        while (peek() != END && peek() != '\n') {
            text.append((char) take());
        }
        if (peek() != END) {
            take();
        }
        int length = text.length();
        if (length > 0 && text.charAt(length - 1) == '\r') {
            text.setLength(length - 1);
        }
        return text.toString();
    }

    private int peek() {
        return bytes.peek();
    }

    private int take() {
        int c = bytes.take();
        atLineStart = c == '\n' || atLineStart && (c == ' ' || c == '\t' || c == '\r');
        return c;
    }

    @Override
    public void close() {
        bytes.close();
    }
}
