package org.orderlyferry.databases.oracle;

import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** Oracle's types as logical types, and back. */
final class OracleTypes {

    static final int MOST_DIGITS = 38;
    /** Bytes of a VARCHAR2, and so characters of one byte. */
    static final int LONGEST_TEXT = 4_000;
    /** Characters of a CHAR, at four bytes each. */
    static final int LONGEST_CHAR = 500;

    static final int LONGEST_BYTES = 2_000;
    /** Characters, at four bytes each, for which a key has room. */
    static final int KEY_TEXT = 1_000;

    static final int FRACTION = 9;

    private static final int USUAL_FRACTION = 6;
    private static final int BOOLEAN_DIGITS = 1;
    private static final int SMALLINT_DIGITS = 5;
    private static final int INTEGER_DIGITS = 10;
    private static final int BIGINT_DIGITS = 19;

    private static final Pattern OWN =
            Pattern.compile("([A-Z0-9_ ]+?)\\s*(?:\\(\\s*(\\*|\\d+)\\s*(?:,\\s*(-?\\d+)\\s*)?(?:BYTE|CHAR)?\\s*\\))?"
                    + "( WITH (?:LOCAL )?TIME ZONE)?");

    static final TypeMapping MAPPING = new TypeMapping() {
        @Override
        public LogicalType logical(String own) {
            return OracleTypes.logical(own);
        }

        @Override
        public String own(LogicalType type) {
            return sql(type);
        }

        @Override
        public List<String> examples() {
            return List.of(
                    "NUMBER",
                    "NUMBER(10)",
                    "NUMBER(12,2)",
                    "FLOAT(126)",
                    "BINARY_FLOAT",
                    "BINARY_DOUBLE",
                    "BOOLEAN",
                    "CHAR(8)",
                    "VARCHAR2(40)",
                    "NCHAR(8)",
                    "NVARCHAR2(40)",
                    "CLOB",
                    "NCLOB",
                    "LONG",
                    "RAW(40)",
                    "LONG RAW",
                    "BLOB",
                    "DATE",
                    "TIMESTAMP(6)",
                    "TIMESTAMP(6) WITH TIME ZONE",
                    "TIMESTAMP(6) WITH LOCAL TIME ZONE",
                    "JSON",
                    "XMLTYPE");
        }

        @Override
        public List<String> others() {
            return List.of(
                    "INTERVAL YEAR TO MONTH",
                    "INTERVAL DAY TO SECOND",
                    "ROWID",
                    "UROWID",
                    "BFILE",
                    "VECTOR",
                    "ANYDATA");
        }
    };

    private OracleTypes() {}

    static LogicalType logical(String own) {
        Matcher matcher = OWN.matcher(own.toUpperCase(Locale.ROOT)
                .replaceAll("\\s+(BYTE|CHAR)\\s*\\)", ")")
                .strip());
        if (!matcher.matches()) {
            return LogicalType.CLOB;
        }
        int size = number(matcher.group(2), -1);
        boolean anySize = "*".equals(matcher.group(2));
        int scale = number(matcher.group(3), 0);
        if (matcher.group(4) != null) {
            return LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, size < 0 ? USUAL_FRACTION : size);
        }
        return switch (matcher.group(1)) {
            case "NUMBER" -> decimal(anySize ? MOST_DIGITS : size, scale);
            case "BINARY_FLOAT" -> LogicalType.REAL;
            case "BINARY_DOUBLE" -> LogicalType.DOUBLE;
            // a decimal whose digits are counted in bits
            case "FLOAT" -> LogicalType.of(TypeName.DECIMAL);
            case "BOOLEAN" -> LogicalType.BOOLEAN;
            case "CHAR", "NCHAR" -> LogicalType.of(TypeName.CHARACTER, Math.max(1, size));
            case "VARCHAR2", "NVARCHAR2" -> LogicalType.varchar(Math.max(1, size));
            case "RAW" -> LogicalType.of(TypeName.VARBINARY, Math.max(1, size));
            case "LONG RAW", "BLOB" -> LogicalType.BLOB;
            // its DATE has a time
            case "DATE" -> LogicalType.of(TypeName.TIMESTAMP, 0);
            case "TIMESTAMP" -> LogicalType.of(TypeName.TIMESTAMP, size < 0 ? USUAL_FRACTION : size);
            case "JSON" -> LogicalType.JSON;
            case "XMLTYPE" -> LogicalType.XML;
            default -> LogicalType.CLOB;
        };
    }

    /** A number of a negative scale has zeros before its point, and one of a scale above its digits has them behind it. */
    private static LogicalType decimal(int digits, int scale) {
        if (digits < 0) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        return scale < 0
                ? LogicalType.decimal(Math.min(MOST_DIGITS, digits - scale), 0)
                : LogicalType.decimal(Math.max(digits, scale), scale);
    }

    private static int number(String digits, int otherwise) {
        return digits != null && digits.matches("-?\\d{1,5}") ? Integer.parseInt(digits) : otherwise;
    }

    static String sql(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> "NUMBER(" + BOOLEAN_DIGITS + ")";
            case SMALLINT -> "NUMBER(" + SMALLINT_DIGITS + ")";
            case INTEGER -> "NUMBER(" + INTEGER_DIGITS + ")";
            case BIGINT -> "NUMBER(" + BIGINT_DIGITS + ")";
            case DECIMAL ->
                type.isSized() && type.size() <= MOST_DIGITS
                        ? "NUMBER(" + type.size() + "," + Math.max(0, type.scale()) + ")"
                        : "NUMBER";
            case REAL -> "BINARY_FLOAT";
            case DOUBLE -> "BINARY_DOUBLE";
            case CHARACTER -> (type.size() <= LONGEST_CHAR ? "CHAR" : "VARCHAR2") + "(" + type.size() + " CHAR)";
            case VARCHAR ->
                type.isSized() && type.size() <= LONGEST_TEXT ? "VARCHAR2(" + type.size() + " CHAR)" : "CLOB";
            case BINARY, VARBINARY ->
                type.isSized() && type.size() <= LONGEST_BYTES ? "RAW(" + type.size() + ")" : "BLOB";
            case BLOB -> "BLOB";
            case DATE -> "DATE";
            // there is no time without a day
            case TIME -> "VARCHAR2(18 CHAR)";
            case TIMESTAMP -> "TIMESTAMP(" + fraction(type) + ")";
            case TIMESTAMP_WITH_TIME_ZONE -> "TIMESTAMP(" + fraction(type) + ") WITH TIME ZONE";
            case INTERVAL -> "VARCHAR2(64 CHAR)";
            case UUID -> "CHAR(36 CHAR)";
            default -> "CLOB";
        };
    }

    private static int fraction(LogicalType type) {
        return type.isSized() ? Math.min(FRACTION, type.size()) : FRACTION;
    }
}
