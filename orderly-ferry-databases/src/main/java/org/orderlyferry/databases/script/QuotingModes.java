package org.orderlyferry.databases.script;

import java.util.regex.Pattern;
import org.orderlyferry.databases.sql.PlainStrings;

/**
 * What quotes mean in a script's definitions. In MariaDB that depends on the session's mode, which a script may set: strings
 * may stand in double quotes unless these are told to be of names, as they are in other systems.
 */
final class QuotingModes {

    private static final Pattern MODE = Pattern.compile("(?is)\\s*SET\\b.*\\bSQL_MODE\\b.*");
    private static final Pattern ANSI = Pattern.compile("(?is).*\\bANSI(?:_QUOTES)?\\b.*");
    private static final Pattern NO_BACKSLASHES = Pattern.compile("(?is).*\\bNO_BACKSLASH_ESCAPES\\b.*");

    /** A table whose name stands in double quotes, as the first thing of a statement that is in quotes. */
    private static final Pattern NAMED = Pattern.compile(
            "(?is)\\s*(?:CREATE|ALTER|DROP)\\b[^'`\"]*\\b(?:TABLE|EXISTS|ON|INDEX|KEY)\\s*+\"(?:[^\"]|\"\")++\".*");

    private final boolean backslashes;
    private boolean names;

    /**
     * Of a script.
     *
     * @param backslashes whether they are MariaDB's
     */
    QuotingModes(boolean backslashes) {
        this.backslashes = backslashes;
    }

    /**
     * A statement as ISO/IEC 9075-2 would have its strings.
     *
     * @throws IllegalArgumentException for a mode in which its records would be others than are read
     */
    String plain(String sql) {
        if (!backslashes) {
            return PlainStrings.of(sql, false);
        }
        if (MODE.matcher(sql).matches()) {
            if (NO_BACKSLASHES.matcher(sql).matches()) {
                throw new IllegalArgumentException(
                        "in the mode NO_BACKSLASH_ESCAPES a backslash stands for itself, and scripts are read as if it didn't");
            }
            names = ANSI.matcher(sql).matches();
        }
        return names || NAMED.matcher(sql).matches() ? PlainStrings.of(sql, true) : PlainStrings.ofMaria(sql);
    }
}
