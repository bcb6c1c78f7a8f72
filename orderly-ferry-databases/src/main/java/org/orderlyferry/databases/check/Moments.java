package org.orderlyferry.databases.check;

import java.util.Optional;
import java.util.regex.Pattern;
import org.orderlyferry.databases.sql.Expression;

/** Dates, and dates with times of day, in their usual form; others are left to the system. */
final class Moments {

    private static final Pattern DAY = Pattern.compile("[0-9]{4}-[0-9]{2}-[0-9]{2}");

    private static final Pattern TIME = Pattern.compile("[ T][0-9]{2}:[0-9]{2}:[0-9]{2}(\\.[0-9]{1,9})?");

    private Moments() {}

    /** One that stands in a check. */
    static Told literal(Expression.Dated dated) {
        return switch (dated.type()) {
            case "DATE" -> of(dated.value(), false);
            case "TIMESTAMP" -> of(dated.value(), true);
            default -> Told.OPEN;
        };
    }

    /** One from its text. */
    static Told of(String text, boolean withTime) {
        boolean day = DAY.matcher(text).matches();
        if (!withTime) {
            return day ? new Told.Moment(text, false) : Told.OPEN;
        }
        if (day) {
            return new Told.Moment(text + " 00:00:00.000000000", true);
        }
        boolean both = text.length() > 10
                && DAY.matcher(text.substring(0, 10)).matches()
                && TIME.matcher(text.substring(10)).matches();
        if (!both) {
            return Told.OPEN;
        }
        String fraction = text.length() > 20 ? text.substring(20) : "";
        return new Told.Moment(
                text.substring(0, 10) + " " + text.substring(11, 19) + "." + fraction
                        + "0".repeat(9 - fraction.length()),
                true);
    }

    /** How two compare, of which one may stand in the check as a text; nothing where that can't be told. */
    static Optional<Integer> order(Told left, Told right, String system) {
        Told one = right instanceof Told.Moment moment ? ofText(left, moment.withTime()) : left;
        Told other = left instanceof Told.Moment moment ? ofText(right, moment.withTime()) : right;
        if (one instanceof Told.Moment first
                && other instanceof Told.Moment second
                && first.withTime() == second.withTime()
                // there these are texts, and of a second's fraction there may be more or fewer digits
                && !(first.withTime() && system.equals("SQLite"))) {
            return Optional.of(first.value().compareTo(second.value()));
        }
        return Optional.empty();
    }

    private static Told ofText(Told told, boolean withTime) {
        return told instanceof Told.Text text && text.rule() == TextRule.LITERAL ? of(text.value(), withTime) : told;
    }
}
