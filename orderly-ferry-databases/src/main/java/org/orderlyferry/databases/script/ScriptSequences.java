package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * The sequences that a script makes and sets: those from which a column takes its values are the column's counter, with their steps
 * and what they give next; others belong to no column. Not safe for use by several threads.
 */
final class ScriptSequences {

    private static final Pattern SET = Pattern.compile(
            "(?is)\\s*SELECT\\s+(?:pg_catalog\\.)?setval\\s*\\(\\s*'((?:[^']|'')*+)'(?:\\s*::\\s*regclass)?\\s*,\\s*(-?\\d{1,18})"
                    + "\\s*(?:,\\s*'?(t|f|true|false)'?\\s*)?\\).*");
    private static final Pattern IN_QUOTES = Pattern.compile("(?is).*?\\(\\s*'((?:[^']|'')*+)'.*");

    private final UnaryOperator<String> folded;
    private final Map<String, Identity> made = new LinkedHashMap<>();
    private final Map<String, Use> uses = new LinkedHashMap<>();
    private final Map<String, Given> given = new LinkedHashMap<>();
    private final Set<String> owned = new HashSet<>();

    private record Use(TableName table, String column) {}

    /** What it has given last, or gives next. */
    private record Given(long value, boolean last) {

        long next(long increment) {
            long after = value + increment;
            boolean beyond = increment > 0 ? after < value : after > value;
            return last && !beyond ? after : value;
        }
    }

    /**
     * Of a script.
     *
     * @param folded a name that stands without quotes, as the system takes it
     */
    ScriptSequences(UnaryOperator<String> folded) {
        this.folded = folded;
    }

    /** Takes a CREATE SEQUENCE, behind these words. */
    void create(Tokens tokens) {
        tokens.skip("IF");
        tokens.skip("NOT");
        tokens.skip("EXISTS");
        if (tokens.isName()) {
            made.put(last(tokens.path()), CounterText.readAll(tokens));
        }
    }

    /** Takes an ALTER SEQUENCE, behind these words: whose it is, or what it gives next. */
    void alter(Tokens tokens) {
        tokens.skip("IF");
        tokens.skip("EXISTS");
        if (!tokens.isName()) {
            return;
        }
        String name = last(tokens.path());
        while (tokens.hasMore()) {
            if (tokens.skip("OWNED")) {
                owned.add(name);
                return;
            }
            if (tokens.skip("RESTART")) {
                tokens.skip("WITH");
                if (tokens.hasMore()) {
                    given.put(name, new Given(CounterText.number(tokens), false));
                }
                return;
            }
            tokens.next();
        }
    }

    /** Takes a statement that sets one. */
    void set(String sql) {
        Matcher matcher = SET.matcher(sql);
        if (matcher.matches()) {
            boolean last = matcher.group(3) == null
                    || matcher.group(3).toLowerCase(Locale.ROOT).startsWith("t");
            given.put(name(matcher.group(1)), new Given(Long.parseLong(matcher.group(2)), last));
        }
    }

    /** Whether an expression is the next value of a sequence. */
    static boolean isNext(String sql) {
        String lower = sql.toLowerCase(Locale.ROOT).replace("\"", "");
        return lower.startsWith("nextval(")
                || lower.startsWith("(next value for")
                || lower.startsWith("next value for")
                || lower.endsWith(".nextval");
    }

    /** A column takes its values from the sequence that an expression names. */
    void use(String expression, TableName table, String column) {
        Matcher quoted = IN_QUOTES.matcher(expression);
        String written = quoted.matches()
                ? quoted.group(1)
                : expression
                        .strip()
                        .replaceFirst("(?i)^\\(*\\s*(?:NEXT\\s+VALUE\\s+FOR|nextval\\s*\\()", "")
                        .replaceFirst("(?i)\\.nextval$", "");
        uses.put(name(written), new Use(table, column));
    }

    /** A column's counter is by itself a sequence of a name. */
    void named(List<String> path, TableName table, String column) {
        uses.put(last(path), new Use(table, column));
    }

    private String name(String written) {
        Tokens tokens = new Tokens(written.replace("''", "'").strip(), folded);
        return tokens.isName() ? last(tokens.path()) : written;
    }

    private static String last(List<String> path) {
        return path.get(path.size() - 1);
    }

    /** Gives the columns their counters, now that all is read. */
    void settle(MadeTables tables) {
        uses.forEach((sequence, use) -> {
            TableDefinition.Builder table = tables.get(use.table());
            if (table != null) {
                table.columns(table.build().columns().stream()
                        .map(c -> tables.areOne(c.name(), use.column())
                                        && c.identity().isPresent()
                                ? c.toBuilder()
                                        .identity(c.identity().map(i -> counter(sequence, i)))
                                        .build()
                                : c)
                        .toList());
            }
        });
    }

    private Identity counter(String sequence, Identity column) {
        Identity own = made.getOrDefault(sequence, column);
        Given set = given.get(sequence);
        return new Identity(
                column.always(), own.start(), own.increment(), set == null ? own.next() : set.next(own.increment()));
    }

    /** Those that no column takes its values from. */
    List<LeftBehind> leftBehind() {
        List<LeftBehind> all = new ArrayList<>();
        made.keySet().stream()
                .filter(s -> !uses.containsKey(s) && !owned.contains(s))
                .forEach(s -> all.add(new LeftBehind("sequence", s, NotCarried.NO_COLUMN)));
        return all;
    }
}
