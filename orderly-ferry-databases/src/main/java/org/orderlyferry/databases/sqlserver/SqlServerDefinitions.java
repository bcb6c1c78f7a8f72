package org.orderlyferry.databases.sqlserver;

import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.databases.dialect.AskedDefinitions;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.SqlText;

/** The definitions of one table, or of all: the same questions to the catalogue's views, with or without its name. */
final class SqlServerDefinitions extends AskedDefinitions {

    /** Tables of users; those that hold what others were are told of as their history. */
    static final String TABLES = " FROM sys.tables t JOIN sys.schemas s ON s.schema_id = t.schema_id";

    static final String USERS = " WHERE t.is_ms_shipped = 0 AND t.temporal_type <> 1";

    static final Tables ALL = new Tables("s.name", "t.name", TABLES, USERS);

    /** Columns that hold something of their own: the sum of all sparse ones as XML isn't. */
    static final String COLUMNS = " JOIN sys.columns c ON c.object_id = t.object_id AND c.is_column_set = 0";

    /** A type's words, and those of the system's own type that it is made of, of which types in CLR have none. */
    static final String TYPES = " JOIN sys.types y ON y.user_type_id = c.user_type_id"
            + " LEFT JOIN sys.types b ON b.user_type_id = c.system_type_id";

    private static final String COMMENT = "N'MS_Description'";

    SqlServerDefinitions(CatalogueQuery query, String schema) {
        super(query, ALL, SqlServerSql.SYSTEM, schema);
    }

    @Override
    protected void ask() throws SQLException {
        columns();
        each(
                "CAST(p.[value] AS nvarchar(4000))",
                " JOIN sys.extended_properties p ON p.class = 1 AND p.major_id = t.object_id AND p.minor_id = 0 AND p.name = "
                        + COMMENT,
                "",
                "",
                (draft, row) ->
                        draft.comment(Optional.ofNullable(row.getString(3)).orElse("")));
        keys();
        references();
        each(
                "k.name, k.is_system_named, k.definition",
                " JOIN sys.check_constraints k ON k.parent_object_id = t.object_id",
                " AND k.is_disabled = 0 AND k.is_not_trusted = 0",
                " ORDER BY k.name",
                (draft, row) -> draft.check(
                        new CheckConstraint(given(row.getString(3), row), row.getString(5), SqlServerSql.SYSTEM)));
    }

    /** A rule's name where a person gave one; what the system has made up stands in the row behind it. */
    private static String given(String name, ResultSet row) throws SQLException {
        return row.getBoolean(4) ? "" : name;
    }

    private void columns() throws SQLException {
        each(
                "c.name, COALESCE(b.name, y.name), c.max_length, c.[precision], c.scale, c.is_nullable, d.definition,"
                        + " k.definition, k.is_persisted, CAST(i.seed_value AS decimal(38,0)),"
                        + " CAST(i.increment_value AS decimal(38,0)), CAST(i.last_value AS decimal(38,0)),"
                        + " CAST(p.[value] AS nvarchar(4000))",
                COLUMNS + TYPES + " LEFT JOIN sys.default_constraints d ON d.object_id = c.default_object_id"
                        + " LEFT JOIN sys.computed_columns k ON k.object_id = c.object_id AND k.column_id = c.column_id"
                        + " LEFT JOIN sys.identity_columns i ON i.object_id = c.object_id AND i.column_id = c.column_id"
                        + " LEFT JOIN sys.extended_properties p ON p.class = 1 AND p.major_id = c.object_id"
                        + " AND p.minor_id = c.column_id AND p.name = " + COMMENT,
                "",
                " ORDER BY t.object_id, c.column_id",
                (draft, row) -> draft.column(column(row)));
    }

    private static ColumnDefinition column(ResultSet row) throws SQLException {
        String own = own(row.getString(4), row.getInt(5), row.getInt(6), row.getInt(7));
        LogicalType type = SqlServerTypes.logical(own);
        String value = row.getString(9);
        String computed = row.getString(10);
        BigDecimal start = row.getBigDecimal(12);
        ColumnDefinition.Builder column = ColumnDefinition.named(row.getString(3), type)
                .nullable(row.getBoolean(8))
                .sourceType(own)
                .comment(Optional.ofNullable(row.getString(15)).orElse(""));
        if (computed != null) {
            column.generation(
                    Optional.of(new GenerationRule(new SqlText(computed, SqlServerSql.SYSTEM), row.getBoolean(11))));
        } else if (start != null) {
            BigDecimal step = row.getBigDecimal(13);
            BigDecimal last = row.getBigDecimal(14);
            BigDecimal next = last == null ? start : last.add(step);
            column.identity(Optional.of(new Identity(true, held(start), held(step), held(next))));
        } else if (value != null) {
            column.defaultValue(SqlServerDefaults.read(value, type));
        }
        return column.build();
    }

    /** A counter of more digits than ours stays at the end of ours. */
    private static long held(BigDecimal counted) {
        return counted.min(BigDecimal.valueOf(Long.MAX_VALUE))
                .max(BigDecimal.valueOf(Long.MIN_VALUE))
                .longValue();
    }

    /** A type as CREATE TABLE has it. */
    private static String own(String name, int bytes, int precision, int scale) {
        String type = name.toLowerCase(Locale.ROOT);
        return switch (type) {
            case "decimal", "numeric" -> type + "(" + precision + "," + scale + ")";
            case "char", "varchar", "binary", "varbinary" -> type + "(" + (bytes < 0 ? "max" : bytes) + ")";
            case "nchar", "nvarchar" -> type + "(" + (bytes < 0 ? "max" : bytes / Character.BYTES) + ")";
            case "time", "datetime2", "datetimeoffset" -> type + "(" + scale + ")";
            case "timestamp" -> "rowversion";
            default -> type;
        };
    }

    private void keys() throws SQLException {
        each(
                "i.name, COALESCE(k.is_system_named, 0), i.is_primary_key, i.is_unique_constraint, i.is_unique,"
                        + " i.filter_definition, c.name, x.is_descending_key",
                " JOIN sys.indexes i ON i.object_id = t.object_id JOIN sys.index_columns x ON x.object_id = i.object_id"
                        + " AND x.index_id = i.index_id JOIN sys.columns c ON c.object_id = i.object_id"
                        + " AND c.column_id = x.column_id LEFT JOIN sys.key_constraints k ON k.parent_object_id = i.object_id"
                        + " AND k.unique_index_id = i.index_id",
                // by rows or by hashes; other kinds are told of
                " AND i.type IN (1, 2, 7) AND i.is_disabled = 0 AND i.is_hypothetical = 0 AND x.key_ordinal > 0",
                " ORDER BY i.object_id, i.index_id, x.key_ordinal",
                (draft, row) -> {
                    String name = row.getString(3);
                    if (row.getBoolean(5)) {
                        draft.primary(name, given(name, row), row.getString(9));
                    } else if (row.getBoolean(6)) {
                        draft.unique(name, given(name, row), row.getString(9));
                    } else {
                        draft.index(
                                name,
                                row.getBoolean(7),
                                new IndexDefinition.Part(row.getString(9), row.getBoolean(10)),
                                Optional.ofNullable(row.getString(8)).map(f -> new SqlText(f, SqlServerSql.SYSTEM)));
                    }
                });
    }

    private void references() throws SQLException {
        each(
                "k.name, k.is_system_named, c.name, rs.name, rt.name, rc.name, k.update_referential_action_desc,"
                        + " k.delete_referential_action_desc",
                " JOIN sys.foreign_keys k ON k.parent_object_id = t.object_id JOIN sys.foreign_key_columns x"
                        + " ON x.constraint_object_id = k.object_id JOIN sys.columns c ON c.object_id = x.parent_object_id"
                        + " AND c.column_id = x.parent_column_id JOIN sys.tables rt ON rt.object_id = k.referenced_object_id"
                        + " JOIN sys.schemas rs ON rs.schema_id = rt.schema_id JOIN sys.columns rc"
                        + " ON rc.object_id = x.referenced_object_id AND rc.column_id = x.referenced_column_id",
                " AND k.is_disabled = 0 AND k.is_not_trusted = 0",
                " ORDER BY k.name, x.constraint_column_id",
                (draft, row) -> draft.reference(
                        row.getString(3),
                        new ForeignKey(
                                given(row.getString(3), row),
                                List.of(row.getString(5)),
                                name(row.getString(6), row.getString(7)),
                                List.of(row.getString(8)),
                                action(row.getString(9)),
                                action(row.getString(10)))));
    }

    private static ReferentialAction action(String described) {
        return ReferentialAction.ofSql(described.replace('_', ' '));
    }
}
