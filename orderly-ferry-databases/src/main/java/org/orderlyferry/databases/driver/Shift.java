package org.orderlyferry.databases.driver;

import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.zone.ZoneOffsetTransition;
import java.util.Optional;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/** Times that drivers shift, since they go by {@link java.util.Calendar}. */
enum Shift {
    /** Years of before the first, and of five digits: few systems have them. */
    OTHER_YEARS("-0044-03-15T12:00:00") {
        @Override
        boolean has(String text) {
            return isOld(text) || text.indexOf('-') > USUAL_YEAR;
        }
    },
    /** Days of before 1582, which are counted in another calendar. */
    BEFORE_GREGORY("1000-01-01T12:00:00") {
        @Override
        boolean has(String text) {
            return !OTHER_YEARS.has(text) && text.compareTo("1582-10-05") < 0;
        }
    },
    /** The ten days that were left out when the calendar was changed. */
    LEFT_OUT_DAYS("1582-10-10T12:00:00") {
        @Override
        boolean has(String text) {
            return !OTHER_YEARS.has(text) && text.compareTo("1582-10-05") >= 0 && text.compareTo("1582-10-15") < 0;
        }
    },
    /** The hour that the zone of this machine leaves out in spring. */
    LEFT_OUT_HOUR("") {
        @Override
        boolean has(String text) {
            return text.indexOf('T') > 0
                    && !text.endsWith("Z")
                    && !ZoneId.systemDefault().getRules().isFixedOffset()
                    && ZoneId.systemDefault()
                            .getRules()
                            .getValidOffsets(JavaValues.timestamp(text))
                            .isEmpty();
        }
    };

    private static final int USUAL_YEAR = 4;

    private final String sample;

    Shift(String sample) {
        this.sample = sample;
    }

    /** A time that is shifted where any is; empty where this machine's zone leaves none out. */
    String sample() {
        return this == LEFT_OUT_HOUR ? leftOut().orElse("") : sample;
    }

    /** Whether a date or a time is one of these. */
    abstract boolean has(String text);

    /** Refuses what is one of these. */
    void refuse(String text, String system) throws InvalidValueException {
        if (has(text)) {
            throw new InvalidValueException(
                    switch (this) {
                        case OTHER_YEARS -> "is of a year that " + system + " or its driver doesn't have";
                        case BEFORE_GREGORY -> "is before 1582-10-05, which the driver of " + system + " shifts";
                        case LEFT_OUT_DAYS -> "is one of ten days in 1582 that the driver of " + system + " shifts";
                        case LEFT_OUT_HOUR ->
                            "is in an hour that the zone of this machine, " + ZoneId.systemDefault()
                                    + ", leaves out, and the driver of " + system
                                    + " shifts it; the work can be done with TZ=UTC in the environment";
                    });
        }
    }

    private static boolean isOld(String text) {
        return text.startsWith("-") || text.startsWith("0000");
    }

    private static Optional<String> leftOut() {
        ZoneOffsetTransition next = ZoneId.systemDefault()
                .getRules()
                .nextTransition(LocalDateTime.of(2030, 1, 1, 0, 0).toInstant(ZoneOffset.UTC));
        for (int i = 0; next != null && i < 2; i++) {
            if (next.isGap()) {
                return Optional.of(JavaValues.text(next.getDateTimeBefore().plusMinutes(1)));
            }
            next = ZoneId.systemDefault().getRules().nextTransition(next.getInstant());
        }
        return Optional.empty();
    }
}
