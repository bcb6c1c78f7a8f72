package org.orderlyferry.databases.h2;

import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** H2's types as logical types, and back. */
final class H2Types {

    /** Above this, H2 means that no length was declared. */
    private static final long LONGEST = 1_048_576;

    private static final int LARGEST_PRECISION = 100_000;
    private static final int MOST_FRACTION = 9;

    /** Types with no logical type of their own: their values are carried as H2 writes them. */
    private static final Set<String> AS_TEXT = Set.of("GEOMETRY", "TIME WITH TIME ZONE", "ROW", "INTERVAL");

    /** The mapping as others see it. */
    static final TypeMapping MAPPING = new TypeMapping() {
        @Override
        public LogicalType logical(String own) {
            return H2Types.logical(own);
        }

        @Override
        public String own(LogicalType type) {
            return sql(type);
        }

        @Override
        public List<String> examples() {
            return List.of(
                    "BOOLEAN",
                    "TINYINT",
                    "SMALLINT",
                    "INTEGER",
                    "BIGINT",
                    "NUMERIC(12, 2)",
                    "DECFLOAT(34)",
                    "REAL",
                    "DOUBLE PRECISION",
                    "CHARACTER(8)",
                    "CHARACTER VARYING(40)",
                    "CHARACTER VARYING(1048576)",
                    "VARCHAR_IGNORECASE(40)",
                    "CHARACTER LARGE OBJECT",
                    "BINARY(8)",
                    "BINARY VARYING(40)",
                    "BINARY LARGE OBJECT",
                    "DATE",
                    "TIME(0)",
                    "TIME(6)",
                    "TIME(0) WITH TIME ZONE",
                    "TIMESTAMP(6)",
                    "TIMESTAMP(9)",
                    "TIMESTAMP(6) WITH TIME ZONE",
                    "INTERVAL DAY(9) TO SECOND(6)",
                    "UUID",
                    "JSON",
                    "ENUM('moss', 'fern')",
                    "GEOMETRY",
                    "INTEGER ARRAY",
                    "JAVA_OBJECT");
        }

        @Override
        public List<String> others() {
            return List.of(
                    "TIME WITH TIME ZONE",
                    "INTERVAL YEAR",
                    "INTERVAL MONTH",
                    "INTERVAL DAY",
                    "INTERVAL HOUR",
                    "INTERVAL MINUTE",
                    "INTERVAL SECOND",
                    "INTERVAL YEAR TO MONTH",
                    "INTERVAL DAY TO HOUR",
                    "INTERVAL DAY TO MINUTE",
                    "INTERVAL HOUR TO MINUTE",
                    "INTERVAL HOUR TO SECOND",
                    "INTERVAL MINUTE TO SECOND",
                    "CHARACTER VARYING ARRAY",
                    "BIGINT ARRAY",
                    "DECIMAL",
                    "FLOAT");
        }
    };

    private static final Pattern OWN =
            Pattern.compile("([A-Z_ ]+?)(?:\\(\\s*(\\d+)\\s*(?:,\\s*(\\d+)\\s*)?\\))?( WITH TIME ZONE)?");

    private H2Types() {}

    /** The logical type of a type as it stands in CREATE TABLE. */
    static LogicalType logical(String own) {
        Matcher matcher = OWN.matcher(own);
        if (!matcher.matches()) {
            return logical(own.replaceFirst("[( ].*", ""), LONGEST, 0, 0);
        }
        String name = matcher.group(1) + (matcher.group(4) == null ? "" : matcher.group(4));
        int size = matcher.group(2) == null ? (int) LONGEST : Integer.parseInt(matcher.group(2));
        int scale = matcher.group(3) == null ? 0 : Integer.parseInt(matcher.group(3));
        return logical(name, size, scale, size);
    }

    /**
     * The logical type of a column.
     *
     * @param name the type's name, such as {@code CHARACTER VARYING}
     * @param size length or precision
     * @param scale digits behind the point
     * @param fraction digits of a second's fraction
     */
    static LogicalType logical(String name, long size, int scale, int fraction) {
        return switch (name) {
            case "BOOLEAN" -> LogicalType.BOOLEAN;
            case "TINYINT", "SMALLINT" -> LogicalType.SMALLINT;
            case "INTEGER" -> LogicalType.INTEGER;
            case "BIGINT" -> LogicalType.BIGINT;
            case "NUMERIC", "DECIMAL" -> LogicalType.decimal((int) size, scale);
            case "DECFLOAT" -> LogicalType.of(TypeName.DECIMAL);
            case "REAL" -> LogicalType.REAL;
            case "DOUBLE PRECISION", "FLOAT" -> LogicalType.DOUBLE;
            case "CHARACTER" -> LogicalType.of(TypeName.CHARACTER, (int) size);
            case "CHARACTER VARYING", "VARCHAR_IGNORECASE" -> sized(TypeName.VARCHAR, size);
            case "CHARACTER LARGE OBJECT" -> LogicalType.CLOB;
            case "BINARY" -> LogicalType.of(TypeName.BINARY, (int) size);
            case "BINARY VARYING" -> sized(TypeName.VARBINARY, size);
            case "BINARY LARGE OBJECT", "JAVA_OBJECT" -> LogicalType.BLOB;
            case "DATE" -> LogicalType.DATE;
            case "TIME" -> LogicalType.of(TypeName.TIME, fraction);
            case "TIMESTAMP" -> LogicalType.of(TypeName.TIMESTAMP, fraction);
            case "TIMESTAMP WITH TIME ZONE" -> LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, fraction);
            case "UUID" -> LogicalType.UUID;
            case "JSON" -> LogicalType.JSON;
            default -> LogicalType.of(TypeName.VARCHAR);
        };
    }

    private static LogicalType sized(TypeName name, long size) {
        return size >= LONGEST ? LogicalType.of(name) : LogicalType.of(name, (int) size);
    }

    static boolean isCarriedAsText(String sourceType) {
        return AS_TEXT.stream().anyMatch(sourceType::startsWith);
    }

    /** The type as H2's SQL has it. */
    static String sql(LogicalType type) {
        return switch (type.name()) {
            case DECIMAL ->
                type.isSized() && type.size() <= LARGEST_PRECISION
                        ? "NUMERIC(" + type.size() + ", " + Math.max(0, type.scale()) + ")"
                        : "DECFLOAT";
            case INTERVAL, XML -> "CHARACTER LARGE OBJECT";
            // without a size, H2 keeps no or few digits of a second's fraction
            case TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                (type.isSized() ? type : LogicalType.of(type.name(), MOST_FRACTION)).toString();
            case ARRAY -> "JSON";
            default -> type.toString();
        };
    }
}
