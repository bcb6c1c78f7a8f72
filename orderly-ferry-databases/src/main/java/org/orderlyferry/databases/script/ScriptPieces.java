package org.orderlyferry.databases.script;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * A script's characters, texts in quotes and comments, one after the other, by the rules of its system: what stands in quotes ends
 * nothing, and comments are left out. Not safe for use by several threads.
 */
final class ScriptPieces {

    /** What is longer has a quote that isn't closed, or is none that anybody should keep in memory. */
    private static final int LONGEST = 512 * 1024 * 1024;

    private static final Pattern CONDITIONAL = Pattern.compile("M?!\\d*(.*)\\*", Pattern.DOTALL);
    private static final int END = ScriptBytes.END;

    private final ScriptBytes bytes;
    private final String shown;
    private final boolean backslashes;
    private final StatementEnds ends;
    /** Whether nothing but blanks was taken since a line began. */
    private boolean atLineStart = true;

    private long statementLine;

    ScriptPieces(ScriptBytes bytes, String shown, boolean backslashes, StatementEnds ends) {
        this.bytes = bytes;
        this.shown = shown;
        this.backslashes = backslashes;
        this.ends = ends;
    }

    /** The statement that is read begins on a line. */
    void begin(long line) {
        statementLine = line;
    }

    boolean isAtLineStart() {
        return atLineStart;
    }

    /** What comes is the beginning of a line, or as good as one. */
    void goToLineStart() {
        atLineStart = true;
    }

    private Origin origin() {
        return new Origin("", shown, statementLine, true);
    }

    /** Takes a character, or all of what it begins: a text in quotes, or a comment, which is left out. */
    void next(int c, StringBuilder text) {
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
                    origin(), "a statement of more than 512 MB begins here: is a quote not closed?");
        }
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
                origin(), "the file ends inside of quotes, in the statement that begins here");
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
        while (peek() != END && (Character.isLetterOrDigit(peek()) || peek() == '_' || peek() >= 0x80)) {
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
            mustEnd(text);
        }
    }

    /** Takes what is left of a line, without its end. */
    String restOfLine() {
        StringBuilder rest = new StringBuilder();
        while (peek() != END && peek() != '\n') {
            rest.append((char) take());
        }
        return rest.toString();
    }

    /** The next character, which stays. */
    int peek() {
        return bytes.peek();
    }

    int take() {
        int c = bytes.take();
        atLineStart = c == '\n' || atLineStart && (c == ' ' || c == '\t' || c == '\r');
        return c;
    }
}
