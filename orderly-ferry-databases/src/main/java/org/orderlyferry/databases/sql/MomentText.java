package org.orderlyferry.databases.sql;

import java.util.Optional;

/** Days and times as every system reads and orders them, those included that keep them as texts (ISO 8601, with a blank). */
final class MomentText {

    private MomentText() {}

    /** A text as one of a family's; nothing where it is none, or one that only some systems know. */
    static Optional<String> of(Family family, String text) {
        return switch (family) {
            case DATE -> Optional.of(text).filter(MomentText::isDay);
            case TIME -> Optional.of(time(text)).filter(MomentText::isTime);
            case TIMESTAMP -> Optional.of(timestamp(text)).filter(MomentText::isTimestamp);
            default -> Optional.empty();
        };
    }

    /** A day as its midnight; a fraction without zeros at its end. */
    static String timestamp(String text) {
        String moment = text.replace('T', ' ');
        return moment.matches("\\d{4,}-\\d\\d-\\d\\d") ? moment + " 00:00:00" : withoutZeros(moment);
    }

    private static String time(String text) {
        return text.matches("\\d\\d:\\d\\d") ? text + ":00" : withoutZeros(text);
    }

    private static String withoutZeros(String time) {
        return time.matches(".*\\.\\d*0+") ? time.replaceFirst("\\.?0+$", "") : time;
    }

    private static boolean isDay(String text) {
        return text.matches("\\d{4}-\\d\\d-\\d\\d");
    }

    private static boolean isTime(String text) {
        return text.matches("\\d\\d:\\d\\d:\\d\\d(\\.\\d{1,9})?");
    }

    private static boolean isTimestamp(String text) {
        return text.length() > 11
                && text.charAt(10) == ' '
                && isDay(text.substring(0, 10))
                && isTime(text.substring(11));
    }
}
