package org.orderlyferry.databases.sql;

import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The types that an expression may be brought to: names that systems have themselves, with lengths and array marks. */
final class CastTypes {

    private static final Set<String> NAMES = Set.of(
            "bigint",
            "binary",
            "binary large object",
            "binary varying",
            "bit",
            "bit varying",
            "blob",
            "boolean",
            "bpchar",
            "bytea",
            "char",
            "character",
            "character large object",
            "character varying",
            "cidr",
            "clob",
            "date",
            "datetime",
            "dec",
            "decfloat",
            "decimal",
            "double",
            "double precision",
            "float",
            "float4",
            "float8",
            "inet",
            "int",
            "int2",
            "int4",
            "int8",
            "integer",
            "interval",
            "json",
            "jsonb",
            "macaddr",
            "money",
            "name",
            "numeric",
            "real",
            "regconfig",
            "signed",
            "signed integer",
            "smallint",
            "text",
            "time",
            "timestamp",
            "timestamptz",
            "tinyint",
            "tsvector",
            "unsigned",
            "unsigned integer",
            "uuid",
            "varbinary",
            "varchar",
            "varchar_ignorecase",
            "xml");

    private static final Pattern WRITTEN = Pattern.compile(
            "([a-z_0-9]+(?: [a-z]+){0,2}?) ?(\\(\\d{1,9}(?: ?, ?-?\\d{1,9})?\\))?( with(?:out)? time zone)?((?: ?\\[\\])*+)");

    private CastTypes() {}

    /** Whether a type may stand in a cast; its words in lower case, with single blanks. */
    static boolean isKnown(String type) {
        Matcher matcher = WRITTEN.matcher(type);
        return matcher.matches() && NAMES.contains(matcher.group(1));
    }

    /** Whether more words can follow these in a type's name. */
    static boolean isBeginning(String words) {
        return NAMES.stream().anyMatch(n -> n.equals(words) || n.startsWith(words + " "));
    }

    static boolean isText(String type) {
        return type.matches("text|name|bpchar|clob|(character|char|varchar|character varying|character large object"
                + "|varchar_ignorecase)( ?\\(\\d+\\))?");
    }

    static boolean isWholeNumber(String type) {
        return type.matches("smallint|integer|int|int2|int4|int8|bigint|tinyint|signed|signed integer");
    }

    static boolean isNumber(String type) {
        return isWholeNumber(type)
                || type.matches(
                        "(numeric|decimal|dec|decfloat)( ?\\(.*\\))?|real|double|double precision|float4?|float8");
    }

    /** The length that a type has in parentheses, or -1. */
    static int length(String type) {
        Matcher matcher = Pattern.compile("\\((\\d+)").matcher(type);
        return matcher.find() ? Integer.parseInt(matcher.group(1)) : -1;
    }
}
