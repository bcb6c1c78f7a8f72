package org.orderlyferry.databases.script;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * A script, statement by statement. Its bytes are taken for characters one by one (as ISO 8859-1 does), since a script
 * may hold bytes that are no text; who wants a text decodes it.
 */
final class ScriptInput implements AutoCloseable {

    private static final int SHOWN_TAIL = 60;
    private static final int MOST_SHELL_LINES = 1_000;
    private static final int END = ScriptBytes.END;
    private static final String DELIMITER = "DELIMITER ";
    private static final String VALUES = "VALUES";
    private static final String INSERT = "INSERT";
    private static final String REPLACE = "REPLACE";

    private final ScriptBytes bytes;
    private final String shown;
    private final boolean backslashes;
    private final StatementEnds ends;
    private final ScriptPieces pieces;
    private String delimiter = ";";
    private long statementLine;
    private long statementStart;
    private final StringBuilder tail = new StringBuilder();
    private final List<ShellLine> shellLines = new ArrayList<>();
    /** The line on which the statement began whose lists of values are read. */
    private long insertLine;

    private boolean inValues;
    /** Whether another list of values must follow: the first, or what stands behind a comma. */
    private boolean listDue;
    /** Whether a line has begun since the last statement. */
    private boolean lineBegins = true;

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
        this.pieces = new ScriptPieces(bytes, shown, backslashes, ends);
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
        pieces.goToLineStart();
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
            int c = pieces.peek();
            if (c == END) {
                boolean whole = depth == 0 && !bringsValues(text);
                if (ends.needsNoSemicolon() && whole && !text.toString().isBlank()) {
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
                pieces.begin(statementLine);
                statementStart = bytes.position();
            }
            if (!ends.isPlain() && pieces.isAtLineStart() && depth == 0) {
                boolean separated = ends.separates();
                if (separated) {
                    pieces.restOfLine();
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
            if (c == '(' && bringsValues(text)) {
                inValues = true;
                listDue = true;
                insertLine = statementLine;
                return text.toString();
            }
            pieces.next(c, text);
            if (isDelimiterLine(text)) {
                text.setLength(0);
            }
        }
    }

    /** Whether it is what stands before lists of values: it is asked at each parenthesis. */
    private static boolean bringsValues(CharSequence statement) {
        int end = statement.length();
        while (end > 0 && Character.isWhitespace(statement.charAt(end - 1))) {
            end--;
        }
        int start = 0;
        while (start < end && Character.isWhitespace(statement.charAt(start))) {
            start++;
        }
        int word = end - VALUES.length();
        return word > start
                && isWord(statement, word, VALUES)
                && !Character.isJavaIdentifierPart(statement.charAt(word - 1))
                && (isWord(statement, start, INSERT)
                                && Character.isWhitespace(statement.charAt(start + INSERT.length()))
                        || isWord(statement, start, REPLACE)
                                && Character.isWhitespace(statement.charAt(start + REPLACE.length())));
    }

    private static boolean isWord(CharSequence text, int at, String word) {
        for (int i = 0; i < word.length(); i++) {
            if (at + i >= text.length() || Character.toUpperCase(text.charAt(at + i)) != word.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    /**
     * The next list of values of the statement, in its parentheses; {@link #line} is then the line on which it begins.
     *
     * @return null behind the last
     */
    String tuple() {
        StringBuilder text = new StringBuilder();
        while (pieces.peek() != '(') {
            int c = pieces.peek();
            if (endsValues(c)) {
                inValues = false;
                return null;
            }
            if (c == END) {
                throw cutShort(insertLine);
            }
            if (Character.isWhitespace(c) || c == ',') {
                listDue |= c == ',';
                pieces.take();
                continue;
            }
            pieces.next(c, text);
            if (!text.toString().isBlank()) {
                // what the system is to do with the records, or with those that are there already
                endStatement();
                return null;
            }
        }
        statementLine = bytes.line();
        pieces.begin(statementLine);
        text.setLength(0);
        int depth = 0;
        do {
            int c = pieces.peek();
            if (c == END) {
                throw cutShort(insertLine);
            }
            depth += c == '(' ? 1 : c == ')' ? -1 : 0;
            pieces.next(c, text);
        } while (depth > 0);
        listDue = false;
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
        for (int c = pieces.peek(); depth > 0 || !endsValues(c); c = pieces.peek()) {
            if (c == END) {
                throw cutShort(insertLine);
            }
            depth += c == '(' ? 1 : c == ')' ? -1 : 0;
            listDue = depth == 0 && (c == ',' || listDue && Character.isWhitespace(c));
            int before = scrap.length();
            pieces.next(c, scrap);
            if (depth == 0 && c != ')' && c != ',' && tail.length() < SHOWN_TAIL) {
                tail.append(scrap, Math.min(before, scrap.length()), scrap.length());
            }
            // what stands before a quote says what may stand in it
            scrap.delete(0, Math.max(0, scrap.length() - 2));
        }
    }

    /** Whether a list of lists of values ends here; where no semicolon has to stand there, anything but another list ends it. */
    private boolean endsValues(int c) {
        boolean other = ends.needsNoSemicolon() && (c == END && !listDue || Character.isLetter(c))
                || !ends.isPlain() && pieces.isAtLineStart() && ends.separates();
        return other || endsHere(c);
    }

    private MalformedFileException cutShort(long at) {
        return new MalformedFileException(
                origin("", at), "the file ends in the middle of the statement that begins here");
    }

    /** What stands between statements: blanks, and lines for the system's own shell. */
    private boolean isSkipped(int c) {
        lineBegins |= c == '\n';
        if (Character.isWhitespace(c) || c == 0xEF || c == 0xBB || c == 0xBF) {
            pieces.take();
            return true;
        }
        boolean first = bytes.position() == 0 || lineBegins;
        boolean plain = ends.isPlain() && (c == '\\' || c == '.' && first && !backslashes);
        if (plain || !ends.isPlain() && pieces.isAtLineStart() && ends.isShellLine()) {
            long at = bytes.line();
            String text = pieces.restOfLine();
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
            pieces.take();
            return true;
        }
        for (int i = 1; i < delimiter.length(); i++) {
            if (bytes.look(i) != delimiter.charAt(i)) {
                return false;
            }
        }
        for (int i = 0; i < delimiter.length(); i++) {
            pieces.take();
        }
        return true;
    }

    /** A line for the system's own shell, which says what ends statements from now on. */
    private boolean isDelimiterLine(StringBuilder text) {
        if (text.length() != DELIMITER.length() || !DELIMITER.contentEquals(text)) {
            return false;
        }
        String other = pieces.restOfLine().strip();
        delimiter = other.isEmpty() ? ";" : other;
        return true;
    }

    /** The rest of the line that the last statement ended on, which holds nothing. */
    void endLine() {
        pieces.restOfLine();
        if (pieces.peek() != END) {
            pieces.take();
        }
    }

    /** The next line of a block of data, without its end; null where the file ends. */
    String dataLine() {
        if (pieces.peek() == END) {
            return null;
        }
        statementLine = bytes.line();
        pieces.begin(statementLine);
        StringBuilder text = new StringBuilder();
        while (pieces.peek() != END && pieces.peek() != '\n') {
            text.append((char) pieces.take());
        }
        if (pieces.peek() != END) {
            pieces.take();
        }
        int length = text.length();
        if (length > 0 && text.charAt(length - 1) == '\r') {
            text.setLength(length - 1);
        }
        return text.toString();
    }

    @Override
    public void close() {
        bytes.close();
    }
}
