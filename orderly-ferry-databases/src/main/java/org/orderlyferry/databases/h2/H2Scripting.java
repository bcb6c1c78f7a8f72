package org.orderlyferry.databases.h2;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeWords;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** Scripts for H2. */
final class H2Scripting implements Scripting {

    private static final TypeWords WORDS = TypeWords.of(
            "boolean: bit, bool",
            "smallint: int2",
            "integer: int, int4, mediumint, signed",
            "bigint: int8",
            "numeric: decimal, dec, number",
            "real: float4",
            "double precision: double, float8",
            "character: char, nchar, national character, national char",
            "character varying: varchar, char varying, nchar varying, national character varying, national char varying,"
                    + " nvarchar, varchar2, nvarchar2, varchar_casesensitive, longvarchar",
            "character large object: char large object, clob, nclob, national character large object, text, tinytext,"
                    + " mediumtext, longtext, ntext",
            "binary varying: varbinary, bytea, raw, longvarbinary",
            "binary large object: blob, tinyblob, mediumblob, longblob, image, oid",
            "timestamp: datetime, datetime2, smalldatetime");

    private final H2Dialect dialect;

    H2Scripting(H2Dialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public List<String> opening() {
        return List.of("SET TIME ZONE 'UTC'", "SET REFERENTIAL_INTEGRITY FALSE");
    }

    @Override
    public List<String> closing() {
        return List.of("SET REFERENTIAL_INTEGRITY TRUE");
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return switch (column.type().name()) {
            case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL -> value;
            case REAL, DOUBLE -> DefinitionSql.string(value.replace("INF", "Infinity"));
            case DATE -> "DATE '" + value + "'";
            case TIME -> "TIME '" + value + "'";
            case TIMESTAMP -> "TIMESTAMP '" + value + "'";
            case TIMESTAMP_WITH_TIME_ZONE -> "TIMESTAMP WITH TIME ZONE '" + value + "'";
            case UUID -> "UUID '" + value + "'";
            case JSON, ARRAY -> "JSON " + DefinitionSql.string(value);
            default -> DefinitionSql.string(value);
        };
    }

    @Override
    public List<String> references(TableDefinition table) {
        return new DefinitionSql(dialect).references(table);
    }

    @Override
    public List<String> counter(TableDefinition table, ColumnDefinition column, long next) {
        return List.of("ALTER TABLE " + dialect.quote(table.name()) + " ALTER COLUMN " + dialect.quote(column.name())
                + " RESTART WITH " + next);
    }

    @Override
    public String folded(String name) {
        return name.toUpperCase(Locale.ROOT);
    }

    @Override
    public List<String> marks() {
        return List.of("for H2", "-- H2 ");
    }

    @Override
    public List<String> signs() {
        return List.of("\\bCREATE\\s+(CACHED|MEMORY)\\s+TABLE\\b", "\\bVARCHAR_IGNORECASE\\b", "\\bRUNSCRIPT\\b");
    }

    /** What isn't said is as H2 has it. */
    @Override
    public String ownType(String written) {
        String own = WORDS.own(written);
        String sized =
                switch (own) {
                    case "timestamp", "timestamp without time zone" -> "timestamp(6)";
                    case "timestamp with time zone" -> "timestamp(6) with time zone";
                    case "time", "time without time zone" -> "time(0)";
                    case "time with time zone" -> "time(0) with time zone";
                    case "character", "binary" -> own + "(1)";
                    case "numeric", "decfloat" -> "decfloat(34)";
                    case "float" -> "double precision";
                    default ->
                        own.startsWith("float(")
                                ? TypeWords.isSingle(own) ? "real" : "double precision"
                                : own.replace(" without time zone", "");
                };
        // the values of an enumeration are texts
        int quote = sized.indexOf('\'');
        return quote < 0
                ? sized.toUpperCase(Locale.ROOT).replace("[]", " ARRAY")
                : sized.substring(0, quote).toUpperCase(Locale.ROOT) + sized.substring(quote);
    }

    @Override
    public Optional<ColumnDefault> defaultValue(String sql, LogicalType type) {
        return H2Defaults.read(sql, type);
    }
}
