package org.orderlyferry.databases.sql;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * Brings an expression of one system to what means the same in every system: columns, values, comparisons, logic,
 * arithmetic without division, and a few functions. Anything else is not guessed at: 7 / 2 is 3 in one system and 3.5 in
 * another, and a function of the same name may count bytes here and characters there.
 */
public final class Portable {

    /** The function that counts a text's characters, under whatever name the target has it. */
    static final String CHARACTERS = "CHAR_LENGTH";

    /** Texts behind each other, which systems write in several ways; no system has a function of this name. */
    static final String TOGETHER = "||";

    /** Functions that give what they are given. */
    static final Set<String> NUMBERS_AND_TEXTS = Set.of("ABS", "COALESCE", "NULLIF");

    private static final Set<String> PLAIN_TEXTS = Set.of("text", "varchar", "character varying");
    private static final Set<String> TRIMS = Set.of("TRIM", "LTRIM", "RTRIM");
    private static final Set<String> CASES = Set.of("LOWER", "UPPER");
    private static final Set<String> OPERATORS = Set.of("AND", "OR", "=", "<>", "<", "<=", ">", ">=", "+", "-", "*");

    private final Function<Expression.Column, Optional<LogicalType>> types;
    private final ValueKinds kinds;
    private final SideBySide side;
    private final Agreement agreement;
    private final String system;

    /**
     * For one table.
     *
     * @param types a column's type; nothing where it can't be computed with
     * @param system whose SQL the expressions are
     * @param to whose they are to be; the same one where only their form is asked for
     */
    public Portable(Function<Expression.Column, Optional<LogicalType>> types, String system, String to) {
        this.types = types;
        this.system = system;
        this.agreement = new Agreement(system, to);
        this.kinds = new ValueKinds(types, agreement);
        this.side = new SideBySide(kinds, agreement);
    }

    /** The expression as every system takes it, or nothing where there is none. */
    public Optional<Expression> of(Expression expression) {
        try {
            return Optional.of(plain(expression));
        } catch (NotParsedException e) {
            return Optional.empty();
        }
    }

    private Expression plain(Expression expression) throws NotParsedException {
        if (expression instanceof Expression.Column column) {
            type(column);
            return column;
        } else if (expression instanceof Expression.Prefixed prefixed) {
            Expression of = plain(prefixed.of());
            if (prefixed.operator().equals("NOT")) {
                kinds.mustBeQuestion(of);
            } else {
                kinds.mustBeNumber(of);
            }
            return new Expression.Prefixed(prefixed.operator(), of);
        } else if (expression instanceof Expression.Joined joined
                && joined.operator().equals("||")) {
            return together(List.of(joined.left(), joined.right()));
        } else if (expression instanceof Expression.Call call
                && call.function().equals("CONCAT")
                && system.equals("MariaDB")) {
            // elsewhere it passes over nulls
            return together(call.arguments());
        } else if (expression instanceof Expression.Joined joined && OPERATORS.contains(joined.operator())) {
            return joined(joined.operator(), plain(joined.left()), plain(joined.right()));
        } else if (expression instanceof Expression.Is is) {
            Expression of = plain(is.of());
            if (!is.what().equals("NULL")) {
                kinds.mustBeQuestion(of);
            }
            return new Expression.Is(of, is.what(), is.not());
        } else if (expression instanceof Expression.In in) {
            return in(plain(in.of()), all(in.list()), in.not());
        } else if (expression instanceof Expression.Each each) {
            return in(each);
        } else if (expression instanceof Expression.Between between) {
            Expression of = plain(between.of());
            kinds.mustBeNoTruth(of);
            List<Expression> ends = side.all(of, all(List.of(between.low(), between.high())));
            return new Expression.Between(of, ends.get(0), ends.get(1), between.not());
        } else if (expression instanceof Expression.Like like
                && agreement.isOfLetters()
                && like.operator().equals("LIKE")) {
            Optional<Expression> escape =
                    like.escape().isPresent() ? Optional.of(plain(like.escape().get())) : Optional.empty();
            Expression of = plain(like.of());
            Expression pattern = plain(like.pattern());
            kinds.mustBeText(of);
            kinds.mustBeText(pattern);
            return new Expression.Like(of, "LIKE", pattern, escape, like.not());
        } else if (expression instanceof Expression.Case cases) {
            return cases(cases);
        } else if (expression instanceof Expression.Call call) {
            return called(function(call), all(call.arguments()));
        } else if (expression instanceof Expression.Cast cast) {
            return cast(cast);
        } else if (expression instanceof Expression.Text text && text.value().isEmpty() && system.equals("Oracle")) {
            throw new NotParsedException("an empty text is a null there");
        } else if (expression instanceof Expression.Text
                || expression instanceof Expression.Number
                || expression instanceof Expression.Truth
                || expression instanceof Expression.Null) {
            return expression;
        } else if (expression instanceof Expression.Dated dated) {
            return side.beside(dated, dated);
        }
        throw new NotParsedException("not the same everywhere");
    }

    /** Some systems have numbers for truth values, and take either for a condition; others keep them apart. */
    private Expression joined(String operator, Expression left, Expression right) throws NotParsedException {
        switch (operator) {
            case "AND", "OR" -> {
                kinds.mustBeQuestion(left);
                kinds.mustBeQuestion(right);
            }
            case "=", "<>" -> {
                if (kinds.isTruth(left) || kinds.isTruth(right)) {
                    return new Expression.Joined(operator, kinds.truth(left), kinds.truth(right));
                }
                return new Expression.Joined(operator, side.beside(right, left), side.beside(left, right));
            }
            case "+", "-", "*" -> {
                kinds.mustReckonAlike(left, right);
            }
            default -> {
                kinds.mustBeNoTruth(left);
                kinds.mustBeNoTruth(right);
                return new Expression.Joined(operator, side.beside(right, left), side.beside(left, right));
            }
        }
        return new Expression.Joined(operator, left, right);
    }

    private Expression in(Expression of, List<Expression> list, boolean not) throws NotParsedException {
        if (!kinds.isTruth(of)) {
            return new Expression.In(of, side.all(of, list), not);
        }
        List<Expression> truths = new ArrayList<>();
        for (Expression one : list) {
            truths.add(kinds.truth(one));
        }
        return new Expression.In(of, truths, not);
    }

    private Expression called(String function, List<Expression> arguments) throws NotParsedException {
        boolean several = function.equals("COALESCE") && !arguments.isEmpty();
        if (!several && arguments.size() != (function.equals("NULLIF") ? 2 : 1)) {
            throw new NotParsedException(function + " of " + arguments.size());
        }
        if (function.equals("COALESCE") || function.equals("NULLIF")) {
            return new Expression.Call(function, side.all(arguments.get(0), arguments));
        }
        for (Expression argument : arguments) {
            if (function.equals("ABS")) {
                kinds.mustBeNumber(argument);
            } else {
                kinds.mustBeText(argument);
            }
        }
        return new Expression.Call(function, arguments);
    }

    private List<Expression> all(List<Expression> expressions) throws NotParsedException {
        List<Expression> plain = new ArrayList<>();
        for (Expression expression : expressions) {
            plain.add(plain(expression));
        }
        return plain;
    }

    /** Texts behind each other, null if any of them is: not so in Oracle, where a null is an empty text there. */
    private Expression together(List<Expression> texts) throws NotParsedException {
        List<Expression> all = new ArrayList<>();
        for (Expression text : texts) {
            Expression plain = plain(text);
            if (plain instanceof Expression.Call call && call.function().equals(TOGETHER)) {
                all.addAll(call.arguments());
            } else if (kinds.isText(plain)) {
                all.add(plain);
            } else {
                throw new NotParsedException("not a text beside another");
            }
        }
        if (system.equals("Oracle")) {
            throw new NotParsedException("a null is an empty text there");
        }
        return new Expression.Call(TOGETHER, all);
    }

    private LogicalType type(Expression.Column column) throws NotParsedException {
        return types.apply(column).orElseThrow(() -> new NotParsedException("the column " + column.name()));
    }

    private String function(Expression.Call call) throws NotParsedException {
        String name = call.function();
        boolean counts = name.equals("CHAR_LENGTH")
                || name.equals("CHARACTER_LENGTH")
                || name.equals("LENGTH") && !system.equals("MariaDB");
        if (counts) {
            return CHARACTERS;
        }
        // of blanks they take the same; what is empty then is null in Oracle
        boolean trims = TRIMS.contains(name) && call.arguments().size() == 1 && !system.equals("Oracle");
        if (trims || NUMBERS_AND_TEXTS.contains(name) || CASES.contains(name) && agreement.isOfLetters()) {
            return name;
        }
        throw new NotParsedException(name);
    }

    /** {@code = ANY (ARRAY[…])} is IN, and {@code <> ALL} is NOT IN. */
    private Expression in(Expression.Each each) throws NotParsedException {
        Expression array =
                each.array() instanceof Expression.Cast cast && cast.type().endsWith("[]") ? cast.of() : each.array();
        boolean in = each.operator().equals("=") && !each.all();
        boolean notIn = each.operator().equals("<>") && each.all();
        if ((in || notIn)
                && array instanceof Expression.Elements elements
                && !elements.items().isEmpty()) {
            return in(plain(each.of()), all(elements.items()), notIn);
        }
        throw new NotParsedException("ANY");
    }

    private Expression cases(Expression.Case cases) throws NotParsedException {
        List<Expression> conditions = new ArrayList<>();
        List<Expression> results = new ArrayList<>();
        for (Expression.When when : cases.whens()) {
            conditions.add(plain(when.condition()));
            results.add(plain(when.result()));
        }
        if (cases.otherwise().isPresent()) {
            results.add(plain(cases.otherwise().get()));
        }
        if (results.stream().anyMatch(kinds::isQuestion)) {
            for (int i = 0; i < results.size(); i++) {
                results.set(i, kinds.isQuestion(results.get(i)) ? results.get(i) : kinds.truth(results.get(i)));
            }
        }
        Optional<Expression> of = Optional.empty();
        if (cases.of().isPresent()) {
            of = Optional.of(plain(cases.of().get()));
            conditions = side.all(of.get(), conditions);
        } else {
            for (Expression condition : conditions) {
                kinds.mustBeQuestion(condition);
            }
        }
        List<Expression.When> whens = new ArrayList<>();
        for (int i = 0; i < conditions.size(); i++) {
            whens.add(new Expression.When(conditions.get(i), results.get(i)));
        }
        return new Expression.Case(of, whens, cases.otherwise().map(otherwise -> results.get(whens.size())));
    }

    /** A cast that changes no value goes: systems write types behind literals, and around columns, that were there. */
    private Expression cast(Expression.Cast cast) throws NotParsedException {
        String type = cast.type();
        int length = CastTypes.length(type);
        Expression of = cast.of() instanceof Expression.Cast inner ? cast(inner) : cast.of();
        if (of instanceof Expression.Text text) {
            if (CastTypes.isText(type) && (length < 0 || text.value().length() <= length)) {
                return text;
            }
            if (CastTypes.isNumber(type) && text.value().matches("-?[0-9]{1,40}(\\.[0-9]{1,40})?")) {
                return number(text.value(), type);
            }
            if (type.matches("date|time.*|timestamp.*")) {
                return new Expression.Dated(
                        type.startsWith("timestamp") ? "TIMESTAMP" : type.startsWith("time") ? "TIME" : "DATE",
                        text.value());
            }
        } else if (of instanceof Expression.Number number && CastTypes.isNumber(type)) {
            return number(number.digits(), type);
        } else if (of instanceof Expression.Prefixed prefixed
                && prefixed.operator().equals("-")
                && prefixed.of() instanceof Expression.Number number
                && CastTypes.isNumber(type)) {
            return number("-" + number.digits(), type);
        } else if (type.equals("numeric") && isReckoned(of) && kinds.isWhole(of)) {
            return plain(of);
        } else if (of instanceof Expression.Column column && length < 0) {
            TypeName name = type(column).name();
            boolean text = CastTypes.isText(type)
                    && (name == TypeName.VARCHAR || name == TypeName.CLOB || name == TypeName.CHARACTER);
            boolean whole = ValueKinds.WHOLE.contains(name);
            boolean number = type.equals("numeric") && (whole || name == TypeName.DECIMAL)
                    || type.equals("bigint") && whole
                    || type.equals("integer") && (name == TypeName.SMALLINT || name == TypeName.INTEGER);
            if (text || number) {
                return column;
            }
        }
        if (PLAIN_TEXTS.contains(type)) {
            Expression plain = plain(of);
            if (kinds.isText(plain)
                    || plain instanceof Expression.Call call && call.function().equals(TOGETHER)) {
                return plain;
            }
        }
        throw new NotParsedException("CAST");
    }

    private static boolean isReckoned(Expression expression) {
        return expression instanceof Expression.Joined || expression instanceof Expression.Call;
    }

    private static Expression number(String text, String type) throws NotParsedException {
        BigDecimal value = new BigDecimal(text);
        if (CastTypes.isWholeNumber(type) && value.stripTrailingZeros().scale() > 0
                || type.contains(",") && value.scale() > Integer.parseInt(type.replaceAll(".*,\\s*|\\)", ""))) {
            throw new NotParsedException("the cast rounds");
        }
        return value.signum() < 0
                ? new Expression.Prefixed("-", new Expression.Number(text.substring(1)))
                : new Expression.Number(text);
    }
}
