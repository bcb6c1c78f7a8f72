package org.orderlyferry.model;

/** When a reference is checked (ISO/IEC 9075-2, constraint characteristics). */
public enum Deferrability {
    NOT_DEFERRABLE(""),
    DEFERRABLE("DEFERRABLE"),
    INITIALLY_DEFERRED("DEFERRABLE INITIALLY DEFERRED");

    private final String sql;

    Deferrability(String sql) {
        this.sql = sql;
    }

    /** The SQL words; empty for what every reference is where nothing is said. */
    public String sql() {
        return sql;
    }
}
