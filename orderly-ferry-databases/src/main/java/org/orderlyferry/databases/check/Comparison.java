package org.orderlyferry.databases.check;

import java.math.BigDecimal;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.check.Told.Exactness;

/** How a system compares two values, as far as that is sure. */
final class Comparison {

    private final String system;
    private final NumberRules numbers;

    Comparison(String system, NumberRules numbers) {
        this.system = system;
        this.numbers = numbers;
    }

    /** One of {@code = <> < <= > >=}. */
    Told of(String operator, Told left, Told right) {
        if (left instanceof Told.Open || right instanceof Told.Open) {
            return Told.OPEN;
        }
        if (left instanceof Told.Nothing || right instanceof Told.Nothing) {
            return Told.NULL;
        }
        boolean equality = operator.equals("=") || operator.equals("<>");
        if (left instanceof Told.Text one && right instanceof Told.Text other) {
            return equality
                    ? one.rule()
                            .with(other.rule())
                            .same(one.value(), other.value())
                            .map(same -> Told.truth(same == operator.equals("=")))
                            .orElse(Told.OPEN)
                    // the order of texts is the system's own
                    : Told.OPEN;
        }
        if (left instanceof Told.Truth one && right instanceof Told.Truth other) {
            return equality ? Told.truth((one.value() == other.value()) == operator.equals("=")) : Told.OPEN;
        }
        Optional<Integer> order = left instanceof Told.Number one && right instanceof Told.Number other
                ? numbers.order(one, other)
                : Moments.order(left, right, system);
        return order.map(o -> Told.truth(
                        switch (operator) {
                            case "=" -> o == 0;
                            case "<>" -> o != 0;
                            case "<" -> o < 0;
                            case "<=" -> o <= 0;
                            case ">" -> o > 0;
                            default -> o >= 0;
                        }))
                .orElse(Told.OPEN);
    }

    /** Whether something is among others; of a long list of constants, without going through it for each record. */
    Part among(Part of, List<Part> list) {
        Set<BigDecimal> wholes = new HashSet<>();
        Set<String> texts = new HashSet<>();
        for (Part part : list) {
            Told told = part instanceof Part.Constant constant ? constant.told() : Told.OPEN;
            if (told instanceof Told.Number number && number.exactness() == Exactness.WHOLE) {
                wholes.add(number.value());
            } else if (told instanceof Told.Text text) {
                texts.add(text.value());
            }
        }
        boolean allWhole = !wholes.isEmpty() && list.stream().allMatch(Comparison::isWhole);
        boolean allTexts = !texts.isEmpty() && list.stream().allMatch(Comparison::isText);
        return record -> {
            Told told = of.of(record);
            if (allWhole && told instanceof Told.Number number && number.exactness() == Exactness.WHOLE) {
                return Told.truth(wholes.contains(number.value()));
            }
            if (allTexts && told instanceof Told.Text text && text.rule() == TextRule.EXACT) {
                return Told.truth(texts.contains(text.value()));
            }
            Told found = Told.FALSE;
            for (Part part : list) {
                found = Logic.or(found, of("=", told, part.of(record)));
            }
            return found;
        };
    }

    private static boolean isWhole(Part part) {
        return part instanceof Part.Constant constant
                && constant.told() instanceof Told.Number number
                && number.exactness() == Exactness.WHOLE;
    }

    private static boolean isText(Part part) {
        return part instanceof Part.Constant constant && constant.told() instanceof Told.Text;
    }
}
