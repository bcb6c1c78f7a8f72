package org.orderlyferry.exportset;

/**
 * The names of what CSVW has no word for. CSVW lets nobody declare a prefix, so each is an absolute IRI.
 */
final class Annotations {

    private static final String BASE = "https://orderly-ferry.example/ns#";

    static final String SYSTEM = BASE + "system";
    static final String QUOTED_IS_VALUE = BASE + "quotedIsValue";
    static final String LEFT_BEHIND = BASE + "leftBehind";
    static final String KIND = BASE + "kind";
    static final String REASON = BASE + "reason";

    static final String SCHEMA = BASE + "schema";
    static final String TABLE = BASE + "table";
    static final String COMMENT = BASE + "comment";
    static final String PRIMARY_KEY = BASE + "primaryKey";
    static final String UNIQUE_KEYS = BASE + "uniqueKeys";
    static final String FOREIGN_KEYS = BASE + "foreignKeys";
    static final String CHECKS = BASE + "checks";
    static final String INDEXES = BASE + "indexes";

    static final String NAME = BASE + "name";
    static final String COLUMNS = BASE + "columns";
    static final String TARGET_SCHEMA = BASE + "targetSchema";
    static final String TARGET_TABLE = BASE + "targetTable";
    static final String TARGET_COLUMNS = BASE + "targetColumns";
    static final String ON_UPDATE = BASE + "onUpdate";
    static final String ON_DELETE = BASE + "onDelete";
    static final String EXPRESSION = BASE + "expression";
    static final String UNIQUE = BASE + "unique";
    static final String DESCENDING = BASE + "descending";

    static final String TYPE = BASE + "type";
    static final String SOURCE_TYPE = BASE + "sourceType";
    static final String DEFAULT_VALUE = BASE + "defaultValue";
    static final String DEFAULT_EXPRESSION = BASE + "defaultExpression";
    static final String GENERATED_AS = BASE + "generatedAs";
    static final String STORED = BASE + "stored";
    static final String ENUMERATION = BASE + "enumeration";
    static final String VALUES = BASE + "values";
    static final String COLLATION = BASE + "collation";
    static final String DEFERRABILITY = BASE + "deferrability";
    static final String PREDICATE = BASE + "predicate";
    static final String PREFIX = BASE + "prefix";
    static final String OWN = BASE + "own";
    static final String IDENTITY = BASE + "identity";
    static final String ALWAYS = BASE + "always";
    static final String START = BASE + "start";
    static final String INCREMENT = BASE + "increment";
    static final String NEXT = BASE + "next";

    private Annotations() {}
}
