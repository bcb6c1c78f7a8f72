package org.orderlyferry.databases.sqlite;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Reaches into JSON by {@code json_extract}; by the operator {@code ->}, which keeps all digits, where a number is exact. */
final class SqlitePaths implements JsonPaths {

    @Override
    public Optional<String> scalar(String column, List<String> path, LogicalType type, boolean quoted) {
        String at = JsonPaths.dollarPath(path);
        if (type.name() == TypeName.DECIMAL && !quoted) {
            return Optional.of("NULLIF(" + column + " -> " + at + ", 'null')");
        }
        return Optional.of("json_extract(" + column + ", " + at + ")");
    }

    @Override
    public Optional<String> json(String column, List<String> path) {
        return Optional.of("NULLIF(" + column + " -> " + JsonPaths.dollarPath(path) + ", 'null')");
    }

    @Override
    public String typed(String scalar, LogicalType type) {
        String own =
                switch (type.name()) {
                    case SMALLINT, INTEGER, BIGINT, BOOLEAN -> "INTEGER";
                    case REAL, DOUBLE -> "REAL";
                    default -> "TEXT";
                };
        return "CAST(" + scalar + " AS " + own + ")";
    }
}
