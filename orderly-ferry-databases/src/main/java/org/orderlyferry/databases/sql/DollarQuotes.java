package org.orderlyferry.databases.sql;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apiguardian.api.API;

/**
 * PostgreSQL's strings {@code $tag$ … $tag$}, in which everything stands for itself.
 *
 * @param text what stands in it
 * @param end where it ends, exclusive
 */
@API(status = API.Status.INTERNAL)
public record DollarQuotes(String text, int end) {

    /** As the server's own lexer has it, in bytes or in characters. */
    private static final Pattern TAG =
            Pattern.compile("\\$(?:[A-Za-z_\\x{80}-\\x{10FFFF}][A-Za-z0-9_\\x{80}-\\x{10FFFF}]*+)?\\$");

    /** The one that begins here; nothing where none does, or where it has no end. */
    public static Optional<DollarQuotes> at(String sql, int start) {
        Matcher tag = TAG.matcher(sql).region(start, sql.length());
        int end = tag.lookingAt() ? sql.indexOf(tag.group(), tag.end()) : -1;
        return end < 0
                ? Optional.empty()
                : Optional.of(new DollarQuotes(
                        sql.substring(tag.end(), end), end + tag.group().length()));
    }
}
