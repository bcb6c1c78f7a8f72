package org.orderlyferry.databases.mariadb;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.model.LogicalType;

/** Reaches into JSON by {@code JSON_VALUE} and {@code JSON_EXTRACT}. */
final class MariaPaths implements JsonPaths {

    @Override
    public Optional<String> scalar(String column, List<String> path, LogicalType type, boolean quoted) {
        return Optional.of("JSON_VALUE(" + column + ", " + JsonPaths.dollarPath(path) + ")");
    }

    @Override
    public Optional<String> json(String column, List<String> path) {
        return Optional.of("NULLIF(JSON_EXTRACT(" + column + ", " + JsonPaths.dollarPath(path) + "), 'null')");
    }

    @Override
    public String typed(String scalar, LogicalType type) {
        return switch (type.name()) {
            case SMALLINT, INTEGER, BIGINT, BOOLEAN -> "CAST(" + scalar + " AS SIGNED)";
            case REAL, DOUBLE -> "CAST(" + scalar + " AS DOUBLE)";
            case DECIMAL -> "CAST(" + scalar + " AS DECIMAL(" + type.size() + ", " + type.scale() + "))";
            // a moment is kept without its zone, which is UTC
            case TIMESTAMP_WITH_TIME_ZONE ->
                "CAST(REPLACE(REPLACE(" + scalar + ", 'T', ' '), 'Z', '') AS DATETIME(" + type.size() + "))";
            case CHARACTER, VARCHAR -> "CAST(" + scalar + " AS CHAR(" + type.size() + "))";
            case UUID -> "CAST(" + scalar + " AS CHAR(36))";
            default -> scalar;
        };
    }
}
