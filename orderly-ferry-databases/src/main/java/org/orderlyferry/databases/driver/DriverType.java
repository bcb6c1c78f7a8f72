package org.orderlyferry.databases.driver;

/**
 * A type as a driver tells of it.
 *
 * @param name as CREATE TABLE has it, where a length may belong into empty parentheses: {@code CHAR () FOR BIT DATA}
 * @param code of {@link java.sql.Types}
 * @param precision the longest that it can be made; 0 where that isn't told
 * @param parameters what can be told of it, such as {@code precision,scale}; empty for nothing
 */
record DriverType(String name, int code, long precision, String parameters) {

    /** Whether a length or a precision can be told. */
    boolean isSized() {
        return !parameters.isBlank() || name.contains("()");
    }

    /** The type with a length, or a precision and a scale. */
    String with(String size) {
        return name.contains("()") ? name.replace("()", "(" + size + ")") : name + "(" + size + ")";
    }

    /** The type with nothing told of it. */
    String bare() {
        return name.replace("()", "").replace("  ", " ");
    }
}
