package org.orderlyferry.place;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.problem.UsageException;

/**
 * Where a place is: a path, or a JDBC URL. It may hold {@code ${env:NAME}}, {@code ${file:path}} and {@code ${ask}}
 * where a secret belongs; these are filled in when the place is opened, and never shown.
 */
public final class PlaceAddress {

    private static final Pattern PASSWORD = Pattern.compile("(?i)(password|passwd|pwd|cipher_?key)=[^;&]*");
    private static final Pattern OPEN_PASSWORD =
            Pattern.compile("(?i)(password|passwd|pwd|cipher_?key)=(?!\\$\\{)[^;&]+");
    private static final Pattern USER_INFO = Pattern.compile("//([^/@:]*):[^/@]*@");

    private final String text;

    private PlaceAddress(String text) {
        this.text = text;
    }

    /** Takes an address as a person wrote it. */
    public static PlaceAddress of(String text) {
        if (text.isBlank()) {
            throw new UsageException("a place's address can't be empty: give a path or a JDBC URL");
        }
        return new PlaceAddress(text);
    }

    public static PlaceAddress of(Path path) {
        return new PlaceAddress(path.toString());
    }

    public boolean isJdbc() {
        return text.regionMatches(true, 0, "jdbc:", 0, 5);
    }

    /** The address with its secrets filled in; for drivers only. */
    public String opened(Secrets secrets) {
        return secrets.fillIn(text);
    }

    /** The address as a path. */
    public Path path() {
        try {
            return Path.of(text);
        } catch (InvalidPathException e) {
            String encoding = System.getProperty("sun.jnu.encoding", "");
            boolean narrow = !encoding.equalsIgnoreCase("UTF-8") && text.chars().anyMatch(c -> c > 127);
            throw new UsageException(
                    "not a path: " + text
                            + (narrow
                                    ? "; this process takes names of files to be in " + encoding
                                            + ", and a locale of UTF-8, such as LC_ALL=C.UTF-8, lets it take all"
                                    : ""),
                    e);
        }
    }

    /**
     * The address as it may be written into a file: a password that stands in it is left open, to come from a variable of the
     * environment.
     *
     * @param variable its name
     */
    public String leftOpen(String variable) {
        String mark = Matcher.quoteReplacement("${env:" + variable + "}");
        String open = OPEN_PASSWORD.matcher(text).replaceAll("$1=" + mark);
        return USER_INFO.matcher(open).replaceAll("//$1:" + mark + "@");
    }

    /** The address with any secret that stands in it struck out. */
    @Override
    public String toString() {
        return masked(text);
    }

    /** A text with all that looks like a password in a URL struck out. */
    public static String masked(String text) {
        String masked = PASSWORD.matcher(text).replaceAll("$1=***");
        return USER_INFO.matcher(masked).replaceAll("//$1:***@");
    }
}
