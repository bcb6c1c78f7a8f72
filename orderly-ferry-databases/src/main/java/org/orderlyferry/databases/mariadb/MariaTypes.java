package org.orderlyferry.databases.mariadb;

import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** MariaDB's types as logical types, and back. */
final class MariaTypes {

    /** The most digits of a second's fraction. */
    static final int FRACTION = 6;

    static final int MOST_DIGITS = 65;
    static final int MOST_SCALE = 38;
    /** Characters of a VARCHAR, at four bytes each, that a row has room for. */
    static final int LONGEST_VARCHAR = 16_000;

    static final int LONGEST_CHAR = 255;

    private static final Pattern COLUMN_TYPE = Pattern.compile("([a-z0-9]+)(?:\\(([^)]*)\\))?(.*)");
    private static final int UNSIGNED_BIGINT_DIGITS = 20;

    /** The mapping as others see it. */
    static final TypeMapping MAPPING = new TypeMapping() {
        @Override
        public LogicalType logical(String own) {
            return MariaTypes.logical(own, own.equals("json"));
        }

        @Override
        public String own(LogicalType type) {
            return sql(type);
        }

        @Override
        public List<String> examples() {
            return List.of(
                    "tinyint(1)",
                    "tinyint(4)",
                    "tinyint(3) unsigned",
                    "smallint(6)",
                    "smallint(5) unsigned",
                    "mediumint(9)",
                    "mediumint(8) unsigned",
                    "int(11)",
                    "int(10) unsigned",
                    "bigint(20)",
                    "bigint(20) unsigned",
                    "decimal(12,2)",
                    "decimal(12,2) unsigned",
                    "float",
                    "double",
                    "bit(1)",
                    "bit(8)",
                    "char(8)",
                    "varchar(40)",
                    "tinytext",
                    "text",
                    "mediumtext",
                    "longtext",
                    "binary(8)",
                    "varbinary(40)",
                    "tinyblob",
                    "blob",
                    "mediumblob",
                    "longblob",
                    "date",
                    "time",
                    "time(6)",
                    "datetime",
                    "datetime(6)",
                    "timestamp",
                    "timestamp(6)",
                    "year(4)",
                    "enum('moss','fern')",
                    "set('dry','wet')",
                    "json",
                    "uuid",
                    "inet4",
                    "inet6",
                    "point",
                    "geometry");
        }

        @Override
        public List<String> others() {
            List<String> others = new java.util.ArrayList<>(List.of(
                    "linestring",
                    "polygon",
                    "multipoint",
                    "multilinestring",
                    "multipolygon",
                    "geometrycollection",
                    "vector",
                    "xmltype"));
            for (String number :
                    List.of("tinyint", "smallint", "mediumint", "int", "bigint", "decimal", "float", "double")) {
                others.add(number + " unsigned");
                others.add(number + " unsigned zerofill");
            }
            return others;
        }
    };

    /** What years are carried as. */
    static final LogicalType YEAR = LogicalType.of(TypeName.CHARACTER, 4);

    private MariaTypes() {}

    /** The type nearest to a decimal that MariaDB has none for. */
    static LogicalType widest(LogicalType type) {
        return type.isSized()
                ? LogicalType.decimal(
                        Math.min(MOST_DIGITS, type.size()), Math.min(MOST_SCALE, Math.max(0, type.scale())))
                : LogicalType.decimal(MOST_DIGITS, 30);
    }

    /** Whether a type, as the catalogue writes it, has no logical type of its own. */
    static boolean isCarriedAsText(String columnType) {
        String name = columnType.replaceFirst("[( ].*", "");
        return switch (name) {
            case "set", "year", "inet4", "inet6" -> true;
            default -> false;
        };
    }

    /** The logical type of a column type, for example {@code decimal(12,2) unsigned}. */
    static LogicalType logical(String columnType, boolean json) {
        Matcher matcher = COLUMN_TYPE.matcher(columnType.toLowerCase(Locale.ROOT));
        if (!matcher.matches()) {
            return LogicalType.CLOB;
        }
        String[] parameters =
                matcher.group(2) == null ? new String[0] : matcher.group(2).split(",");
        boolean unsigned = matcher.group(3).contains("unsigned");
        return switch (matcher.group(1)) {
            case "tinyint" -> number(parameters, 0, 4) == 1 ? LogicalType.BOOLEAN : LogicalType.SMALLINT;
            case "bit" -> number(parameters, 0, 1) == 1 ? LogicalType.BOOLEAN : LogicalType.BLOB;
            case "smallint" -> unsigned ? LogicalType.INTEGER : LogicalType.SMALLINT;
            case "mediumint" -> LogicalType.INTEGER;
            case "int" -> unsigned ? LogicalType.BIGINT : LogicalType.INTEGER;
            case "bigint" -> unsigned ? LogicalType.decimal(UNSIGNED_BIGINT_DIGITS, 0) : LogicalType.BIGINT;
            case "decimal" -> LogicalType.decimal(number(parameters, 0, 10), number(parameters, 1, 0));
            case "float" -> LogicalType.REAL;
            case "double" -> LogicalType.DOUBLE;
            case "char" -> LogicalType.of(TypeName.CHARACTER, number(parameters, 0, 1));
            case "varchar" -> LogicalType.varchar(number(parameters, 0, 1));
            case "binary" -> LogicalType.of(TypeName.BINARY, number(parameters, 0, 1));
            case "varbinary" -> LogicalType.of(TypeName.VARBINARY, number(parameters, 0, 1));
            case "tinyblob", "blob", "mediumblob", "longblob", "geometry", "point", "polygon", "linestring" ->
                LogicalType.BLOB;
            case "date" -> LogicalType.DATE;
            case "time" -> LogicalType.of(TypeName.TIME, number(parameters, 0, 0));
            case "datetime" -> LogicalType.of(TypeName.TIMESTAMP, number(parameters, 0, 0));
            case "timestamp" -> LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, number(parameters, 0, 0));
            case "uuid" -> LogicalType.UUID;
            case "json" -> LogicalType.JSON;
            case "year" -> YEAR;
            default -> json ? LogicalType.JSON : LogicalType.CLOB;
        };
    }

    private static int number(String[] parameters, int index, int otherwise) {
        return index < parameters.length ? Integer.parseInt(parameters[index].strip()) : otherwise;
    }

    /** The logical type of a query's column, by the driver's names. */
    static LogicalType ofQuery(String name, int precision, int scale) {
        String lower = name.toLowerCase(Locale.ROOT);
        boolean sized = lower.equals("varchar") || lower.equals("char") || lower.startsWith("decimal");
        return switch (lower) {
            // what the driver takes for truth values may be other numbers, and the query isn't run to find out
            case "boolean" -> LogicalType.SMALLINT;
            case "bit" -> logical("bit(" + precision + ")", false);
            case "integer", "integer unsigned" -> logical(lower.replace("integer", "int"), false);
            case "datetime", "timestamp", "time" -> logical(lower + "(" + FRACTION + ")", false);
            default ->
                logical(
                        sized
                                ? lower + "(" + precision + (lower.startsWith("decimal") ? "," + scale : "") + ")"
                                : lower,
                        false);
        };
    }

    static String sql(LogicalType type) {
        return switch (type.name()) {
            case DECIMAL ->
                type.isSized()
                        ? "DECIMAL(" + Math.min(MOST_DIGITS, type.size()) + ","
                                + Math.min(MOST_SCALE, Math.max(0, type.scale())) + ")"
                        : "DECIMAL(" + MOST_DIGITS + ",30)";
            case REAL -> "FLOAT";
            case DOUBLE -> "DOUBLE";
            case CHARACTER -> (type.size() > LONGEST_CHAR ? "VARCHAR(" : "CHAR(") + type.size() + ")";
            case VARCHAR ->
                type.isSized() && type.size() <= LONGEST_VARCHAR ? "VARCHAR(" + type.size() + ")" : "LONGTEXT";
            case CLOB, XML -> "LONGTEXT";
            case BINARY -> (type.size() > LONGEST_CHAR ? "VARBINARY(" : "BINARY(") + type.size() + ")";
            case VARBINARY ->
                type.isSized() && type.size() <= LONGEST_VARCHAR ? "VARBINARY(" + type.size() + ")" : "LONGBLOB";
            case BLOB -> "LONGBLOB";
            case TIME -> "TIME" + fraction(type);
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> "DATETIME" + fraction(type);
            case INTERVAL -> "VARCHAR(64)";
            case ARRAY -> "JSON";
            // MariaDB's UUID refuses identifiers of a variant that it doesn't know
            case UUID -> "CHAR(36)";
            default -> type.toString();
        };
    }

    static String fraction(LogicalType type) {
        return "(" + (type.isSized() ? Math.min(FRACTION, type.size()) : FRACTION) + ")";
    }
}
