package org.orderlyferry.databases.h2;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.model.LogicalType;

/**
 * Reaches into JSON by names behind points. What comes is JSON, which has no casts but to its own text: a string's quotes are cut
 * off, and its escapes are those that STRINGDECODE knows.
 */
final class H2Paths implements JsonPaths {

    private final Dialect dialect;

    H2Paths(Dialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public Optional<String> scalar(String column, List<String> path, LogicalType type, boolean quoted) {
        String text = text(at(column, path));
        return Optional.of(
                quoted ? "STRINGDECODE(SUBSTRING(" + text + " FROM 2 FOR CHAR_LENGTH(" + text + ") - 2))" : text);
    }

    /** The JSON's text; NULL for null. */
    private static String text(String json) {
        return "NULLIF(CAST(" + json + " AS CHARACTER VARYING), 'null')";
    }

    private String at(String column, List<String> path) {
        return path.stream().map(dialect::quote).collect(Collectors.joining(".", "(" + column + ").", ""));
    }

    @Override
    public Optional<String> json(String column, List<String> path) {
        String json = at(column, path);
        return Optional.of("CASE WHEN " + text(json) + " IS NOT NULL THEN " + json + " END");
    }

    @Override
    public String typed(String scalar, LogicalType type) {
        return "CAST(" + scalar + " AS " + dialect.types().own(type) + ")";
    }
}
