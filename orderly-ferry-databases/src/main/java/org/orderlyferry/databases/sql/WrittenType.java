package org.orderlyferry.databases.sql;

import java.util.Locale;

/** Reads the name of a type to which an expression is cast. */
final class WrittenType {

    private WrittenType() {}

    /** A type's words, its length, and what comes behind it. */
    static String of(TokenCursor in) throws NotParsedException {
        StringBuilder type = new StringBuilder(word(in));
        while (in.peek().kind() == SqlToken.Kind.WORD
                && CastTypes.isBeginning(type + " " + in.peek().text().toLowerCase(Locale.ROOT))) {
            type.append(' ').append(in.next().text().toLowerCase(Locale.ROOT));
        }
        if (in.skip("(")) {
            type.append('(').append(in.next().text());
            if (in.skip(",")) {
                type.append(',')
                        .append(in.skip("-") ? "-" : "")
                        .append(in.next().text());
            }
            in.need(")");
            type.append(')');
        }
        if ((in.peek().is("WITH") || in.peek().is("WITHOUT"))
                && in.peek(1).is("TIME")
                && in.peek(2).is("ZONE")) {
            type.append(in.next().is("WITH") ? " with time zone" : " without time zone");
            in.pass(2);
        }
        while (in.peek().isSymbol("[") && in.peek(1).isSymbol("]")) {
            type.append("[]");
            in.pass(2);
        }
        if (!CastTypes.isKnown(type.toString())) {
            throw new NotParsedException("the type " + type);
        }
        return type.toString();
    }

    private static String word(TokenCursor in) throws NotParsedException {
        SqlToken word = in.next();
        if (word.kind() != SqlToken.Kind.WORD) {
            throw new NotParsedException(word.text());
        }
        return word.text().toLowerCase(Locale.ROOT);
    }
}
