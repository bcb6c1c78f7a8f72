package org.orderlyferry.databases.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * Writes an expression anew in a system's SQL. Names stand in quotes, texts are literals, and whatever is made of parts
 * stands in parentheses inside something else, so that no system's precedence of operators changes what is meant.
 */
public final class ExpressionWriter {

    /** What differs in the system that an expression is written for. */
    public interface Target {
        /** A name in the system's quotes. */
        String quote(String name);

        /** A text as a literal. */
        String literal(String text);

        /** The function that counts a text's characters. */
        String lengthFunction();

        /** How many characters a text has. */
        default String length(String text) {
            return lengthFunction() + "(" + text + ")";
        }

        /** Whether TRUE and FALSE are values. */
        default boolean hasTruth() {
            return true;
        }

        /** Texts behind each other, null if any of them is; nothing where the system has no such thing. */
        default Optional<String> together(List<String> texts) {
            return Optional.of("(" + String.join(" || ", texts) + ")");
        }

        /** A literal of a type, such as {@code DATE '2031-04-09'}. */
        String typedLiteral(String type, String quoted);

        /** Bytes as a literal. */
        default String bytes(String hexadecimal) {
            return "X'" + hexadecimal + "'";
        }
    }

    private final Target target;
    private final Function<Expression.Column, Optional<String>> columns;

    /**
     * A writer for one table.
     *
     * @param columns the name that a column has in the target; nothing where it has none
     */
    public ExpressionWriter(Target target, Function<Expression.Column, Optional<String>> columns) {
        this.target = target;
        this.columns = columns;
    }

    /** The expression in SQL, or nothing where it names a column that the table hasn't. */
    public Optional<String> write(Expression expression) {
        try {
            return Optional.of(sql(expression));
        } catch (NotParsedException e) {
            return Optional.empty();
        }
    }

    private String sql(Expression expression) throws NotParsedException {
        if (expression instanceof Expression.Column column) {
            return target.quote(
                    columns.apply(column).orElseThrow(() -> new NotParsedException("the column " + column.name())));
        } else if (expression instanceof Expression.Text text) {
            return target.literal(text.value());
        } else if (expression instanceof Expression.Number number) {
            return number.digits();
        } else if (expression instanceof Expression.Truth truth) {
            if (!target.hasTruth()) {
                throw new NotParsedException("a truth value");
            }
            return truth.value() ? "TRUE" : "FALSE";
        } else if (expression instanceof Expression.Null) {
            return "NULL";
        } else if (expression instanceof Expression.Bytes bytes) {
            return target.bytes(bytes.digits());
        } else if (expression instanceof Expression.Dated dated) {
            return target.typedLiteral(dated.type(), target.literal(dated.value()));
        } else if (expression instanceof Expression.Now now) {
            return now.function() + (now.fraction() < 0 ? "" : "(" + now.fraction() + ")");
        } else if (expression instanceof Expression.Prefixed prefixed) {
            return prefixed.operator() + (prefixed.operator().equals("NOT") ? " " : "") + part(prefixed.of());
        } else if (expression instanceof Expression.Joined joined) {
            return joined(joined);
        } else if (expression instanceof Expression.Cast cast) {
            return "CAST(" + sql(cast.of()) + " AS " + cast.type() + ")";
        } else if (expression instanceof Expression.Extract extract) {
            return "EXTRACT(" + extract.field() + " FROM " + sql(extract.of()) + ")";
        } else if (expression instanceof Expression.Call call && call.function().equals(Portable.TOGETHER)) {
            List<String> texts = new ArrayList<>();
            for (Expression text : call.arguments()) {
                texts.add(part(text));
            }
            return target.together(texts).orElseThrow(() -> new NotParsedException("texts behind each other"));
        } else if (expression instanceof Expression.Call call) {
            return call.function().equals(Portable.CHARACTERS)
                    ? target.length(list(call.arguments()))
                    : call.function() + "(" + list(call.arguments()) + ")";
        } else if (expression instanceof Expression.Elements elements) {
            return "ARRAY[" + list(elements.items()) + "]";
        } else if (expression instanceof Expression.Collated collated) {
            return part(collated.of()) + " COLLATE " + target.quote(collated.collation());
        }
        return question(expression);
    }

    private String question(Expression expression) throws NotParsedException {
        if (expression instanceof Expression.Is is) {
            return part(is.of()) + " IS " + (is.not() ? "NOT " : "") + is.what();
        } else if (expression instanceof Expression.In in) {
            return part(in.of()) + (in.not() ? " NOT" : "") + " IN (" + list(in.list()) + ")";
        } else if (expression instanceof Expression.Each each) {
            return part(each.of()) + " " + each.operator() + (each.all() ? " ALL (" : " ANY (") + sql(each.array())
                    + ")";
        } else if (expression instanceof Expression.Between between) {
            return part(between.of()) + (between.not() ? " NOT" : "") + " BETWEEN " + part(between.low()) + " AND "
                    + part(between.high());
        } else if (expression instanceof Expression.Like like) {
            String escape =
                    like.escape().isPresent() ? " ESCAPE " + part(like.escape().get()) : "";
            return part(like.of()) + (like.not() ? " NOT " : " ") + like.operator() + " " + part(like.pattern())
                    + escape;
        } else if (expression instanceof Expression.Case cases) {
            return cases(cases);
        }
        throw new NotParsedException(expression.toString());
    }

    private String cases(Expression.Case cases) throws NotParsedException {
        StringBuilder text = new StringBuilder("CASE");
        if (cases.of().isPresent()) {
            text.append(' ').append(part(cases.of().get()));
        }
        for (Expression.When when : cases.whens()) {
            text.append(" WHEN ").append(sql(when.condition())).append(" THEN ").append(sql(when.result()));
        }
        if (cases.otherwise().isPresent()) {
            text.append(" ELSE ").append(sql(cases.otherwise().get()));
        }
        return text.append(" END").toString();
    }

    /** AND and OR in a row need no parentheses among themselves. */
    private String joined(Expression.Joined joined) throws NotParsedException {
        boolean chain = joined.left() instanceof Expression.Joined left
                && left.operator().equals(joined.operator())
                && (joined.operator().equals("AND") || joined.operator().equals("OR"));
        return (chain ? sql(joined.left()) : part(joined.left())) + " " + joined.operator() + " "
                + part(joined.right());
    }

    private String list(List<Expression> expressions) throws NotParsedException {
        StringBuilder text = new StringBuilder();
        for (Expression expression : expressions) {
            text.append(text.isEmpty() ? "" : ", ").append(sql(expression));
        }
        return text.toString();
    }

    /** As it stands inside something else. */
    private String part(Expression expression) throws NotParsedException {
        boolean whole = expression instanceof Expression.Column
                || expression instanceof Expression.Text
                || expression instanceof Expression.Number
                || expression instanceof Expression.Truth
                || expression instanceof Expression.Null
                || expression instanceof Expression.Bytes
                || expression instanceof Expression.Dated
                || expression instanceof Expression.Now
                || expression instanceof Expression.Cast
                || expression instanceof Expression.Call
                || expression instanceof Expression.Extract
                || expression instanceof Expression.Elements;
        return whole ? sql(expression) : "(" + sql(expression) + ")";
    }
}
