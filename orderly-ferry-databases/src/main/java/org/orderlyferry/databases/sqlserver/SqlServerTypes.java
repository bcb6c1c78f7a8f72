package org.orderlyferry.databases.sqlserver;

import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** SQL Server's types as logical types, and back. */
final class SqlServerTypes {

    static final int MOST_DIGITS = 38;
    /** Digits behind the point of a decimal of which nothing is said. */
    static final int USUAL_SCALE = 10;
    /** Units of UTF-16 that a text with a length holds. */
    static final int LONGEST_TEXT = 4_000;

    static final int LONGEST_BYTES = 8_000;
    /** Units of UTF-16 for which a clustered key has room: 900 bytes. */
    static final int KEY_TEXT = 450;

    static final int KEY_BYTES = 900;
    /** Digits of a second's fraction. */
    static final int FRACTION = 7;

    private static final int MONEY_DIGITS = 19;
    private static final int SMALL_MONEY_DIGITS = 10;
    private static final int MONEY_SCALE = 4;
    private static final int USUAL_DIGITS = 18;
    private static final int SINGLE = 24;
    private static final int NAME_LENGTH = 128;

    private static final Pattern OWN =
            Pattern.compile("([a-z0-9_ ]+?)\\s*(?:\\(\\s*(\\w+)\\s*(?:,\\s*(\\d+)\\s*)?\\))?");

    static final TypeMapping MAPPING = new TypeMapping() {
        @Override
        public LogicalType logical(String own) {
            return SqlServerTypes.logical(own);
        }

        @Override
        public String own(LogicalType type) {
            return sql(type);
        }

        @Override
        public List<String> examples() {
            return List.of(
                    "bit",
                    "tinyint",
                    "smallint",
                    "int",
                    "bigint",
                    "decimal(12,2)",
                    "numeric(12,2)",
                    "money",
                    "smallmoney",
                    "real",
                    "float",
                    "char(8)",
                    "varchar(40)",
                    "varchar(max)",
                    "nchar(8)",
                    "nvarchar(40)",
                    "nvarchar(max)",
                    "text",
                    "ntext",
                    "sysname",
                    "binary(8)",
                    "varbinary(40)",
                    "varbinary(max)",
                    "image",
                    "rowversion",
                    "date",
                    "time(3)",
                    "smalldatetime",
                    "datetime",
                    "datetime2(6)",
                    "datetimeoffset(6)",
                    "uniqueidentifier",
                    "xml");
        }

        @Override
        public List<String> others() {
            return List.of("sql_variant", "hierarchyid", "geometry", "geography", "json", "vector");
        }
    };

    private SqlServerTypes() {}

    static LogicalType logical(String own) {
        Matcher matcher = OWN.matcher(own.toLowerCase(Locale.ROOT).strip());
        if (!matcher.matches()) {
            return LogicalType.CLOB;
        }
        boolean max = "max".equals(matcher.group(2));
        int size = number(matcher.group(2), -1);
        return switch (matcher.group(1)) {
            case "bit" -> LogicalType.BOOLEAN;
            case "tinyint", "smallint" -> LogicalType.SMALLINT;
            case "int" -> LogicalType.INTEGER;
            case "bigint" -> LogicalType.BIGINT;
            case "decimal", "numeric" ->
                LogicalType.decimal(size < 0 ? USUAL_DIGITS : size, number(matcher.group(3), 0));
            case "money" -> LogicalType.decimal(MONEY_DIGITS, MONEY_SCALE);
            case "smallmoney" -> LogicalType.decimal(SMALL_MONEY_DIGITS, MONEY_SCALE);
            case "real" -> LogicalType.REAL;
            case "float" -> size > 0 && size <= SINGLE ? LogicalType.REAL : LogicalType.DOUBLE;
            case "char", "nchar" -> LogicalType.of(TypeName.CHARACTER, Math.max(1, size));
            case "varchar", "nvarchar" -> max ? LogicalType.CLOB : LogicalType.varchar(Math.max(1, size));
            case "sysname" -> LogicalType.varchar(NAME_LENGTH);
            case "binary" -> LogicalType.of(TypeName.BINARY, Math.max(1, size));
            case "varbinary" -> max ? LogicalType.BLOB : LogicalType.of(TypeName.VARBINARY, Math.max(1, size));
            case "rowversion", "timestamp" -> LogicalType.of(TypeName.BINARY, Long.BYTES);
            case "image", "geometry", "geography", "hierarchyid" -> LogicalType.BLOB;
            case "date" -> LogicalType.DATE;
            case "time" -> timed(TypeName.TIME, size);
            case "smalldatetime" -> LogicalType.of(TypeName.TIMESTAMP, 0);
            case "datetime" -> LogicalType.of(TypeName.TIMESTAMP, 3);
            case "datetime2" -> timed(TypeName.TIMESTAMP, size);
            case "datetimeoffset" -> timed(TypeName.TIMESTAMP_WITH_TIME_ZONE, size);
            case "uniqueidentifier" -> LogicalType.UUID;
            case "xml" -> LogicalType.XML;
            case "json" -> LogicalType.JSON;
            default -> LogicalType.CLOB;
        };
    }

    private static LogicalType timed(TypeName name, int size) {
        return LogicalType.of(name, size < 0 ? FRACTION : size);
    }

    private static int number(String digits, int otherwise) {
        return digits != null && digits.matches("\\d{1,4}") ? Integer.parseInt(digits) : otherwise;
    }

    /** The decimal nearest to one that SQL Server may have none for. */
    static LogicalType widest(LogicalType type) {
        return !type.isSized()
                ? LogicalType.decimal(MOST_DIGITS, USUAL_SCALE)
                : LogicalType.decimal(
                        Math.min(MOST_DIGITS, type.size()), Math.min(MOST_DIGITS, Math.max(0, type.scale())));
    }

    static String sql(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> "bit";
            case SMALLINT -> "smallint";
            case INTEGER -> "int";
            case BIGINT -> "bigint";
            case DECIMAL ->
                "decimal(" + widest(type).size() + "," + widest(type).scale() + ")";
            case REAL -> "real";
            case DOUBLE -> "float";
            case CHARACTER -> type.size() <= LONGEST_TEXT ? "nchar(" + type.size() + ")" : "nvarchar(max)";
            case VARCHAR ->
                type.isSized() && type.size() <= LONGEST_TEXT ? "nvarchar(" + type.size() + ")" : "nvarchar(max)";
            case BINARY -> type.size() <= LONGEST_BYTES ? "binary(" + type.size() + ")" : "varbinary(max)";
            case VARBINARY ->
                type.isSized() && type.size() <= LONGEST_BYTES ? "varbinary(" + type.size() + ")" : "varbinary(max)";
            case BLOB -> "varbinary(max)";
            case DATE -> "date";
            case TIME -> "time(" + fraction(type) + ")";
            case TIMESTAMP -> "datetime2(" + fraction(type) + ")";
            case TIMESTAMP_WITH_TIME_ZONE -> "datetimeoffset(" + fraction(type) + ")";
            case INTERVAL -> "nvarchar(64)";
            case UUID -> "uniqueidentifier";
            // its xml keeps neither a declaration nor blanks, and a text keeps all
            default -> "nvarchar(max)";
        };
    }

    private static int fraction(LogicalType type) {
        return type.isSized() ? Math.min(FRACTION, type.size()) : FRACTION;
    }
}
