package org.orderlyferry.databases.postgresql;

import java.util.List;

/**
 * PostgreSQL's own hash of a column's value, as an expression.
 *
 * <p>Its types' hashes are made for finding what is then compared, and take values for each other in ways that anybody can
 * foresee: numbers and times of 64 bits are folded into 32, decimal numbers have no sign, and a collation may take letters of either
 * case for one. So what a hash leaves out is put into its seed.
 */
final class HashedValue {

    /** All that are called, with their arguments' types, as versions from 14 on have them. */
    static final List<String> FUNCTIONS = List.of(
            "date_bin(interval, timestamp, timestamp)",
            "date_part(text, time)",
            "date_part(text, timestamp)",
            "hash_numeric_extended(numeric, bigint)",
            "hash_record_extended(record, bigint)",
            "hashfloat4extended(real, bigint)",
            "hashfloat8extended(double precision, bigint)",
            "hashint2extended(smallint, bigint)",
            "hashint4extended(integer, bigint)",
            "hashint8extended(bigint, bigint)",
            "hashtextextended(text, bigint)",
            "isfinite(date)",
            "timestamp_hash_extended(timestamp, bigint)",
            "timezone(interval, timestamptz)",
            "uuid_hash_extended(uuid, bigint)");

    /** Several for each column. */
    private static final int SEEDS = 4;

    private final String value;
    private final long seed;
    private final long column;

    /**
     * Of a column.
     *
     * @param value the expression for it
     * @param seed that of the whole record's digest
     * @param column which of the record's columns it is
     */
    HashedValue(String value, long seed, int column) {
        this.value = value;
        this.seed = seed;
        this.column = column;
    }

    /**
     * The hash of it, which is 0 for null, whatever a definition says of nulls.
     *
     * @param type the column's, without sizes
     * @param sized whether it has any
     */
    String of(String type, boolean sized) {
        return switch (type) {
            case "boolean" -> whenever(value, seed(0), "NOT " + value, seed(1));
            case "date" -> day();
            case "bytea" ->
                whenever(value + " IS NOT NULL", call("hash_record_extended", "ROW(" + value + ")", seed(0)));
            default -> "COALESCE(" + hash(type, sized) + ", 0)";
        };
    }

    private String hash(String type, boolean sized) {
        return switch (type) {
            // hashes of both sizes are the same
            case "smallint" -> call("hashint2extended", value, seed(0));
            case "integer" -> call("hashint4extended", value, seed(0));
            // its upper half is folded into the lower one
            case "bigint" -> call("hashint8extended", value, seed(0) + " # (" + value + " >> 32)");
            case "numeric" -> call("hash_numeric_extended", value, sign(sized));
            case "real" -> call("hashfloat4extended", value, seed(0));
            case "double precision" -> call("hashfloat8extended", value, seed(0));
            case "time without time zone" -> call("hashfloat8extended", "date_part('epoch', " + value + ")", seed(0));
            case "timestamp without time zone" -> moment(value);
            case "timestamp with time zone" -> moment("timezone('0'::interval, " + value + ")");
            case "uuid" -> call("uuid_hash_extended", value, seed(0));
            default -> call("hashtextextended", value + "::text COLLATE \"C\"", seed(0));
        };
    }

    /** The first number of which the condition before it holds, else 0. */
    private static String whenever(String... conditionsAndNumbers) {
        StringBuilder text = new StringBuilder("CASE");
        for (int i = 0; i < conditionsAndNumbers.length; i += 2) {
            text.append(" WHEN ").append(conditionsAndNumbers[i]);
            text.append(" THEN ").append(conditionsAndNumbers[i + 1]);
        }
        return text.append(" ELSE 0 END").toString();
    }

    private static String call(String function, String value, String seed) {
        return function + "(" + value + ", " + seed + ")";
    }

    /** What is beyond all numbers, which has no digits, isn't in a column that says how many there may be. */
    private String sign(boolean sized) {
        return "CASE WHEN " + value + " < 0 THEN " + seed(1)
                + (sized ? "" : " WHEN " + value + " = 'Infinity' THEN " + seed(2)) + " ELSE " + seed(0) + " END";
    }

    /** As a number of days, which what is before or after all of them hasn't. */
    private String day() {
        return whenever(
                "isfinite(" + value + ")",
                call("hashint4extended", value + " - '2000-01-01'::date", seed(0)),
                value + " > '2000-01-01'::date",
                seed(1),
                value + " < '2000-01-01'::date",
                seed(2));
    }

    /**
     * Microseconds of which the hash folds the upper half into the lower one, and negative ones once more: so the start of the 2^32
     * microseconds that it is in is hashed first, which has nothing but an upper half, with a seed for either sign. Some that are first of all
     * start before the first moment that can be told; of these there are the seconds, exact but for a few last digits, which
     * the hash itself has.
     */
    private String moment(String moment) {
        String start = "date_bin('4294.967296 s'::interval, " + moment + ", '2000-01-01'::timestamp)";
        return call(
                "timestamp_hash_extended",
                moment,
                "CASE WHEN " + moment + " >= '2000-01-01'::timestamp THEN "
                        + call("timestamp_hash_extended", start, seed(0))
                        + " WHEN " + moment + " > '4714-11-25 00:00:00 BC'::timestamp THEN "
                        + call("timestamp_hash_extended", start, seed(1))
                        + " ELSE " + call("hashfloat8extended", "date_part('epoch', " + moment + ")", seed(2))
                        + " END");
    }

    /**
     * One of a column's seeds, all over the place (Steele and others' SplitMix), and neither 0 nor 1: the hashes of a zero are their seed, or one
     * less, and a null counts nothing.
     */
    private String seed(int which) {
        long mixed = seed + (column * SEEDS + which + 1) * 0x9E3779B97F4A7C15L;
        mixed = (mixed ^ mixed >>> 30) * 0xBF58476D1CE4E5B9L;
        mixed = (mixed ^ mixed >>> 27) * 0x94D049BB133111EBL;
        mixed ^= mixed >>> 31;
        return "'" + (mixed | 2) + "'::bigint";
    }
}
