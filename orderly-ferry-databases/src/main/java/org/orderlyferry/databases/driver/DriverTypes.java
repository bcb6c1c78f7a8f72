package org.orderlyferry.databases.driver;

import java.sql.Types;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/** A driver's types as logical types by their codes in {@link Types}, and back by what it says that its system has. */
final class DriverTypes implements TypeMapping {

    /** From here on, a length means that none was declared. */
    private static final long UNDECLARED = 1_048_576;

    /** How long a text is made that has no length, where the system wants one. */
    private static final int LONG_TEXT = 16_777_216;

    private static final int MOST_FRACTION = 9;
    private static final int MOST_DIGITS = 1_000;
    private static final int UUID_LENGTH = 36;
    private static final int TIME_LENGTH = 40;

    /** Microsoft's drivers have codes of their own. */
    private static final int MICROSOFT_INSTANT = -155;

    private static final int ORACLE_INSTANT = -101;
    private static final int ORACLE_LOCAL_INSTANT = -102;
    private static final int ORACLE_REAL = 100;
    private static final int ORACLE_DOUBLE = 101;

    private static final Pattern SIZES = Pattern.compile("\\((\\d{1,9})(?:\\s*,\\s*(-?\\d{1,4}))?\\)");

    private final List<DriverType> types;
    private final Map<Integer, String> timed;
    private final Map<TypeName, Integer> digits;

    /**
     * A driver's types.
     *
     * @param digits how many digits of a second's fraction its types hold, where that was tried
     * @param timed how those with a second's fraction are written so that they hold most digits, where that was tried
     */
    DriverTypes(List<DriverType> types, Map<Integer, String> timed, Map<TypeName, Integer> digits) {
        this.types = types;
        this.timed = timed;
        this.digits = digits;
    }

    /**
     * The logical type of a column.
     *
     * @param code of {@link Types}
     * @param name as the system calls it
     * @param size length or precision
     * @param scale digits behind the point, or of a second's fraction
     */
    static LogicalType logical(int code, String name, long size, int scale) {
        String upper = name.toUpperCase(Locale.ROOT);
        if (upper.equals("UUID") || upper.equals("UNIQUEIDENTIFIER")) {
            return LogicalType.UUID;
        }
        if (upper.startsWith("TIMESTAMP") && upper.contains("WITH TIME ZONE")) {
            return timed(TypeName.TIMESTAMP_WITH_TIME_ZONE, scale);
        }
        return switch (code) {
            case Types.BOOLEAN -> LogicalType.BOOLEAN;
            // a single bit is JDBC's truth value; of how many it is, a driver may not say
            case Types.BIT ->
                size == 1 || upper.startsWith("BOOL") ? LogicalType.BOOLEAN : LogicalType.of(TypeName.VARCHAR);
            case Types.TINYINT, Types.SMALLINT -> LogicalType.SMALLINT;
            case Types.INTEGER -> LogicalType.INTEGER;
            case Types.BIGINT -> LogicalType.BIGINT;
            case Types.NUMERIC, Types.DECIMAL ->
                // a negative scale, or no precision, is a number of any size
                size > 0 && size <= MOST_DIGITS && scale >= 0 && scale <= size
                        ? LogicalType.decimal((int) size, scale)
                        : LogicalType.of(TypeName.DECIMAL);
            case Types.REAL, ORACLE_REAL -> LogicalType.REAL;
            case Types.FLOAT -> isSingle(size) ? LogicalType.REAL : LogicalType.DOUBLE;
            case Types.DOUBLE, ORACLE_DOUBLE -> LogicalType.DOUBLE;
            case Types.CHAR, Types.NCHAR -> sized(TypeName.CHARACTER, size);
            case Types.VARCHAR, Types.NVARCHAR -> sized(TypeName.VARCHAR, size);
            case Types.LONGVARCHAR, Types.LONGNVARCHAR, Types.CLOB, Types.NCLOB -> LogicalType.CLOB;
            case Types.BINARY -> sized(TypeName.BINARY, size);
            case Types.VARBINARY -> sized(TypeName.VARBINARY, size);
            case Types.LONGVARBINARY, Types.BLOB -> LogicalType.BLOB;
            case Types.DATE -> LogicalType.DATE;
            case Types.TIME -> timed(TypeName.TIME, scale);
            case Types.TIMESTAMP -> timed(TypeName.TIMESTAMP, scale);
            case Types.TIMESTAMP_WITH_TIMEZONE, MICROSOFT_INSTANT, ORACLE_INSTANT, ORACLE_LOCAL_INSTANT ->
                timed(TypeName.TIMESTAMP_WITH_TIME_ZONE, scale);
            case Types.SQLXML -> LogicalType.XML;
            default -> LogicalType.of(TypeName.VARCHAR);
        };
    }

    /** Whether a FLOAT has 24 bits, or the seven digits that these are: JDBC's is a double, and some systems' isn't. */
    private static boolean isSingle(long size) {
        return size > 0 && size <= 7 || size == 24;
    }

    /** Whether there is no logical type of its own for a code, so that values travel as the driver writes them. */
    static boolean isCarriedAsText(int code, String name, long size) {
        return logical(code, name, size, 0).equals(LogicalType.of(TypeName.VARCHAR))
                && code != Types.VARCHAR
                && code != Types.NVARCHAR;
    }

    private static LogicalType sized(TypeName name, long size) {
        if (size > 0 && size < UNDECLARED) {
            return LogicalType.of(name, (int) size);
        }
        return LogicalType.of(
                name == TypeName.CHARACTER ? TypeName.VARCHAR : name == TypeName.BINARY ? TypeName.VARBINARY : name);
    }

    /** The fraction's digits by how long a value is as text, which a driver tells that has no digits (JDBC's COLUMN_SIZE). */
    static int fraction(TypeName type, long length) {
        int whole = type == TypeName.TIME ? "07:30:00".length() : "2031-04-09 07:30:00".length();
        long zone = type == TypeName.TIMESTAMP_WITH_TIME_ZONE ? "+00:00".length() : 0;
        long digits = length - whole - zone - 1;
        return length == whole + zone ? 0 : digits > 0 && digits <= MOST_FRACTION ? (int) digits : -1;
    }

    private static LogicalType timed(TypeName name, int scale) {
        return LogicalType.of(name, scale >= 0 && scale <= MOST_FRACTION ? scale : MOST_FRACTION);
    }

    private static LogicalType withSizes(DriverType type, String own) {
        Matcher sizes = SIZES.matcher(own);
        boolean told = sizes.find();
        int scale = told && sizes.group(2) != null ? Integer.parseInt(sizes.group(2)) : 0;
        long size = told ? Long.parseLong(sizes.group(1)) : type.precision();
        boolean timed = logical(type.code(), type.name(), 1, 0).name().isTimed();
        return logical(type.code(), type.name(), size, timed ? told ? (int) size : MOST_FRACTION : scale);
    }

    @Override
    public LogicalType logical(String own) {
        String words = words(own);
        return types.stream()
                .filter(t -> words(t.name()).equals(words))
                .findFirst()
                .map(t -> withSizes(t, own))
                .orElse(LogicalType.of(TypeName.VARCHAR));
    }

    private static String words(String own) {
        return own.replaceAll("\\([^)]*\\)", "").replaceAll("\\s+", " ").strip().toUpperCase(Locale.ROOT);
    }

    private Optional<DriverType> first(int... codes) {
        for (int code : codes) {
            // a longer one first: some drivers call two by one code
            Optional<DriverType> found = types.stream()
                    .filter(t -> t.code() == code && !words(t.name()).equals("UUID"))
                    .reduce((a, b) -> b.precision() > a.precision() ? b : a);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    private Optional<String> bare(int... codes) {
        return first(codes).map(DriverType::bare);
    }

    private Optional<DriverType> named(String name) {
        return types.stream().filter(t -> words(t.name()).equals(name)).findFirst();
    }

    private Optional<String> sizedOr(int code, int size, Optional<String> other) {
        return first(code)
                .filter(t -> t.precision() == 0 || size <= t.precision())
                .map(t -> t.isSized() ? t.with(Integer.toString(size)) : t.bare())
                .or(() -> other);
    }

    /** Texts of any length. */
    private Optional<String> largeText() {
        return large(Types.VARCHAR, Types.CLOB, Types.LONGVARCHAR, Types.NCLOB).or(this::longText);
    }

    /**
     * A type for large values; where a plain type can be as long, that one. A system keeps large objects apart from their rows: HSQLDB
     * takes 32 kB of its file for each, of a few letters as well.
     */
    private Optional<String> large(int plain, int... large) {
        long longest = first(large).map(DriverType::precision).orElse(0L);
        return first(plain)
                .filter(t -> t.isSized() && t.precision() >= Math.max(longest, LONG_TEXT))
                .map(t -> t.with(Long.toString(t.precision())))
                .or(() -> bare(large));
    }

    /** Texts without a declared length that can still be part of a key: as long as the system has them. */
    private Optional<String> longText() {
        return longest(Types.VARCHAR);
    }

    private Optional<String> longest(int code) {
        return first(code)
                .map(t -> t.isSized()
                        ? t.with(Long.toString(t.precision() == 0 ? LONG_TEXT : Math.min(t.precision(), LONG_TEXT)))
                        : t.bare());
    }

    private Optional<String> largeBytes() {
        return large(Types.VARBINARY, Types.BLOB, Types.LONGVARBINARY).or(() -> longest(Types.VARBINARY));
    }

    /** What holds a logical type; nothing where the system's driver tells of no type that could. */
    Optional<String> holding(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> bare(Types.BOOLEAN, Types.BIT, Types.SMALLINT);
            case SMALLINT -> bare(Types.SMALLINT, Types.INTEGER);
            case INTEGER -> bare(Types.INTEGER);
            case BIGINT -> bare(Types.BIGINT).or(() -> decimal(LogicalType.decimal(19, 0)));
            case DECIMAL -> decimal(type);
            case REAL -> bare(Types.REAL, Types.DOUBLE, Types.FLOAT);
            case DOUBLE -> bare(Types.DOUBLE, Types.FLOAT);
            case CHARACTER ->
                type.isSized()
                        ? sizedOr(Types.CHAR, type.size(), varchar(type.size()))
                        : sizedOr(Types.CHAR, 1, largeText());
            case VARCHAR -> type.isSized() ? varchar(type.size()) : largeText();
            case BINARY, VARBINARY ->
                type.isSized() ? sizedOr(Types.VARBINARY, type.size(), largeBytes()) : largeBytes();
            case BLOB -> largeBytes();
            case DATE -> bare(Types.DATE);
            case TIME -> timed(type);
            case TIMESTAMP -> timed(type);
            case TIMESTAMP_WITH_TIME_ZONE -> timed(type).or(() -> varchar(TIME_LENGTH));
            case UUID ->
                named("UUID")
                        .or(() -> named("UNIQUEIDENTIFIER"))
                        .map(DriverType::bare)
                        .or(() -> sizedOr(Types.CHAR, UUID_LENGTH, varchar(UUID_LENGTH)));
            case CLOB, INTERVAL, JSON, XML, ARRAY -> largeText();
        };
    }

    private Optional<String> varchar(int size) {
        return sizedOr(Types.VARCHAR, size, largeText());
    }

    private Optional<String> decimal(LogicalType type) {
        Optional<DriverType> exact = first(Types.DECIMAL, Types.NUMERIC);
        return exact.filter(t -> type.isSized() && type.size() <= t.precision())
                .map(t -> t.with(type.size() + "," + Math.max(0, type.scale())))
                .or(() -> varchar(MOST_DIGITS));
    }

    /** The code of the type that holds times of a kind. */
    static int code(TypeName timed) {
        return switch (timed) {
            case DATE -> Types.DATE;
            case TIME -> Types.TIME;
            case TIMESTAMP -> Types.TIMESTAMP;
            default -> Types.TIMESTAMP_WITH_TIMEZONE;
        };
    }

    /**
     * Drivers don't tell that types of times have digits to be told. What has digits goes into a text where the system's
     * type has none.
     */
    private Optional<String> timed(LogicalType type) {
        if (type.size() > 0 && digits.getOrDefault(type.name(), MOST_FRACTION) == 0) {
            return varchar(TIME_LENGTH);
        }
        return Optional.ofNullable(timed.get(code(type.name())))
                .map(t -> type.isSized() ? shortened(t, type.size()) : t)
                .or(() -> bare(code(type.name())));
    }

    /** {@code TIMESTAMP(9)} with no more digits than are wanted. */
    private static String shortened(String written, int size) {
        Matcher sizes = SIZES.matcher(written);
        return sizes.find() && Integer.parseInt(sizes.group(1)) > size ? sizes.replaceFirst("(" + size + ")") : written;
    }

    /**
     * The type in CREATE TABLE.
     *
     * @throws UsageException if the driver tells of no type that could hold it
     */
    @Override
    public String own(LogicalType type) {
        return holding(type)
                .orElseThrow(() -> new UsageException((types.isEmpty()
                                ? "the driver doesn't tell which types its system has"
                                : "the driver tells of no type that holds " + type)
                        + ", so nothing can be loaded into it; it can be read"));
    }

    @Override
    public List<String> examples() {
        return types.stream()
                .flatMap(t -> t.isSized() ? Stream.of(t.bare(), t.with("1")) : Stream.of(t.bare()))
                .toList();
    }
}
