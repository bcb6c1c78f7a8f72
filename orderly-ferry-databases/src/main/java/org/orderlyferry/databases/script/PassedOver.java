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

/** Statements of a script that bring or change records in ways that only a server could follow. */
final class PassedOver {

    private static final Set<String> CHANGING =
            Set.of("INSERT", "REPLACE", "UPDATE", "DELETE", "MERGE", "UPSERT", "TRUNCATE", "LOAD", "CALL", "EXECUTE");
    private static final Pattern FIRST = Pattern.compile("\\s*(\\w+)");
    /** What SQLite's own shell writes to set its counters. */
    private static final Pattern OF_SYSTEM = Pattern.compile("(?is)\\s*\\w+\\s+(?:FROM|INTO)?\\s*[\"`]?sqlite_.*");

    private static final int HEAD = 200;

    private final Map<String, Seen> seen = new LinkedHashMap<>();
    private final Map<String, Seen> unmade = new LinkedHashMap<>();

    private record Seen(long count, long line) {
        private Seen more() {
            return new Seen(count + 1, line);
        }

        private String told() {
            return count == 1 ? "in line " + line : count + " of them, the first in line " + line;
        }
    }

    /** Takes a statement that was not understood as one that brings records. */
    void take(String sql, long line) {
        String head = sql.substring(0, Math.min(HEAD, sql.length()));
        Matcher first = FIRST.matcher(head);
        String verb = first.lookingAt() ? first.group(1).toUpperCase(Locale.ROOT) : "";
        if (CHANGING.contains(verb) && !OF_SYSTEM.matcher(head).matches()) {
            seen.merge(verb, new Seen(1, line), (old, one) -> old.more());
        }
    }

    /** Takes a statement that brings records of a table. */
    void records(String table, long line) {
        if (!table.toLowerCase(Locale.ROOT).startsWith("sqlite_")) {
            unmade.merge(table, new Seen(1, line), (old, one) -> old.more());
        }
    }

    /**
     * What there was.
     *
     * @param tables names of the tables that the script makes
     */
    List<LeftBehind> leftBehind(Set<String> tables) {
        List<LeftBehind> all = new ArrayList<>();
        seen.forEach((verb, s) -> all.add(new LeftBehind(
                "statement", verb, s.told() + "; what it does to records isn't done here, where no server runs it")));
        unmade.forEach((table, s) -> {
            if (!tables.contains(table)) {
                all.add(new LeftBehind(
                        "records", table, "the script doesn't make the table that they are for (" + s.told() + ")"));
            }
        });
        return all;
    }
}
