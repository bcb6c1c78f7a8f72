package org.orderlyferry.databases.sql;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/** What expressions about one table's columns give, and what they must give where systems would see different things in them. */
final class ValueKinds {

    /** Functions of which a text is made of texts. */
    private static final Set<String> TEXTS = Set.of("COALESCE", "NULLIF", "LOWER", "UPPER", "TRIM", "LTRIM", "RTRIM");

    static final Set<TypeName> WHOLE = Set.of(TypeName.SMALLINT, TypeName.INTEGER, TypeName.BIGINT);

    private final Function<Expression.Column, Optional<LogicalType>> types;
    private final Agreement agreement;

    ValueKinds(Function<Expression.Column, Optional<LogicalType>> types, Agreement agreement) {
        this.types = types;
        this.agreement = agreement;
    }

    Family family(Expression expression) {
        return Family.of(expression, types);
    }

    boolean isTruth(Expression expression) {
        return expression instanceof Expression.Truth
                || expression instanceof Expression.Column column
                        && types.apply(column)
                                .filter(t -> t.name() == TypeName.BOOLEAN)
                                .isPresent();
    }

    /** Of a length of its own: one that is filled up with blanks is joined with them here, and without them there. */
    boolean isText(Expression expression) {
        return expression instanceof Expression.Text
                || expression instanceof Expression.Column column
                        && types.apply(column)
                                .filter(t -> t.name() == TypeName.VARCHAR || t.name() == TypeName.CLOB)
                                .isPresent()
                || expression instanceof Expression.Call call
                        && TEXTS.contains(call.function())
                        && !call.arguments().isEmpty()
                        && call.arguments().stream().allMatch(this::isText);
    }

    /** Whether it is a truth value, also where one is reckoned. */
    boolean isQuestion(Expression expression) {
        return isTruth(expression)
                || expression instanceof Expression.Is
                || expression instanceof Expression.In
                || expression instanceof Expression.Between
                || expression instanceof Expression.Like
                || expression instanceof Expression.Prefixed prefixed
                        && prefixed.operator().equals("NOT")
                || expression instanceof Expression.Joined joined && !"+-*".contains(joined.operator())
                || expression instanceof Expression.Case cases
                        && cases.whens().stream().anyMatch(w -> isQuestion(w.result()));
    }

    /** Whether it reckons with whole numbers alone. */
    boolean isWhole(Expression expression) {
        return expression instanceof Expression.Number number && number.digits().matches("[0-9]+")
                || expression instanceof Expression.Null
                || expression instanceof Expression.Column column
                        && types.apply(column).filter(ValueKinds::isWhole).isPresent()
                || expression instanceof Expression.Case cases
                        && cases.whens().stream().allMatch(w -> isWhole(w.result()))
                        && cases.otherwise().map(this::isWhole).orElse(true)
                || expression instanceof Expression.Joined joined
                        && "+-*".contains(joined.operator())
                        && isWhole(joined.left())
                        && isWhole(joined.right())
                || expression instanceof Expression.Prefixed prefixed
                        && !prefixed.operator().equals("NOT")
                        && isWhole(prefixed.of())
                || expression instanceof Expression.Call call
                        && (call.function().equals(Portable.CHARACTERS)
                                || Portable.NUMBERS_AND_TEXTS.contains(call.function())
                                        && call.arguments().stream().allMatch(this::isWhole));
    }

    private static boolean isWhole(LogicalType type) {
        return WHOLE.contains(type.name()) || type.name() == TypeName.DECIMAL && type.scale() == 0;
    }

    /** A truth value, or 1 or 0 for one, or a null. */
    Expression truth(Expression expression) throws NotParsedException {
        if (isTruth(expression) || expression instanceof Expression.Null) {
            return expression;
        }
        if (expression instanceof Expression.Number number && number.digits().matches("[01]")) {
            return new Expression.Truth(number.digits().equals("1"));
        }
        throw new NotParsedException("a truth value beside something else");
    }

    void mustBeNumber(Expression expression) throws NotParsedException {
        Family family = family(expression);
        if (family != Family.NUMBER && family != Family.NULL) {
            throw new NotParsedException("reckoned with what is no number");
        }
    }

    void mustBeText(Expression expression) throws NotParsedException {
        mustShowNoBlanks(expression);
        Family family = family(expression);
        if (family != Family.TEXT && family != Family.LITERAL && family != Family.NULL) {
            throw new NotParsedException("something else as a text");
        }
    }

    /** Of a text that is filled up, the systems must see the same part. */
    void mustShowNoBlanks(Expression expression) throws NotParsedException {
        if (!agreement.isOfBlanks() && isFilled(expression)) {
            throw new NotParsedException("a text that is filled up with blanks");
        }
    }

    /** Whether blanks may stand at its end that nobody has put there. */
    private boolean isFilled(Expression expression) {
        return family(expression) == Family.TEXT && isMadeOf(expression, t -> t == TypeName.CHARACTER);
    }

    /** Whether a column of such a type gives its value, or a part of it. */
    private boolean isMadeOf(Expression expression, Predicate<TypeName> type) {
        if (expression instanceof Expression.Column column) {
            return types.apply(column).map(LogicalType::name).filter(type).isPresent();
        } else if (expression instanceof Expression.Prefixed prefixed) {
            return isMadeOf(prefixed.of(), type);
        } else if (expression instanceof Expression.Joined joined) {
            return isMadeOf(joined.left(), type) || isMadeOf(joined.right(), type);
        } else if (expression instanceof Expression.Case cases) {
            return cases.whens().stream().anyMatch(w -> isMadeOf(w.result(), type))
                    || cases.otherwise().filter(o -> isMadeOf(o, type)).isPresent();
        }
        return expression instanceof Expression.Call call
                && call.arguments().stream().anyMatch(a -> isMadeOf(a, type));
    }

    /** The same beside another text: only some systems see blanks that are at the end of that one. */
    void mustShowNoBlanks(Expression expression, Expression other) throws NotParsedException {
        mustShowNoBlanks(expression);
        boolean endsClearly =
                other instanceof Expression.Text text && !text.value().endsWith(" ")
                        || other instanceof Expression.Null
                        || isFilled(other);
        if (!endsClearly && !agreement.isOne() && isFilled(expression)) {
            throw new NotParsedException("a text of a fixed length beside another one");
        }
    }

    /** Numbers of which both systems reckon the same third one. */
    void mustReckonAlike(Expression left, Expression right) throws NotParsedException {
        mustBeNumber(left);
        mustBeNumber(right);
        if (!agreement.isOne() && (isSingle(left) || isSingle(right))) {
            throw new NotParsedException("reckoned with single precision");
        }
        boolean whole = isWhole(left) && isWhole(right);
        boolean mixed = isApproximate(left) != isApproximate(right);
        boolean alike = mixed ? agreement.isOfMixedNumbers() : isApproximate(left) || agreement.isOfFractions();
        if (!whole && !alike) {
            throw new NotParsedException("reckoned in binary here, and in decimals there");
        }
    }

    /** Whether it is reckoned in binary floating point, wherever there is such a thing beside decimals. */
    private boolean isApproximate(Expression expression) {
        return family(expression) == Family.NUMBER && isMadeOf(expression, TypeName::isApproximateNumber);
    }

    /** Of single precision, which some systems don't have, and others widen where they compare. */
    private boolean isSingle(Expression expression) {
        return family(expression) == Family.NUMBER && isMadeOf(expression, t -> t == TypeName.REAL);
    }

    /** A number of single precision is compared alike with others of that kind. */
    void mustBeOfOnePrecision(Expression expression, Expression other) throws NotParsedException {
        boolean same = isSingle(other) || other instanceof Expression.Null || isOfSinglePrecision(other);
        if (!same && !agreement.isOne() && isSingle(expression)) {
            throw new NotParsedException("single precision beside another one");
        }
    }

    private static boolean isOfSinglePrecision(Expression expression) {
        if (expression instanceof Expression.Prefixed prefixed) {
            return isOfSinglePrecision(prefixed.of());
        }
        if (!(expression instanceof Expression.Number number)) {
            return false;
        }
        float nearest = Float.parseFloat(number.digits());
        // of few digits: a power of ten is a few characters, and its digits fill the memory
        return Math.abs(nearest) < 1e9f
                && new BigDecimal(number.digits())
                                .subtract(new BigDecimal(nearest))
                                .signum()
                        == 0;
    }

    void mustBeNoTruth(Expression expression) throws NotParsedException {
        if (isTruth(expression)) {
            throw new NotParsedException("a truth value as a number");
        }
    }

    void mustBeQuestion(Expression expression) throws NotParsedException {
        boolean value = expression instanceof Expression.Number
                || expression instanceof Expression.Text
                || expression instanceof Expression.Column && !isTruth(expression);
        if (value) {
            throw new NotParsedException("a value as a condition");
        }
    }
}
