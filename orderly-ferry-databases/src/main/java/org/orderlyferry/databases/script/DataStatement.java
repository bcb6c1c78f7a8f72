package org.orderlyferry.databases.script;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;

/**
 * The head of a statement that brings records.
 *
 * @param table the table's name, without its schema
 * @param columns those that it names; empty for all
 * @param inLines whether the records stand in the lines behind the statement, and not in lists of values
 * @param options what is said of how they are written there
 */
record DataStatement(String table, List<String> columns, boolean inLines, String options) {

    private static final String NAME =
            "(?:\"(?:[^\"]++|\"\")++\"|`(?:[^`]++|``)++`|\\[(?:[^\\]]++|\\]\\])++\\]|[\\w$\\u0080-\\u00FF]+)";
    /** Columns in parentheses; a name in quotes may hold such. */
    private static final String COLUMNS =
            "\\((?:\"[^\"]*+\"|`[^`]*+`|\\[[^\\]]*+(?:\\]\\][^\\]]*+)*+\\]|[^()\"`\\[]++)*+\\)\\s*";

    private static final Pattern INSERT = Pattern.compile(
            "\\s*(?:INSERT(?:\\s+OR\\s+\\w+)?(?:\\s+IGNORE)?(?:\\s+INTO)?|REPLACE(?:\\s+INTO)?)\\s+((?:" + NAME
                    + "\\s*\\.\\s*)?" + NAME
                    + ")\\s*(" + COLUMNS + ")?(?:OVERRIDING\\s+\\w+\\s+VALUE\\s+)?VALUES\\s*",
            Pattern.CASE_INSENSITIVE);
    private static final Pattern COPY = Pattern.compile(
            "\\s*COPY\\s+((?:" + NAME + "\\s*\\.\\s*)?" + NAME + ")\\s*(" + COLUMNS + ")?FROM\\s+STDIN(.*)",
            Pattern.CASE_INSENSITIVE | Pattern.DOTALL);
    private static final Pattern ONE = Pattern.compile(NAME);
    private static final int LONGEST_HEAD = 64 * 1024;

    /**
     * What a statement is, if it brings records.
     *
     * @param folded a name that stands without quotes, as the system takes it
     */
    static Optional<DataStatement> of(String sql, UnaryOperator<String> folded) {
        String start = sql.substring(0, Math.min(sql.length(), 12)).toUpperCase(Locale.ROOT);
        if (start.startsWith("INSERT") || start.startsWith("REPLACE")) {
            Matcher matcher = INSERT.matcher(sql).region(0, Math.min(sql.length(), LONGEST_HEAD));
            return matcher.lookingAt()
                    ? Optional.of(new DataStatement(
                            last(matcher.group(1), folded), names(matcher.group(2), folded), false, ""))
                    : Optional.empty();
        }
        if (start.startsWith("COPY")) {
            Matcher matcher = COPY.matcher(sql);
            return matcher.matches()
                    ? Optional.of(new DataStatement(
                            last(matcher.group(1), folded),
                            names(matcher.group(2), folded),
                            true,
                            matcher.group(3).strip()))
                    : Optional.empty();
        }
        return Optional.empty();
    }

    /**
     * How the lines behind it are written.
     *
     * @throws MalformedFileException if that is another way than PostgreSQL's own
     */
    CopyText lines(Origin origin) {
        try {
            return CopyText.of(options)
                    .orElseThrow(() -> new IllegalArgumentException("isn't read, only PostgreSQL's own text"));
        } catch (IllegalArgumentException e) {
            throw new MalformedFileException(origin, "COPY " + options + " " + e.getMessage());
        }
    }

    private static String last(String qualified, UnaryOperator<String> folded) {
        List<String> parts = names(qualified, folded);
        return parts.get(parts.size() - 1);
    }

    private static List<String> names(String text, UnaryOperator<String> folded) {
        List<String> names = new ArrayList<>();
        if (text != null) {
            Matcher matcher = ONE.matcher(text);
            while (matcher.find()) {
                names.add(bare(matcher.group(), folded));
            }
        }
        return names;
    }

    /** A name without its quotes, as text. */
    private static String bare(String name, UnaryOperator<String> folded) {
        char first = name.charAt(0);
        if (first != '"' && first != '`' && first != '[') {
            return folded.apply(text(name));
        }
        char close = first == '[' ? ']' : first;
        return text(name.substring(1, name.length() - 1).replace("" + close + close, "" + close));
    }

    /** What characters of one byte each stand for in UTF-8. */
    static String text(String bytes) {
        return new String(bytes.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8);
    }
}
