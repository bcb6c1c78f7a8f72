package org.orderlyferry.databases.script;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Scripting.Batches;

/**
 * Where statements end in scripts for shells that know more ends than a semicolon: a line that sends what stands before it
 * to the system, and, where that is GO, the first word of the next statement.
 */
final class StatementEnds {

    /** Words that begin a statement of SQL Server's, and stand at a line's beginning nowhere else in one that is read here. */
    private static final Set<String> BEGINNINGS = Set.of(
            "ALTER",
            "BEGIN",
            "COMMIT",
            "CREATE",
            "DBCC",
            "DECLARE",
            "DELETE",
            "DENY",
            "DROP",
            "END",
            "EXEC",
            "EXECUTE",
            "GRANT",
            "IF",
            "INSERT",
            "MERGE",
            "PRINT",
            "RAISERROR",
            "REVOKE",
            "ROLLBACK",
            "SET",
            "TRUNCATE",
            "UPDATE",
            "USE",
            "WAITFOR");

    /** Statements that hold others, with whatever ends these. */
    private static final Pattern ROUTINE =
            Pattern.compile("(?is)\\s*(CREATE|ALTER)\\s+(OR\\s+(REPLACE|ALTER)\\s+)?((NON)?EDITIONABLE\\s+)?"
                    + "(PROC|PROCEDURE|FUNCTION|TRIGGER|VIEW|PACKAGE|TYPE\\s+BODY|LIBRARY)\\b.*");

    private static final Pattern BLOCK = Pattern.compile("(?is)\\s*(BEGIN|DECLARE)\\b.*");
    /** A view of Oracle's ends as a query does. */
    private static final Pattern VIEW = Pattern.compile(
            "(?is)\\s*CREATE\\s+(OR\\s+REPLACE\\s+)?((NO\\s+)?FORCE\\s+)?((NON)?EDITIONABLE\\s+)?VIEW\\b.*");

    /** What Oracle's ALTER says of a routine is one statement. */
    private static final Pattern ALTERED = Pattern.compile("(?is)\\s*ALTER\\b.*");

    private static final Pattern SHELL = Pattern.compile(
            "REM|REMARK|PROMPT|SPOOL|WHENEVER|DEFINE|UNDEFINE|COLUMN|TTITLE|BTITLE|PAUSE|SHOW|CLEAR|TIMING|EXIT|QUIT|CONNECT"
                    + "|DISCONNECT|ACCEPT|VARIABLE|PRINT|HOST|START|EXEC|EXECUTE");
    /** Settings of the session, and not of the shell. */
    private static final Set<String> SESSION = Set.of("TRANSACTION", "CONSTRAINT", "CONSTRAINTS", "ROLE");

    private static final int LONGEST_WORD = 12;
    private static final int HEAD = 200;

    private final Batches batches;
    private final ScriptBytes bytes;

    StatementEnds(Batches batches, ScriptBytes bytes) {
        this.batches = batches;
        this.bytes = bytes;
    }

    boolean isPlain() {
        return batches == Batches.NONE;
    }

    /** Whether a semicolon may be missing. */
    boolean needsNoSemicolon() {
        return batches == Batches.GO;
    }

    /** Whether the line that begins here parts two batches. */
    boolean separates() {
        if (batches == Batches.SLASH) {
            return bytes.peek() == '/' && isBlankFrom(1, false);
        }
        return batches == Batches.GO && word(0).equals("GO") && isBlankFrom(2, true);
    }

    /** Whether the rest of the line holds nothing, or no more than a number. */
    private boolean isBlankFrom(int further, boolean count) {
        for (int i = further; i < HEAD; i++) {
            int c = bytes.look(i);
            if (c == ScriptBytes.END || c == '\n') {
                return true;
            }
            boolean comment = c == '-' && bytes.look(i + 1) == '-';
            if (comment) {
                return true;
            }
            if (!Character.isWhitespace(c) && !(count && (Character.isDigit(c) || c == ';'))) {
                return false;
            }
        }
        return false;
    }

    /** The word further on, in upper case; empty where none stands there. */
    private String word(int further) {
        StringBuilder word = new StringBuilder();
        for (int i = further; word.length() <= LONGEST_WORD; i++) {
            int c = bytes.look(i);
            if (c == ScriptBytes.END || !Character.isLetterOrDigit(c) && c != '_' && c != '@' && c != '#') {
                break;
            }
            word.append((char) c);
        }
        return word.toString().toUpperCase(Locale.ROOT);
    }

    /** Whether a statement begins at the line that begins here, while another one is still read. */
    boolean beginsAnother(CharSequence statement) {
        return batches == Batches.GO && !isRoutine(statement) && BEGINNINGS.contains(word(0));
    }

    /** Whether a statement holds others, so that no semicolon ends it. */
    boolean isRoutine(CharSequence statement) {
        if (batches == Batches.NONE) {
            return false;
        }
        CharSequence head = statement.subSequence(0, Math.min(HEAD, statement.length()));
        return batches == Batches.SLASH
                ? BLOCK.matcher(head).matches()
                        || ROUTINE.matcher(head).matches()
                                && !VIEW.matcher(head).matches()
                                && !ALTERED.matcher(head).matches()
                : ROUTINE.matcher(head).matches();
    }

    /** Whether a line for the shell begins here, between statements. */
    boolean isShellLine() {
        int c = bytes.peek();
        if (batches == Batches.GO) {
            return c == ':' || c == '!' && bytes.look(1) == '!';
        }
        if (batches != Batches.SLASH) {
            return false;
        }
        if (c == '@' || c == '!' || separates()) {
            return true;
        }
        String word = word(0);
        if (word.equals("SET")) {
            int at = word.length();
            while (bytes.look(at) == ' ') {
                at++;
            }
            return !SESSION.contains(word(at));
        }
        return SHELL.matcher(word).matches();
    }
}
