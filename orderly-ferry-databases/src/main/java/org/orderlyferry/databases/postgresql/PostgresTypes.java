package org.orderlyferry.databases.postgresql;

import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** PostgreSQL's types as logical types, and back. */
final class PostgresTypes {

    /** The most digits of a second's fraction. */
    static final int FRACTION = 6;

    private static final int NAME_LENGTH = 63;
    private static final Pattern FORMATTED =
            Pattern.compile("([a-z\" ]+?)(?:\\((-?\\d+)(?:,(-?\\d+))?\\))?( without time zone| with time zone)?");

    /** Types that travel under a logical type of their own; the values of all others are carried as text. */
    private static final Set<String> KNOWN = Set.of(
            "boolean",
            "smallint",
            "integer",
            "bigint",
            "oid",
            "numeric",
            "money",
            "real",
            "double precision",
            "character",
            "character varying",
            "text",
            "name",
            "bytea",
            "date",
            "time without time zone",
            "timestamp without time zone",
            "timestamp with time zone",
            "interval",
            "uuid",
            "json",
            "jsonb",
            "xml",
            "bpchar");

    /** Of amounts: what fits in 64 bits, as most currencies have it. */
    private static final int MONEY_DIGITS = 19;

    private static final int MONEY_SCALE = 2;

    /** The mapping as others see it. */
    static final TypeMapping MAPPING = new TypeMapping() {
        @Override
        public LogicalType logical(String own) {
            return PostgresTypes.logical(own);
        }

        @Override
        public String own(LogicalType type) {
            return sql(type);
        }

        @Override
        public List<String> examples() {
            return List.of(
                    "boolean",
                    "smallint",
                    "integer",
                    "bigint",
                    "oid",
                    "numeric",
                    "numeric(12,2)",
                    "numeric(5,-2)",
                    "real",
                    "double precision",
                    "money",
                    "character(8)",
                    "character varying(40)",
                    "character varying",
                    "text",
                    "name",
                    "bytea",
                    "date",
                    "time without time zone",
                    "time(3) without time zone",
                    "time with time zone",
                    "timestamp without time zone",
                    "timestamp(3) without time zone",
                    "timestamp with time zone",
                    "interval",
                    "uuid",
                    "json",
                    "jsonb",
                    "xml",
                    "integer[]",
                    "text[]",
                    "inet",
                    "cidr",
                    "macaddr",
                    "bit(8)",
                    "bit varying(8)",
                    "point",
                    "box",
                    "tsvector",
                    "int4range",
                    "pg_lsn");
        }

        @Override
        public List<String> others() {
            return List.of(
                    "\"char\"",
                    "bpchar",
                    "bit",
                    "line",
                    "lseg",
                    "path",
                    "polygon",
                    "circle",
                    "macaddr8",
                    "tsquery",
                    "jsonpath",
                    "xid",
                    "xid8",
                    "cid",
                    "tid",
                    "regclass",
                    "regtype",
                    "regproc",
                    "regconfig",
                    "refcursor",
                    "int8range",
                    "numrange",
                    "tsrange",
                    "tstzrange",
                    "daterange",
                    "int4multirange",
                    "int8multirange",
                    "nummultirange",
                    "tsmultirange",
                    "tstzmultirange",
                    "datemultirange",
                    "pg_snapshot",
                    "txid_snapshot",
                    "interval day to second",
                    "interval year to month",
                    "interval year",
                    "interval month",
                    "interval day",
                    "interval hour",
                    "interval minute",
                    "interval second",
                    "interval hour to minute",
                    "interval hour to second",
                    "interval minute to second",
                    "interval day to hour",
                    "interval day to minute");
        }
    };

    private PostgresTypes() {}

    private record Parsed(String name, int size, int scale) {}

    private static Parsed parse(String formatted) {
        Matcher matcher = FORMATTED.matcher(formatted);
        if (!matcher.matches()) {
            return new Parsed(formatted, LogicalType.UNBOUNDED, LogicalType.UNBOUNDED);
        }
        String zone = matcher.group(4) == null ? "" : matcher.group(4);
        return new Parsed(matcher.group(1) + zone, number(matcher.group(2)), number(matcher.group(3)));
    }

    private static int number(String digits) {
        return digits == null ? LogicalType.UNBOUNDED : Integer.parseInt(digits);
    }

    /** Whether a type, as {@code format_type} writes it, has no logical type of its own. */
    static boolean isCarriedAsText(String formatted) {
        return !formatted.isEmpty()
                && !formatted.endsWith("[]")
                && !KNOWN.contains(parse(formatted).name());
    }

    /** Whether a type, as {@code format_type} writes it, is the system's own, or an array of such. */
    private static boolean isBuiltIn(String formatted) {
        String element = formatted.endsWith("[]") ? formatted.substring(0, formatted.length() - 2) : formatted;
        return MAPPING.held(element).isPresent();
    }

    /**
     * The expression that gives a value's text. Of a type that somebody made it is written by the type itself: a cast to
     * text may be a function of theirs, which would be run with the rights of who reads.
     *
     * @param name what gives the value
     */
    static String text(String formatted, String name) {
        return isBuiltIn(formatted)
                ? name + "::text"
                : "CASE WHEN num_nulls(" + name + ") = 0 THEN concat(" + name + ") END::text";
    }

    /** The expression that gives an array's elements as texts, likewise. */
    static String texts(String formatted, String name) {
        if (isBuiltIn(formatted)) {
            return name + "::text[]";
        }
        String text = "NULLIF(concat(" + name + "), '')";
        // between boxes stands another sign than between all else
        return "CASE WHEN (SELECT typdelim = ';' FROM pg_type WHERE oid = pg_typeof(" + name + ")) THEN " + text
                + "::box[]::text[] ELSE " + text + "::text[] END";
    }

    /** The logical type of a type as {@code format_type} writes it, for example {@code character varying(40)}. */
    static LogicalType logical(String formatted) {
        if (formatted.endsWith("[]")) {
            return LogicalType.arrayOf(logical(formatted.substring(0, formatted.length() - 2)));
        }
        Parsed type = parse(formatted);
        int fraction = type.size() == LogicalType.UNBOUNDED ? FRACTION : type.size();
        return switch (type.name()) {
            case "boolean" -> LogicalType.BOOLEAN;
            case "smallint" -> LogicalType.SMALLINT;
            case "integer" -> LogicalType.INTEGER;
            case "bigint", "oid" -> LogicalType.BIGINT;
            case "numeric" ->
                type.size() == LogicalType.UNBOUNDED || type.scale() < 0
                        ? LogicalType.of(TypeName.DECIMAL)
                        : LogicalType.decimal(type.size(), type.scale());
            case "money" -> LogicalType.decimal(MONEY_DIGITS, MONEY_SCALE);
            case "real" -> LogicalType.REAL;
            case "double precision" -> LogicalType.DOUBLE;
            case "character" -> LogicalType.of(TypeName.CHARACTER, Math.max(1, type.size()));
            case "character varying" -> LogicalType.of(TypeName.VARCHAR, type.size());
            case "name" -> LogicalType.varchar(NAME_LENGTH);
            case "bytea" -> LogicalType.BLOB;
            case "date" -> LogicalType.DATE;
            case "time without time zone" -> LogicalType.of(TypeName.TIME, fraction);
            case "timestamp without time zone" -> LogicalType.of(TypeName.TIMESTAMP, fraction);
            case "timestamp with time zone" -> LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, fraction);
            case "interval" -> LogicalType.INTERVAL;
            case "uuid" -> LogicalType.UUID;
            case "json", "jsonb" -> LogicalType.JSON;
            case "xml" -> LogicalType.XML;
            default -> LogicalType.CLOB;
        };
    }

    /** The logical type of a query's column, by the driver's short names. */
    static LogicalType ofQuery(String name, int precision, int scale) {
        if (name.startsWith("_")) {
            return LogicalType.arrayOf(ofQuery(name.substring(1), 0, 0));
        }
        return switch (name) {
            case "bool" -> LogicalType.BOOLEAN;
            case "int2" -> LogicalType.SMALLINT;
            case "int4", "serial" -> LogicalType.INTEGER;
            case "int8", "bigserial", "oid" -> LogicalType.BIGINT;
            case "numeric" -> precision > 0 ? LogicalType.decimal(precision, scale) : LogicalType.of(TypeName.DECIMAL);
            case "float4" -> LogicalType.REAL;
            case "float8" -> LogicalType.DOUBLE;
            case "bpchar" -> LogicalType.of(TypeName.CHARACTER, precision);
            case "varchar" ->
                precision > 0 && precision < Integer.MAX_VALUE
                        ? LogicalType.varchar(precision)
                        : LogicalType.of(TypeName.VARCHAR);
            case "time" -> logical("time without time zone");
            case "timestamp" -> logical("timestamp without time zone");
            case "timestamptz" -> logical("timestamp with time zone");
            default -> logical(name);
        };
    }

    static String sql(LogicalType type) {
        return switch (type.name()) {
            case DECIMAL ->
                type.isSized() ? "NUMERIC(" + type.size() + "," + Math.max(0, type.scale()) + ")" : "NUMERIC";
            case CLOB -> "TEXT";
            case BINARY, VARBINARY, BLOB -> "BYTEA";
            case TIME -> "TIME" + fraction(type);
            case TIMESTAMP -> "TIMESTAMP" + fraction(type);
            case TIMESTAMP_WITH_TIME_ZONE -> "TIMESTAMP" + fraction(type) + " WITH TIME ZONE";
            case ARRAY -> sql(type.element()) + "[]";
            default -> type.toString();
        };
    }

    private static String fraction(LogicalType type) {
        return type.isSized() ? "(" + Math.min(FRACTION, type.size()) + ")" : "";
    }
}
