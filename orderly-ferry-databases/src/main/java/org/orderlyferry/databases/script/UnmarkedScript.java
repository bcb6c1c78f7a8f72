package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.SystemSql;

/** Whose SQL a script is that no tool has marked: that of the system more of whose own words it has than of any other's. */
final class UnmarkedScript {

    /** Strings and comments, in which any word may stand; the last may go on behind what is looked at. */
    private static final Pattern TEXTS =
            Pattern.compile("'[^']*+(?:'|\\z)|(?m:--.*+$)|(?m:^[ \\t]*+#.*+$)|/\\*(?s:.*?)(?:\\*/|\\z)");

    private UnmarkedScript() {}

    /**
     * Tells it.
     *
     * @param head the script's beginning
     * @return empty where no system has more than others
     */
    static Optional<SystemSql> dialect(String head, List<SystemSql> dialects) {
        String words = TEXTS.matcher(head).replaceAll(" ");
        List<SystemSql> most = new ArrayList<>();
        long signs = 1;
        for (SystemSql dialect : dialects) {
            long its = dialect.scripting().signs().stream()
                    .filter(s -> Pattern.compile(s, Pattern.CASE_INSENSITIVE | Pattern.MULTILINE)
                            .matcher(words)
                            .find())
                    .count();
            if (its > signs) {
                most.clear();
                signs = its;
            }
            if (its == signs) {
                most.add(dialect);
            }
        }
        return most.size() == 1 ? Optional.of(most.get(0)) : Optional.empty();
    }
}
