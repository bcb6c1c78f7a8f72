package org.orderlyferry.databases.sqlite;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * Declared types of SQLite as logical types, and back.
 *
 * <p>SQLite takes any words as a declared type and goes by them only so far as to turn a text that looks like a number
 * into one. So types whose text must stay as it is are declared with {@code _TEXT} in their name, which keeps SQLite's
 * hands off, and says to a reader what they are.
 */
final class SqliteTypes {

    /** Up to here, a decimal survives as the double that SQLite makes of it. */
    private static final int SAFE_DIGITS = 15;

    private static final Pattern DECLARED =
            Pattern.compile("([A-Z0-9_ ]+?)\\s*(?:\\(\\s*(\\d+)\\s*(?:,\\s*(\\d+)\\s*)?\\))?");

    /** The mapping as others see it. */
    static final TypeMapping MAPPING = new TypeMapping() {
        @Override
        public LogicalType logical(String own) {
            return SqliteTypes.logical(own);
        }

        @Override
        public String own(LogicalType type) {
            return sql(type);
        }

        @Override
        public List<String> examples() {
            return List.of(
                    "BOOLEAN",
                    "SMALLINT",
                    "TINYINT",
                    "INT4",
                    "INTEGER",
                    "BIGINT",
                    "NUMERIC",
                    "DECIMAL(12,2)",
                    "DECIMAL_TEXT(30,10)",
                    "FLOAT4",
                    "REAL",
                    "DOUBLE PRECISION",
                    "CHARACTER(8)",
                    "VARCHAR(40)",
                    "TEXT",
                    "BINARY(8)",
                    "VARBINARY(40)",
                    "BLOB",
                    "DATE",
                    "TIME(6)",
                    "TIMESTAMP(6)",
                    "DATETIME",
                    "TIMESTAMP_WITH_TIME_ZONE(6)",
                    "DURATION_TEXT",
                    "UUID_TEXT",
                    "JSON_TEXT",
                    "XML_TEXT",
                    "INTEGER ARRAY",
                    "");
        }

        /** Other words that people and other systems have for them. */
        @Override
        public List<String> others() {
            return List.of(
                    "BOOL",
                    "INT",
                    "INT2",
                    "INT8",
                    "BIG INT",
                    "MEDIUMINT",
                    "UNSIGNED BIG INT",
                    "CHAR(8)",
                    "NCHAR(8)",
                    "NATIVE CHARACTER(8)",
                    "NVARCHAR(40)",
                    "CHARACTER VARYING(40)",
                    "VARYING CHARACTER(40)",
                    "CLOB",
                    "FLOAT",
                    "DOUBLE",
                    "TIMESTAMPTZ",
                    "UUID",
                    "JSON",
                    "XML_TEXT");
        }

        /** SQLite takes any words; those that aren't its own stand in quotes, where they can't be anything else. */
        @Override
        public Optional<String> held(String own) {
            return TypeMapping.super.held(own).or(() -> Optional.of(quoted(own)));
        }
    };

    private SqliteTypes() {}

    private static String quoted(String words) {
        return '"' + words.replace("\"", "\"\"").replace("\0", "") + '"';
    }

    static String sql(LogicalType type) {
        return switch (type.name()) {
            case INTEGER -> "INT4";
            case DECIMAL ->
                !type.isSized()
                        ? "DECIMAL_TEXT"
                        : (type.size() > SAFE_DIGITS ? "DECIMAL_TEXT" : "DECIMAL") + "(" + type.size() + ","
                                + Math.max(0, type.scale()) + ")";
            case REAL -> "FLOAT4";
            case VARCHAR -> type.isSized() ? "VARCHAR(" + type.size() + ")" : "VARCHAR";
            case VARBINARY -> type.isSized() ? "VARBINARY(" + type.size() + ")" : "VARBINARY";
            case CLOB -> "TEXT";
            case BLOB -> "BLOB";
            case INTERVAL -> "DURATION_TEXT";
            case UUID -> "UUID_TEXT";
            case JSON -> "JSON_TEXT";
            case XML -> "XML_TEXT";
            // WITH is a keyword where SQLite reads types, and parentheses can stand only at the end
            case TIMESTAMP_WITH_TIME_ZONE ->
                "TIMESTAMP_WITH_TIME_ZONE" + (type.isSized() ? "(" + type.size() + ")" : "");
            case ARRAY -> '"' + type.toString() + '"';
            default -> type.toString();
        };
    }

    /** The logical type of a declared one; where the words say nothing, by SQLite's own rules of affinity. */
    static LogicalType logical(String declared) {
        String upper = declared == null ? "" : declared.strip().toUpperCase(Locale.ROOT);
        if (upper.endsWith(" ARRAY")) {
            return LogicalType.parse(upper);
        }
        Matcher matcher = DECLARED.matcher(upper);
        if (!matcher.matches()) {
            return byAffinity(upper);
        }
        int size = number(matcher.group(2));
        int scale = number(matcher.group(3));
        return switch (matcher.group(1)) {
            case "BOOLEAN", "BOOL" -> LogicalType.BOOLEAN;
            case "SMALLINT", "INT2", "TINYINT" -> LogicalType.SMALLINT;
            case "INT4" -> LogicalType.INTEGER;
            case "DECIMAL", "NUMERIC", "DECIMAL_TEXT" ->
                size == LogicalType.UNBOUNDED
                        ? LogicalType.of(TypeName.DECIMAL)
                        : LogicalType.decimal(size, Math.max(0, scale));
            case "FLOAT4" -> LogicalType.REAL;
            case "CHARACTER", "CHAR", "NCHAR" -> sized(TypeName.CHARACTER, size, LogicalType.CLOB);
            case "VARCHAR", "CHARACTER VARYING", "NVARCHAR" ->
                size == LogicalType.UNBOUNDED ? LogicalType.of(TypeName.VARCHAR) : LogicalType.varchar(size);
            case "BINARY" -> sized(TypeName.BINARY, size, LogicalType.BLOB);
            case "VARBINARY" -> LogicalType.of(TypeName.VARBINARY, size);
            case "DATE" -> LogicalType.DATE;
            case "TIME" -> LogicalType.of(TypeName.TIME, size);
            case "TIMESTAMP", "DATETIME" -> LogicalType.of(TypeName.TIMESTAMP, size);
            case "TIMESTAMP_WITH_TIME_ZONE", "TIMESTAMPTZ" -> LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, size);
            case "DURATION_TEXT" -> LogicalType.INTERVAL;
            case "UUID_TEXT", "UUID" -> LogicalType.UUID;
            case "JSON_TEXT", "JSON" -> LogicalType.JSON;
            case "XML_TEXT" -> LogicalType.XML;
            default -> byAffinity(upper);
        };
    }

    private static LogicalType sized(TypeName name, int size, LogicalType otherwise) {
        return size == LogicalType.UNBOUNDED ? otherwise : LogicalType.of(name, size);
    }

    /** Section 3.1 of SQLite's "Datatypes In SQLite"; its integers have 64 bits and its reals are doubles. */
    private static LogicalType byAffinity(String declared) {
        if (declared.contains("INT")) {
            return LogicalType.BIGINT;
        }
        if (declared.contains("CHAR") || declared.contains("CLOB") || declared.contains("TEXT")) {
            return LogicalType.CLOB;
        }
        if (declared.contains("BLOB")) {
            return LogicalType.BLOB;
        }
        if (declared.contains("REAL") || declared.contains("FLOA") || declared.contains("DOUB")) {
            return LogicalType.DOUBLE;
        }
        return declared.isEmpty() ? LogicalType.CLOB : LogicalType.of(TypeName.DECIMAL);
    }

    private static int number(String digits) {
        return digits == null ? LogicalType.UNBOUNDED : Integer.parseInt(digits);
    }
}
