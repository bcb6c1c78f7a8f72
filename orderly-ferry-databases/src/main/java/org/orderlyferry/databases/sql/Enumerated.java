package org.orderlyferry.databases.sql;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;

/**
 * Texts that an expression casts to enumerations of the table's columns, as servers write each: {@code 'kept'::state}. They are the texts themselves wherever it is only asked whether one is the same as another. Which comes
 * first only the enumeration says, so anything else isn't read.
 */
final class Enumerated {

    private final Collection<String> enumerations;

    /** By identity: the same text may stand elsewhere for itself. */
    private final List<Expression> texts = new ArrayList<>();

    Enumerated(Collection<String> enumerations) {
        this.enumerations = enumerations;
    }

    /** Passes over an enumeration's name behind a text, if that is what stands here. */
    boolean isCastOf(Expression left, TokenCursor in) {
        if (!(left instanceof Expression.Text) || enumerations.isEmpty()) {
            return false;
        }
        int last = in.peek(1).isSymbol(".") ? 2 : 0;
        SqlToken name = in.peek(last);
        if (!name.isName()
                || !enumerations.contains(name.text())
                || in.peek(last + 1).isSymbol("[")) {
            return false;
        }
        in.pass(last + 1);
        texts.add(left);
        return true;
    }

    /** Passes over an enumeration that is told by its values, {@code ENUM('kept', 'lent')}, as H2 writes it, if that stands here. */
    boolean isCastToItsValues(Expression of, TokenCursor in) throws NotParsedException {
        if (!(of instanceof Expression.Text)
                || !in.peek().is("ENUM")
                || !in.peek(1).isSymbol("(")) {
            return false;
        }
        in.pass(1);
        do {
            in.pass(1);
            if (in.next().kind() != SqlToken.Kind.STRING) {
                throw new NotParsedException("a value of an enumeration");
            }
        } while (in.peek().isSymbol(","));
        in.need(")");
        texts.add(of);
        return true;
    }

    private boolean isOne(Expression expression) {
        return texts.stream().anyMatch(t -> t == expression);
    }

    /** Refuses a use in which more counts than which text it is. */
    void none(Expression... parts) throws NotParsedException {
        for (Expression part : parts) {
            if (isOne(part)) {
                throw new NotParsedException("the order of an enumeration");
            }
        }
    }

    /** {@code = ANY (ARRAY[…])} and {@code <> ALL} as IN and NOT IN, since texts without their type make no such array. */
    Optional<Expression> in(Expression of, String operator, Expression array, boolean all) throws NotParsedException {
        if (!(array instanceof Expression.Elements elements)
                || elements.items().stream().noneMatch(this::isOne)) {
            return Optional.empty();
        }
        boolean in = operator.equals("=") && !all;
        if (!in && !(operator.equals("<>") && all)) {
            throw new NotParsedException("the order of an enumeration");
        }
        return Optional.of(new Expression.In(of, elements.items(), !in));
    }
}
