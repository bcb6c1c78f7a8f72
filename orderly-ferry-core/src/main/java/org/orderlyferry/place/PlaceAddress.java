package org.orderlyferry.place;

import java.nio.file.FileSystemNotFoundException;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.problem.UsageException;

/**
 * Where a place is: a path, a JDBC URL, or another address that begins with a scheme (RFC 3986). It may hold {@code ${env:NAME}}, {@code ${file:path}} and {@code ${ask}}
 * where a secret belongs; these are filled in when the place is opened, and never shown.
 */
public final class PlaceAddress {

    private static final Pattern PASSWORD = Pattern.compile("(?i)(password|passwd|pwd|cipher_?key)=[^;&]*");
    private static final Pattern OPEN_PASSWORD =
            Pattern.compile("(?i)(password|passwd|pwd|cipher_?key)=(?!\\$\\{)[^;&]+");
    /** {@code jdbc:oracle:thin:user/password@…}. */
    private static final Pattern THIN =
            Pattern.compile("(?i)(jdbc:oracle:\\w+:[^/@]*)/((?!\\$\\{)(?:\"[^\"]*\"|[^@]*))@");

    private static final Pattern USER_INFO = Pattern.compile("//([^/@:]*):[^/@]*@");
    private static final Pattern OPEN_USER_INFO = Pattern.compile("//([^/@:]*):(?!\\$\\{)[^/@]*@");
    /** Of documents: up to the last {@code @}, since a password that isn't written as it has to be is one all the same. */
    private static final Pattern OF_DOCUMENTS = Pattern.compile("(?i)(mongodb(?:\\+srv)?)://([^/@:?\\s]*):[^?\\s]*@");

    private static final Pattern OPEN_OF_DOCUMENTS =
            Pattern.compile("(?i)(mongodb(?:\\+srv)?)://([^/@:?\\s]*):(?!\\$\\{)[^?\\s]*@");

    /** The scheme of all paths. */
    public static final String FILE = "file";

    /** The scheme of all JDBC URLs. */
    public static final String JDBC = "jdbc";

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

    /** Takes a path. */
    public static PlaceAddress of(Path path) {
        return new PlaceAddress(WrittenPath.of(path));
    }

    /**
     * What the address begins with, in lower case: {@code jdbc}, or the scheme in front of {@code ://}; {@link #FILE} for a path, also
     * one in another file system of this Java, such as {@code hdfs://}.
     */
    public String scheme() {
        if (text.regionMatches(true, 0, "jdbc:", 0, 5)) {
            return JDBC;
        }
        return WrittenPath.scheme(text).filter(s -> !WrittenPath.isPath(s)).orElse(FILE);
    }

    /** Whether it is a JDBC URL. */
    public boolean isJdbc() {
        return scheme().equals(JDBC);
    }

    /** The address with its secrets filled in; for drivers only. */
    public String opened(Secrets secrets) {
        return secrets.fillIn(text);
    }

    /** The address as a path. */
    public Path path() {
        try {
            return WrittenPath.read(text);
        } catch (IllegalArgumentException | FileSystemNotFoundException e) {
            String encoding = System.getProperty("sun.jnu.encoding", "");
            boolean narrow = !encoding.equalsIgnoreCase("UTF-8") && text.chars().anyMatch(c -> c > 127);
            throw new UsageException(
                    "not a path: " + this + (e.getMessage() == null ? "" : ": " + masked(e.getMessage()))
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
        String thin = THIN.matcher(open).replaceAll("$1/" + mark + "@");
        String documents = OPEN_OF_DOCUMENTS.matcher(thin).replaceAll("$1://$2:" + mark + "@");
        return OPEN_USER_INFO.matcher(documents).replaceAll("//$1:" + mark + "@");
    }

    /** The address with any secret that stands in it struck out. */
    @Override
    public String toString() {
        return masked(text);
    }

    /** A text with all that looks like a password in a URL struck out. */
    public static String masked(String text) {
        String masked = PASSWORD.matcher(text).replaceAll("$1=***");
        String thin = THIN.matcher(masked).replaceAll("$1/***@");
        String documents = OF_DOCUMENTS.matcher(thin).replaceAll("$1://$2:***@");
        return USER_INFO.matcher(documents).replaceAll("//$1:***@");
    }
}
