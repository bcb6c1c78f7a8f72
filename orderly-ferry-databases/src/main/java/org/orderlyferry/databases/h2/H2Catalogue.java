package org.orderlyferry.databases.h2;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** H2's own catalogue: its INFORMATION_SCHEMA, which goes well beyond what JDBC's metadata offers. */
final class H2Catalogue implements Catalogue {

    private static final String DEFAULT_SCHEMA = "PUBLIC";

    private static final String TABLES =
            "SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.TABLES t WHERE TABLE_TYPE ="
                    + " 'BASE TABLE' AND TABLE_SCHEMA <> 'INFORMATION_SCHEMA'";
    private static final String HAS_COLUMNS =
            " EXISTS (SELECT 1 FROM INFORMATION_SCHEMA.COLUMNS c WHERE c.TABLE_SCHEMA ="
                    + " t.TABLE_SCHEMA AND c.TABLE_NAME = t.TABLE_NAME)";

    private final CatalogueQuery query;

    H2Catalogue(Connection connection) {
        this.query = new CatalogueQuery(connection);
    }

    private static TableName name(String schema, String table) {
        return new TableName(schema.equals(DEFAULT_SCHEMA) ? "" : schema, table);
    }

    private static String schema(TableName table) {
        return table.schema().isEmpty() ? DEFAULT_SCHEMA : table.schema();
    }

    @Override
    public List<TableName> tables() throws SQLException {
        List<TableName> tables = new ArrayList<>();
        query.each(
                TABLES + " AND" + HAS_COLUMNS + " ORDER BY 1, 2",
                row -> tables.add(name(row.getString(1), row.getString(2))));
        return tables;
    }

    @Override
    public Map<TableName, String> otherNames() throws SQLException {
        Map<TableName, String> names = new LinkedHashMap<>();
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, CASE TABLE_TYPE WHEN 'VIEW' THEN 'a view' ELSE 'a table of another"
                        + " kind' END FROM INFORMATION_SCHEMA.TABLES WHERE TABLE_TYPE <> 'BASE TABLE' AND TABLE_SCHEMA <>"
                        + " 'INFORMATION_SCHEMA'",
                row -> names.put(name(row.getString(1), row.getString(2)), row.getString(3)));
        return names;
    }

    @Override
    public TableDefinition define(TableName table) throws SQLException {
        String[] place = {schema(table), table.name()};
        TableDefinition.Builder builder = TableDefinition.named(table).system(H2Dialect.SYSTEM);
        Map<String, List<String>> enumerations = new HashMap<>();
        query.each(
                "SELECT OBJECT_NAME, ENUM_IDENTIFIER, VALUE_NAME FROM INFORMATION_SCHEMA.ENUM_VALUES"
                        + " WHERE OBJECT_TYPE = 'TABLE' AND OBJECT_SCHEMA = ? AND OBJECT_NAME = ? ORDER BY VALUE_ORDINAL",
                row -> enumerations
                        .computeIfAbsent(row.getString(2), i -> new ArrayList<>())
                        .add(row.getString(3)),
                place);
        query.each(
                "SELECT COLUMN_NAME, DATA_TYPE, CHARACTER_MAXIMUM_LENGTH, NUMERIC_PRECISION, NUMERIC_SCALE,"
                        + " DATETIME_PRECISION, IS_NULLABLE, COLUMN_DEFAULT, IS_IDENTITY, IDENTITY_GENERATION,"
                        + " IDENTITY_START, IDENTITY_INCREMENT, IDENTITY_BASE, IS_GENERATED, GENERATION_EXPRESSION,"
                        + " REMARKS, INTERVAL_TYPE, DTD_IDENTIFIER, INTERVAL_PRECISION"
                        + " FROM INFORMATION_SCHEMA.COLUMNS WHERE TABLE_SCHEMA = ? AND TABLE_NAME = ?"
                        + " ORDER BY ORDINAL_POSITION",
                row -> builder.column(column(row, enumerations)),
                place);
        query.each(
                "SELECT REMARKS FROM INFORMATION_SCHEMA.TABLES WHERE TABLE_SCHEMA = ? AND TABLE_NAME = ?",
                row -> builder.comment(Optional.ofNullable(row.getString(1)).orElse("")),
                place);
        keys(builder, place);
        foreignKeys(builder, place);
        query.each(
                "SELECT c.CONSTRAINT_NAME, k.CHECK_CLAUSE FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS c"
                        + " JOIN INFORMATION_SCHEMA.CHECK_CONSTRAINTS k ON k.CONSTRAINT_SCHEMA = c.CONSTRAINT_SCHEMA"
                        + " AND k.CONSTRAINT_NAME = c.CONSTRAINT_NAME"
                        + " WHERE c.CONSTRAINT_TYPE = 'CHECK' AND c.TABLE_SCHEMA = ? AND c.TABLE_NAME = ? ORDER BY 1",
                row -> builder.check(new CheckConstraint(given(row.getString(1)), row.getString(2), H2Dialect.SYSTEM)),
                place);
        indexes(builder, place);
        return builder.build();
    }

    private static ColumnDefinition column(ResultSet row, Map<String, List<String>> enumerations) throws SQLException {
        String dataType = row.getString(2);
        long length = row.getLong(3);
        long size = length != 0 ? length : row.getLong(4);
        int scale = row.getInt(5);
        int fraction = row.getInt(6);
        Optional<Enumeration> enumeration = dataType.equals("ENUM")
                ? Optional.of(new Enumeration("", enumerations.get(row.getString(18))))
                : Optional.empty();
        LogicalType type = enumeration
                .map(e -> LogicalType.varchar(e.longest()))
                .orElseGet(() -> H2Types.logical(dataType, size, scale, fraction));
        ColumnDefinition.Builder column = ColumnDefinition.named(row.getString(1), type)
                .nullable("YES".equals(row.getString(7)))
                .enumeration(enumeration)
                .sourceType(enumeration.isPresent() ? H2ColumnSql.type(enumeration.get()) : own(row, dataType, type))
                .comment(Optional.ofNullable(row.getString(16)).orElse(""));
        if ("ALWAYS".equals(row.getString(14))) {
            column.generation(Optional.of(new GenerationRule(new SqlText(row.getString(15), H2Dialect.SYSTEM), true)));
        } else if ("YES".equals(row.getString(9))) {
            column.identity(Optional.of(new Identity(
                    "ALWAYS".equals(row.getString(10)), row.getLong(11), row.getLong(12), row.getLong(13))));
        } else {
            column.defaultValue(H2Defaults.read(row.getString(8), type));
        }
        return column.build();
    }

    /** The type as CREATE TABLE takes it; the catalogue has it in pieces. */
    private static String own(ResultSet row, String dataType, LogicalType type) throws SQLException {
        String intervalType = row.getString(17);
        return switch (dataType) {
            case "INTERVAL" -> dataType + " " + intervalType;
            case "DECFLOAT" -> dataType + "(" + row.getLong(4) + ")";
            case "VARCHAR_IGNORECASE" -> dataType + "(" + row.getLong(3) + ")";
            case "TIME WITH TIME ZONE" -> "TIME(" + row.getInt(6) + ") WITH TIME ZONE";
            case "TINYINT", "GEOMETRY", "JAVA_OBJECT", "ARRAY", "ROW" -> dataType;
            default -> H2Types.sql(type);
        };
    }

    /** A constraint's name where a person gave one; H2's own are made up anew by each database. */
    private static String given(String name) {
        return name.matches("CONSTRAINT_[0-9A-F]+(_\\d+)?") ? "" : name;
    }

    private void keys(TableDefinition.Builder builder, String... place) throws SQLException {
        Map<String, List<String>> columns = new LinkedHashMap<>();
        Map<String, Boolean> primary = new LinkedHashMap<>();
        query.each(
                "SELECT c.CONSTRAINT_NAME, c.CONSTRAINT_TYPE, u.COLUMN_NAME"
                        + " FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS c JOIN INFORMATION_SCHEMA.KEY_COLUMN_USAGE u"
                        + " ON u.CONSTRAINT_SCHEMA = c.CONSTRAINT_SCHEMA AND u.CONSTRAINT_NAME = c.CONSTRAINT_NAME"
                        // it has no other way to what is a table's than the table's name
                        + " AND u.TABLE_SCHEMA = ? AND u.TABLE_NAME = ?"
                        + " WHERE c.CONSTRAINT_TYPE IN ('PRIMARY KEY', 'UNIQUE') AND c.TABLE_SCHEMA = ?"
                        + " AND c.TABLE_NAME = ? ORDER BY c.CONSTRAINT_NAME, u.ORDINAL_POSITION",
                row -> {
                    columns.computeIfAbsent(row.getString(1), n -> new ArrayList<>())
                            .add(row.getString(3));
                    primary.put(row.getString(1), row.getString(2).startsWith("PRIMARY"));
                },
                place[0],
                place[1],
                place[0],
                place[1]);
        columns.forEach((name, key) -> {
            if (primary.get(name)) {
                builder.primaryKey(new Key(given(name), key));
            } else {
                builder.unique(new Key(given(name), key));
            }
        });
    }

    private void foreignKeys(TableDefinition.Builder builder, String... place) throws SQLException {
        Map<String, List<String>> columns = new LinkedHashMap<>();
        Map<String, List<Integer>> positions = new LinkedHashMap<>();
        query.each(
                "SELECT CONSTRAINT_NAME, COLUMN_NAME, POSITION_IN_UNIQUE_CONSTRAINT FROM"
                        + " INFORMATION_SCHEMA.KEY_COLUMN_USAGE WHERE TABLE_SCHEMA = ? AND TABLE_NAME = ?"
                        + " AND POSITION_IN_UNIQUE_CONSTRAINT IS NOT NULL ORDER BY CONSTRAINT_NAME, ORDINAL_POSITION",
                row -> {
                    columns.computeIfAbsent(row.getString(1), n -> new ArrayList<>())
                            .add(row.getString(2));
                    positions
                            .computeIfAbsent(row.getString(1), n -> new ArrayList<>())
                            .add(row.getInt(3));
                },
                place);
        for (Map.Entry<String, List<String>> key : columns.entrySet()) {
            String[] constraint = {place[0], key.getKey()};
            // one question for both would hold all keys of the database against each other
            query.each(
                    "SELECT UNIQUE_CONSTRAINT_SCHEMA, UNIQUE_CONSTRAINT_NAME, UPDATE_RULE, DELETE_RULE FROM"
                            + " INFORMATION_SCHEMA.REFERENTIAL_CONSTRAINTS WHERE CONSTRAINT_SCHEMA = ? AND"
                            + " CONSTRAINT_NAME = ?",
                    row -> builder.foreignKey(
                            foreignKey(given(key.getKey()), key.getValue(), positions.get(key.getKey()), row)),
                    constraint);
        }
    }

    private ForeignKey foreignKey(String name, List<String> columns, List<Integer> positions, ResultSet row)
            throws SQLException {
        TableName[] target = {null};
        Map<Integer, String> there = new HashMap<>();
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, ORDINAL_POSITION FROM"
                        + " INFORMATION_SCHEMA.KEY_COLUMN_USAGE WHERE CONSTRAINT_SCHEMA = ? AND CONSTRAINT_NAME = ?",
                referred -> {
                    target[0] = name(referred.getString(1), referred.getString(2));
                    there.put(referred.getInt(4), referred.getString(3));
                },
                row.getString(1),
                row.getString(2));
        return new ForeignKey(
                name,
                columns,
                target[0],
                positions.stream().map(there::get).toList(),
                ReferentialAction.ofSql(row.getString(3)),
                ReferentialAction.ofSql(row.getString(4)));
    }

    private void indexes(TableDefinition.Builder builder, String... place) throws SQLException {
        Map<String, IndexDefinition> indexes = new LinkedHashMap<>();
        query.each(
                "SELECT i.INDEX_NAME, i.INDEX_TYPE_NAME, c.COLUMN_NAME, c.ORDERING_SPECIFICATION"
                        + " FROM INFORMATION_SCHEMA.INDEXES i JOIN INFORMATION_SCHEMA.INDEX_COLUMNS c"
                        + " ON c.INDEX_SCHEMA = i.INDEX_SCHEMA AND c.INDEX_NAME = i.INDEX_NAME"
                        + " AND c.TABLE_NAME = i.TABLE_NAME"
                        + " WHERE i.IS_GENERATED = FALSE AND i.TABLE_SCHEMA = ? AND i.TABLE_NAME = ?"
                        + " ORDER BY i.INDEX_NAME, c.ORDINAL_POSITION",
                row -> {
                    IndexDefinition.Part part =
                            new IndexDefinition.Part(row.getString(3), "DESC".equals(row.getString(4)));
                    IndexDefinition index = new IndexDefinition(
                            row.getString(1), row.getString(2).startsWith("UNIQUE"), List.of(part));
                    indexes.merge(index.name(), index, (a, b) -> {
                        List<IndexDefinition.Part> parts = new ArrayList<>(a.parts());
                        parts.addAll(b.parts());
                        return new IndexDefinition(a.name(), a.unique(), parts);
                    });
                },
                place);
        indexes.values().forEach(builder::index);
    }

    @Override
    public List<LeftBehind> leftBehind() throws SQLException {
        List<LeftBehind> all = new ArrayList<>();
        String reason = "its SQL is H2's own; make it anew at the target";
        query.each(
                TABLES + " AND NOT" + HAS_COLUMNS + " ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "table",
                        name(row.getString(1), row.getString(2)).toString(),
                        "it has no columns, and so nothing that could be carried")));
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.TABLES WHERE TABLE_TYPE = 'GLOBAL TEMPORARY'"
                        + " ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "temporary table",
                        name(row.getString(1), row.getString(2)).toString(),
                        reason)));
        query.each(
                "SELECT TABLE_SCHEMA, TABLE_NAME FROM INFORMATION_SCHEMA.VIEWS"
                        + " WHERE TABLE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "view", name(row.getString(1), row.getString(2)).toString(), reason)));
        query.each(
                "SELECT TRIGGER_NAME, EVENT_OBJECT_TABLE FROM INFORMATION_SCHEMA.TRIGGERS ORDER BY 1",
                row -> all.add(new LeftBehind("trigger", row.getString(2) + "." + row.getString(1), reason)));
        query.each(
                "SELECT ROUTINE_NAME FROM INFORMATION_SCHEMA.ROUTINES"
                        + " WHERE ROUTINE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1",
                row -> all.add(new LeftBehind("routine", row.getString(1), reason)));
        query.each(
                "SELECT SEQUENCE_NAME, BASE_VALUE FROM INFORMATION_SCHEMA.SEQUENCES WHERE SEQUENCE_NAME NOT LIKE"
                        + " 'SYSTEM\\_SEQUENCE%' ORDER BY 1",
                row -> all.add(new LeftBehind(
                        "sequence",
                        row.getString(1),
                        "it belongs to no column; its next value is " + row.getString(2))));
        query.each(
                "SELECT TABLE_NAME, COLUMN_NAME, DATA_TYPE FROM INFORMATION_SCHEMA.COLUMNS WHERE DATA_TYPE IN"
                        + " ('GEOMETRY', 'TIME WITH TIME ZONE', 'ROW', 'ARRAY', 'INTERVAL', 'JAVA_OBJECT')"
                        + " AND TABLE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "type",
                        row.getString(1) + "." + row.getString(2),
                        "values of " + row.getString(3) + " are carried as text, as H2 writes them")));
        query.each(
                "SELECT TABLE_NAME, GRANTEE, PRIVILEGE_TYPE FROM INFORMATION_SCHEMA.TABLE_PRIVILEGES WHERE TABLE_SCHEMA"
                        + " <> 'INFORMATION_SCHEMA' ORDER BY 1, 2, 3",
                row -> all.add(new LeftBehind(
                        "grant",
                        row.getString(1),
                        row.getString(3) + " to " + row.getString(2) + "; users are the target's own matter")));
        query.each(
                "SELECT TABLE_NAME, COLUMN_NAME, DOMAIN_NAME FROM INFORMATION_SCHEMA.COLUMNS WHERE DOMAIN_NAME IS NOT"
                        + " NULL AND TABLE_SCHEMA <> 'INFORMATION_SCHEMA' ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "domain",
                        row.getString(1) + "." + row.getString(2),
                        "the column arrives as the type that " + row.getString(3) + " is made of")));
        UnusualRules.tell(query, all);
        return all;
    }
}
