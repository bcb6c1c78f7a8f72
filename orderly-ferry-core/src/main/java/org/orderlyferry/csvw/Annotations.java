package org.orderlyferry.csvw;

/**
 * The names of what CSVW has no word for. CSVW lets nobody declare a prefix, so each is an absolute IRI.
 */
public final class Annotations {

    private static final String BASE = "https://orderly-ferry.example/ns#";

    public static final String SYSTEM = BASE + "system";
    public static final String QUOTED_IS_VALUE = BASE + "quotedIsValue";
    public static final String FORMAT = BASE + "format";
    public static final String SETTINGS = BASE + "settings";
    public static final String LEFT_BEHIND = BASE + "leftBehind";
    public static final String KIND = BASE + "kind";
    public static final String REASON = BASE + "reason";

    public static final String SCHEMA = BASE + "schema";
    public static final String TABLE = BASE + "table";
    public static final String COMMENT = BASE + "comment";
    public static final String PRIMARY_KEY = BASE + "primaryKey";
    public static final String UNIQUE_KEYS = BASE + "uniqueKeys";
    public static final String FOREIGN_KEYS = BASE + "foreignKeys";
    public static final String CHECKS = BASE + "checks";
    public static final String INDEXES = BASE + "indexes";

    public static final String NAME = BASE + "name";
    public static final String COLUMNS = BASE + "columns";
    public static final String TARGET_SCHEMA = BASE + "targetSchema";
    public static final String TARGET_TABLE = BASE + "targetTable";
    public static final String TARGET_COLUMNS = BASE + "targetColumns";
    public static final String ON_UPDATE = BASE + "onUpdate";
    public static final String ON_DELETE = BASE + "onDelete";
    public static final String EXPRESSION = BASE + "expression";
    public static final String UNIQUE = BASE + "unique";
    public static final String DESCENDING = BASE + "descending";

    public static final String TYPE = BASE + "type";
    public static final String SOURCE_TYPE = BASE + "sourceType";
    public static final String DEFAULT_VALUE = BASE + "defaultValue";
    public static final String DEFAULT_EXPRESSION = BASE + "defaultExpression";
    public static final String GENERATED_AS = BASE + "generatedAs";
    public static final String STORED = BASE + "stored";
    public static final String ENUMERATION = BASE + "enumeration";
    public static final String VALUES = BASE + "values";
    public static final String COLLATION = BASE + "collation";
    public static final String DEFERRABILITY = BASE + "deferrability";
    public static final String PREDICATE = BASE + "predicate";
    public static final String PREFIX = BASE + "prefix";
    public static final String OWN = BASE + "own";
    public static final String IDENTITY = BASE + "identity";
    public static final String ALWAYS = BASE + "always";
    public static final String START = BASE + "start";
    public static final String INCREMENT = BASE + "increment";
    public static final String NEXT = BASE + "next";

    private Annotations() {}
}
