package org.orderlyferry.profile;

import java.util.Optional;

/** How the dates of a column that have their year last can be read: all of them in the same way. */
final class DateReadings {

    private boolean dayFirst = true;
    private boolean monthFirst = true;
    private boolean oneMark = true;
    private boolean padded = true;
    private char mark;
    private String example = "";

    void add(YearLast date, String text, long line) {
        dayFirst &= date.canBeDayFirst();
        // nobody writes a month first with points
        monthFirst &= date.canBeMonthFirst() && date.mark() != '.';
        padded &= date.padded();
        oneMark &= mark == 0 || mark == date.mark();
        mark = date.mark();
        // the best example is one that means two different days
        if (example.isEmpty() && date.canBeDayFirst() && date.canBeMonthFirst() && date.first() != date.second()) {
            example = text + " in line " + line;
        }
    }

    /** Whether nothing tells the day from the month. */
    boolean isAmbiguous() {
        return oneMark && dayFirst && monthFirst;
    }

    /** A date that can be read two ways, with its line. */
    String example() {
        return example;
    }

    /** The one pattern by which all can be read. */
    Optional<String> pattern() {
        if (!oneMark || dayFirst == monthFirst) {
            return Optional.empty();
        }
        String day = padded ? "dd" : "d";
        String month = padded ? "MM" : "M";
        return Optional.of(dayFirst ? day + mark + month + mark + "yyyy" : month + mark + day + mark + "yyyy");
    }
}
