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
    private final Range byDayFirst = new Range(true);
    private final Range byMonthFirst = new Range(false);

    /** The earliest and the latest, for one way to read them. */
    private static final class Range {

        private final boolean isDayFirst;
        private int least = Integer.MAX_VALUE;
        private int most = Integer.MIN_VALUE;
        private String earliest = "";
        private String latest = "";

        Range(boolean isDayFirst) {
            this.isDayFirst = isDayFirst;
        }

        void add(YearLast date, String text) {
            int order = date.order(isDayFirst);
            if (order < least) {
                least = order;
                earliest = text;
            }
            if (order > most) {
                most = order;
                latest = text;
            }
        }
    }

    void add(YearLast date, String text, long line) {
        dayFirst &= date.canBeDayFirst();
        // nobody writes a month first with points
        monthFirst &= date.canBeMonthFirst() && date.mark() != '.';
        padded &= date.padded();
        oneMark &= mark == 0 || mark == date.mark();
        mark = date.mark();
        byDayFirst.add(date, text);
        byMonthFirst.add(date, text);
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

    /** The earliest of them, as the file has it; empty where they can't be read in one way. */
    Optional<String> earliest() {
        return pattern().map(p -> dayFirst ? byDayFirst.earliest : byMonthFirst.earliest);
    }

    /** The latest, likewise. */
    Optional<String> latest() {
        return pattern().map(p -> dayFirst ? byDayFirst.latest : byMonthFirst.latest);
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
