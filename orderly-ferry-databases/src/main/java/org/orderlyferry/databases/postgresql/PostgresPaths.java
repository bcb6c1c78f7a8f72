package org.orderlyferry.databases.postgresql;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;

/** Reaches into JSON by the operators {@code #>} and {@code #>>}. */
final class PostgresPaths implements JsonPaths {

    private final TypeMapping types;

    PostgresPaths(TypeMapping types) {
        this.types = types;
    }

    @Override
    public Optional<String> scalar(String column, List<String> path, LogicalType type, boolean quoted) {
        return Optional.of("(" + column + " #>> " + array(path) + ")");
    }

    @Override
    public Optional<String> json(String column, List<String> path) {
        String text = "CAST(" + column + " #> " + array(path) + " AS text)";
        return Optional.of("CAST(NULLIF(" + text + ", 'null') AS " + types.own(LogicalType.JSON) + ")");
    }

    private static String array(List<String> path) {
        return path.stream().map(DefinitionSql::string).collect(Collectors.joining(", ", "ARRAY[", "]"));
    }

    @Override
    public String typed(String scalar, LogicalType type) {
        return "CAST(" + scalar + " AS " + types.own(type) + ")";
    }
}
