package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/**
 * What a script's definitions say that doesn't come along, in the words in which the system's own catalogue has it told: each would
 * else be passed over in silence, since a definition is understood without it.
 */
final class UnusualWords {

    /** What a definition is of. */
    private enum Of {
        COLUMN,
        KEY,
        REFERENCE,
        CHECK,
        TABLE
    }

    /**
     * Words that mean something no other system has.
     *
     * @param system whose they are; empty for any
     * @param of in which definitions they stand
     * @param words one behind the other
     * @param kind what is told of; empty for the definition itself
     * @param whole whether the definition can't come at all
     */
    private record Phrase(String system, Set<Of> of, List<String> words, String kind, String reason, boolean whole) {

        static Phrase of(String system, Of of, String words, String kind, String reason) {
            return new Phrase(system, Set.of(of), List.of(words.split(" ")), kind, reason, false);
        }

        static Phrase whole(String system, String words, String reason) {
            return new Phrase(system, Set.of(Of.REFERENCE, Of.CHECK), List.of(words.split(" ")), "", reason, true);
        }
    }

    private static final String POSTGRES = "PostgreSQL";
    private static final String MARIA = "MariaDB";
    private static final String ORACLE = "Oracle";
    private static final String SQLITE = "SQLite";

    private static final List<Phrase> PHRASES = List.of(
            Phrase.of(POSTGRES, Of.KEY, "NULLS NOT", "", NotCarried.NULLS),
            Phrase.of(POSTGRES, Of.KEY, "INCLUDE", "", NotCarried.INCLUDED),
            Phrase.of(POSTGRES, Of.KEY, "DEFERRABLE", "", NotCarried.TIMING),
            Phrase.of("", Of.KEY, "WITHOUT OVERLAPS", "", NotCarried.OVERLAPS),
            Phrase.of(
                    SQLITE,
                    Of.KEY,
                    "COLLATE",
                    "",
                    "it comes as one that compares its columns as they are compared themselves"),
            Phrase.of(POSTGRES, Of.REFERENCE, "MATCH FULL", "", NotCarried.MATCH_FULL),
            Phrase.of(POSTGRES, Of.REFERENCE, "SET NULL (", "", NotCarried.SETS_ALL),
            Phrase.of(POSTGRES, Of.REFERENCE, "SET DEFAULT (", "", NotCarried.SETS_ALL),
            Phrase.whole(POSTGRES, "NOT VALID", NotCarried.UNCHECKED),
            Phrase.whole(POSTGRES, "NOT ENFORCED", NotCarried.UNENFORCED),
            Phrase.whole(ORACLE, "DISABLE", NotCarried.UNENFORCED),
            Phrase.whole(ORACLE, "NOVALIDATE", NotCarried.UNCHECKED),
            Phrase.of(SQLITE, Of.KEY, "ON CONFLICT", "on conflict", NotCarried.ON_CONFLICT),
            Phrase.of(SQLITE, Of.CHECK, "ON CONFLICT", "on conflict", NotCarried.ON_CONFLICT),
            Phrase.of(SQLITE, Of.COLUMN, "ON CONFLICT", "on conflict", NotCarried.ON_CONFLICT),
            Phrase.of(SQLITE, Of.TABLE, "STRICT", "strictness", NotCarried.STRICT),
            Phrase.of(MARIA, Of.COLUMN, "ON UPDATE CURRENT_TIMESTAMP", "on update", NotCarried.ON_UPDATE),
            Phrase.of(MARIA, Of.COLUMN, "ON UPDATE NOW", "on update", NotCarried.ON_UPDATE),
            Phrase.of(MARIA, Of.COLUMN, "INVISIBLE", "invisibility", NotCarried.INVISIBLE),
            Phrase.of(MARIA, Of.TABLE, "SYSTEM VERSIONING", "versioning", NotCarried.HISTORY),
            Phrase.of("", Of.TABLE, "PARTITION BY", "partitioning", NotCarried.PARTITIONS));

    /** What stands within a key's parentheses, where others would be names; all else stands outside of any. */
    private static final Set<String> INSIDE = Set.of("COLLATE", "WITHOUT");

    private final String system;
    private final List<LeftBehind> leftBehind;

    UnusualWords(String system, List<LeftBehind> leftBehind) {
        this.system = system;
        this.leftBehind = leftBehind;
    }

    /** Tells of a column. */
    void column(TableName table, String name, Tokens tokens, int end) {
        Set<Of> of = EnumSet.of(Of.COLUMN);
        of.addAll(kinds(tokens, end));
        // an action's list stands only where several columns refer together
        of.remove(Of.REFERENCE);
        tell(table, name, of, tokens, end);
    }

    /**
     * Tells of a rule.
     *
     * @return whether it can come, without what is told
     */
    boolean rule(TableName table, Tokens tokens, int end) {
        Set<Of> of = kinds(tokens, end);
        String name = tokens.peek().is("CONSTRAINT")
                ? tokens.peek(1).text()
                : tokens.text(tokens.start(), tokens.end(end)).strip();
        return tell(table, name, of, tokens, end);
    }

    /** Tells of what stands behind a table's columns. */
    void table(TableName table, Tokens tokens) {
        tell(table, "", EnumSet.of(Of.TABLE), tokens, tokens.count());
    }

    /** Tells of a rule that was made and is switched off. */
    void switchedOff(TableName table, String rule) {
        leftBehind.add(LeftBehind.of(table, "rule", rule, NotCarried.UNENFORCED));
    }

    private static Set<Of> kinds(Tokens tokens, int end) {
        Set<Of> kinds = EnumSet.noneOf(Of.class);
        int depth = 0;
        for (int i = 0; tokens.at() + i < end; i++) {
            SqlToken token = tokens.peek(i);
            depth += token.isSymbol("(") ? 1 : token.isSymbol(")") ? -1 : 0;
            if (depth > 0) {
                continue;
            }
            if (token.is("REFERENCES")) {
                return EnumSet.of(Of.REFERENCE);
            }
            if (token.is("UNIQUE") || token.is("PRIMARY")) {
                kinds.add(Of.KEY);
            } else if (token.is("CHECK")) {
                kinds.add(Of.CHECK);
            }
        }
        return kinds;
    }

    private boolean tell(TableName table, String part, Set<Of> of, Tokens tokens, int end) {
        boolean comes = true;
        List<Phrase> told = new ArrayList<>();
        int depth = 0;
        for (int i = 0; tokens.at() + i < end; i++) {
            SqlToken token = tokens.peek(i);
            depth += token.isSymbol("(") ? 1 : token.isSymbol(")") ? -1 : 0;
            Optional<Phrase> found = phrase(of, tokens, i, depth > 0);
            if (found.isPresent() && !told.contains(found.get())) {
                Phrase phrase = found.get();
                told.add(phrase);
                comes &= !phrase.whole();
                String kind = phrase.kind().isEmpty() ? kind(of) : phrase.kind();
                leftBehind.add(
                        part.isEmpty()
                                ? LeftBehind.of(table, kind, phrase.reason())
                                : LeftBehind.of(table, kind, part, phrase.reason()));
            }
        }
        return comes;
    }

    private static String kind(Set<Of> of) {
        return of.contains(Of.REFERENCE) ? "reference" : of.contains(Of.KEY) ? "key" : "check";
    }

    private Optional<Phrase> phrase(Set<Of> of, Tokens tokens, int at, boolean inside) {
        return PHRASES.stream()
                .filter(p -> inside == INSIDE.contains(p.words().get(0)))
                .filter(p -> p.system().isEmpty() || p.system().equals(system))
                .filter(p -> p.of().stream().anyMatch(of::contains))
                .filter(p -> stands(p.words(), tokens, at))
                .findFirst();
    }

    private static boolean stands(List<String> words, Tokens tokens, int at) {
        for (int i = 0; i < words.size(); i++) {
            SqlToken token = tokens.peek(at + i);
            if (!token.is(words.get(i)) && !token.isSymbol(words.get(i))) {
                return false;
            }
        }
        return true;
    }
}
