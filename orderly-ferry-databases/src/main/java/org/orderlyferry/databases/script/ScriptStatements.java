package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.model.LeftBehind;

/**
 * Statements of a script that neither make tables nor plainly bring records. What they do to records, or to tables, only
 * a server could follow; so each that isn't known to be harmless is told, with its line.
 */
final class ScriptStatements {

    /** Statements that change neither records nor tables. */
    private static final Set<String> HARMLESS = Set.of(
            "SET",
            "BEGIN",
            "START",
            "COMMIT",
            "END",
            "ROLLBACK",
            "SAVEPOINT",
            "RELEASE",
            "PRAGMA",
            "USE",
            "LOCK",
            "UNLOCK",
            "ANALYZE",
            "VACUUM",
            "CREATE",
            "COMMENT",
            "CHECKPOINT",
            "RESET",
            "SHOW",
            "DISCARD",
            "FLUSH",
            "DELIMITER",
            "CONNECT",
            "INSERT",
            "SECURITY",
            "PRINT",
            "DECLARE",
            "DBCC",
            "GO");
    /** Lines for a system's shell that bring nothing in. */
    private static final Pattern SHELL = Pattern.compile(
            "\\\\(\\.|restrict|unrestrict|connect|c\\b|set|unset|encoding|pset|echo|qecho|timing|if|else|endif|q\\b|x\\b|a\\b|t\\b"
                    + "|-).*|\\.(mode|headers?|separator|echo|bail|changes|timer|nullvalue|width|open|quit|exit|schema|tables).*"
                    + "|(?i:REM|REMARK|PROMPT|SET|SPOOL|WHENEVER|DEFINE|UNDEFINE|COLUMN|TTITLE|BTITLE|PAUSE|SHOW|CLEAR|TIMING|EXIT"
                    + "|QUIT|CONNECT|DISCONNECT|ACCEPT|VARIABLE|PRINT)\\b.*"
                    + "|:(setvar|on|out|error|list|connect|xml|quit|exit|reset|help)\\b.*|/\\s*");

    private static final Pattern FIRST = Pattern.compile("[\\s(]*(\\w+)");
    /** What SQLite's own shell writes to set its counters. */
    private static final Pattern OF_SYSTEM = Pattern.compile("(?is)\\s*\\w+\\s+(?:FROM|INTO)?\\s*[\"`]?sqlite_.*");

    /** Settings of PostgreSQL and of its counters. */
    private static final Pattern SETTING = Pattern.compile(
            "(?is)\\s*SELECT\\s+(pg_catalog\\.)?(set_config|setval|lo_open|lo_close|pg_[a-z_]+)\\s*\\(.*");

    /** What makes PostgreSQL's large objects, and fills them. */
    private static final Pattern LARGE_OBJECT =
            Pattern.compile("(?is)\\s*SELECT\\s+(pg_catalog\\.)?(lo_[a-z_]+|lowrite)\\s*\\(.*");
    /** What becomes of records that are there already. */
    private static final Pattern UPSERT = Pattern.compile(
            "(?is)\\s*(REPLACE\\s+INTO|INSERT\\s+OR\\s+\\w+|INSERT\\s+(?:LOW_PRIORITY\\s+|DELAYED\\s+|HIGH_PRIORITY\\s+)*+IGNORE)\\b.*");

    /** What the scripts that are written here ask the server before they go on. */
    private static final Pattern ASKED = Pattern.compile(
            "(?is)\\s*(IF\\s+(@@TRANCOUNT\\b|LEN\\(|SCHEMA_ID\\s*\\(|EXISTS\\s*\\([^;']*\\)\\s*DBCC\\b)|SELECT 1 / CASE WHEN UNISTR).*");

    private static final int HEAD = 400;

    private final Map<String, Seen> seen = new LinkedHashMap<>();
    private final Map<String, Seen> unmade = new LinkedHashMap<>();

    private record Seen(String why, long count, long line) {
        private Seen more() {
            return new Seen(why, count + 1, line);
        }

        private String told() {
            return count == 1 ? "in line " + line : count + " of them, the first in line " + line;
        }
    }

    /** Takes a statement that was not understood as one that brings records. */
    void take(String sql, long line) {
        String head = sql.substring(0, Math.min(HEAD, sql.length()));
        Matcher first = FIRST.matcher(head);
        String verb = first.lookingAt() ? first.group(1).toUpperCase(Locale.ROOT) : "(unknown)";
        if (LARGE_OBJECT.matcher(head).matches() && !SETTING.matcher(head).matches()) {
            tell("large object", "it is no table's", line);
            return;
        }
        boolean harmless = HARMLESS.contains(verb) && !verb.equals("INSERT")
                || OF_SYSTEM.matcher(head).matches()
                || SETTING.matcher(head).matches()
                || ASKED.matcher(head).matches();
        // what ALTER, DROP and EXEC do is looked at word by word
        boolean looked = verb.equals("ALTER") || verb.equals("DROP") || verb.startsWith("EXEC");
        if (!harmless && !looked) {
            tell(verb, "what it does to records isn't done here, where no server runs it", line);
        }
    }

    /** Tells of a statement, or a part of one, that isn't followed. */
    void tell(String what, String why, long line) {
        seen.merge(what, new Seen(why, 1, line), (old, one) -> old.more());
    }

    /** Takes a line for the system's own shell. */
    void shell(ScriptInput.ShellLine line) {
        if (!SHELL.matcher(line.text()).matches()) {
            String verb = line.text().split("\\s", 2)[0];
            tell(verb, "what it brings in isn't read: " + line.text().strip(), line.line());
        }
    }

    /** Takes the head of a statement that brings records of a table. */
    void records(String table, String head, long line) {
        if (!table.toLowerCase(Locale.ROOT).startsWith("sqlite_")) {
            unmade.merge(table, new Seen("", 1, line), (old, one) -> old.more());
        }
        Matcher upsert = UPSERT.matcher(head.substring(0, Math.min(HEAD, head.length())));
        if (upsert.matches()) {
            tell(upsert.group(1).toUpperCase(Locale.ROOT).replaceAll("\\s+", " "), EACH, line);
        }
    }

    static final String EACH =
            "its records are taken each as it stands: what a server would replace or pass over comes twice";

    /**
     * What there was.
     *
     * @param tables names of the tables that the script makes
     */
    List<LeftBehind> leftBehind(Set<String> tables) {
        List<LeftBehind> all = new ArrayList<>();
        seen.forEach((verb, s) -> all.add(new LeftBehind("statement", verb, s.told() + "; " + s.why())));
        unmade.forEach((table, s) -> {
            if (!tables.contains(table)) {
                all.add(new LeftBehind(
                        "records", table, "the script doesn't make the table that they are for (" + s.told() + ")"));
            }
        });
        return all;
    }
}
