package org.orderlyferry.profile;

import java.math.BigDecimal;
import java.util.Optional;

/** The smallest and the largest of a column's floating point numbers, as its file has them. */
final class Approximates {

    private double least = Double.POSITIVE_INFINITY;
    private double most = Double.NEGATIVE_INFINITY;
    private String smallest = "";
    private String largest = "";

    void add(String text) {
        double number;
        try {
            number = Double.parseDouble(text.replaceFirst("(?i)^([+-]?)inf(inity)?$", "$1Infinity"));
        } catch (NumberFormatException e) {
            // NaN in one of its spellings, which is neither
            return;
        }
        if (number <= least) {
            least = number;
            smallest = text;
        }
        if (number >= most) {
            most = number;
            largest = text;
        }
    }

    /** The smallest of them and of another number. */
    Optional<String> least(Optional<BigDecimal> other) {
        return other.isPresent() && (smallest.isEmpty() || other.get().doubleValue() < least)
                ? other.map(BigDecimal::toPlainString)
                : Optional.of(smallest).filter(t -> !t.isEmpty());
    }

    /** The largest of them and of another number. */
    Optional<String> most(Optional<BigDecimal> other) {
        return other.isPresent() && (largest.isEmpty() || other.get().doubleValue() > most)
                ? other.map(BigDecimal::toPlainString)
                : Optional.of(largest).filter(t -> !t.isEmpty());
    }
}
