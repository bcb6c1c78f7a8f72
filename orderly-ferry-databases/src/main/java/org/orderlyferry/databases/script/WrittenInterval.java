package org.orderlyferry.databases.script;

import java.math.BigDecimal;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * An interval as PostgreSQL's own tools and people write it, {@code 1 year 2 mons -3 days +04:05:06.5}, as the duration of ISO
 * 8601 that the server would say: months, days and time are apart there, and none becomes another.
 */
final class WrittenInterval {

    private static final Pattern PART =
            Pattern.compile("\\s*+(?:([+-]?)(\\d{1,9}):(\\d{1,2})(?::(\\d{1,2}(?:\\.\\d{1,6})?))?"
                    + "|([+-]?\\d{1,9}(?:\\.\\d{1,6})?)\\s*+([A-Za-z]+))(?=\\s|$)");

    private static final long HOUR = 3_600_000_000L;
    private static final long MINUTE = 60_000_000L;
    private static final int SECOND = 1_000_000;
    private static final int YEAR = 12;
    private static final int WEEK = 7;

    private static final Map<String, Integer> MONTHS =
            Map.of("year", YEAR, "yr", YEAR, "y", YEAR, "month", 1, "mon", 1);
    private static final Map<String, Integer> DAYS = Map.of("week", WEEK, "w", WEEK, "day", 1, "d", 1);
    private static final Map<String, Long> MICROS = Map.of(
            "hour",
            HOUR,
            "hr",
            HOUR,
            "h",
            HOUR,
            "minute",
            MINUTE,
            "min",
            MINUTE,
            "m",
            MINUTE,
            "second",
            (long) SECOND,
            "sec",
            (long) SECOND,
            "s",
            (long) SECOND);

    private long months;
    private long days;
    private long micros;

    private WrittenInterval() {}

    /** The duration; empty where the text is written in no such way. */
    static Optional<String> duration(String text) {
        String plain = text.strip().toLowerCase(Locale.ROOT);
        boolean ago = plain.endsWith(" ago");
        plain = plain.replaceFirst("^@\\s*+", "").replaceFirst("\\s++ago$", "");
        WrittenInterval interval = new WrittenInterval();
        Matcher part = PART.matcher(plain);
        int at = 0;
        while (at < plain.length()) {
            if (!part.find(at) || part.start() != at || !interval.add(part)) {
                return Optional.empty();
            }
            at = part.end();
        }
        return at == 0 ? Optional.empty() : Optional.of(interval.said(ago ? -1 : 1));
    }

    private boolean add(Matcher part) {
        if (part.group(2) != null) {
            String seconds = part.group(4) == null ? "0" : part.group(4);
            long time = Long.parseLong(part.group(2)) * HOUR
                    + Long.parseLong(part.group(3)) * MINUTE
                    + new BigDecimal(seconds).movePointRight(6).longValueExact();
            micros += part.group(1).equals("-") ? -time : time;
            return true;
        }
        BigDecimal number = new BigDecimal(part.group(5));
        String unit = part.group(6).length() > 1 ? part.group(6).replaceFirst("s$", "") : part.group(6);
        if (number.scale() > 0 && !unit.matches("s(ec(ond)?)?")) {
            // of a day and a month only the server says what a part of it is
            return false;
        }
        if (MONTHS.containsKey(unit)) {
            months += number.longValueExact() * MONTHS.get(unit);
        } else if (DAYS.containsKey(unit)) {
            days += number.longValueExact() * DAYS.get(unit);
        } else if (MICROS.containsKey(unit)) {
            micros += number.multiply(BigDecimal.valueOf(MICROS.get(unit))).longValueExact();
        } else {
            return false;
        }
        return true;
    }

    private String said(int sign) {
        StringBuilder duration = new StringBuilder("P");
        add(duration, sign * (months / YEAR), 'Y');
        add(duration, sign * (months % YEAR), 'M');
        add(duration, sign * days, 'D');
        if (micros != 0 || duration.length() == 1) {
            duration.append('T');
            add(duration, sign * (micros / HOUR), 'H');
            add(duration, sign * (micros % HOUR / MINUTE), 'M');
            long seconds = sign * (micros % MINUTE);
            if (seconds != 0 || micros == 0) {
                duration.append(BigDecimal.valueOf(seconds, 6)
                                .stripTrailingZeros()
                                .toPlainString())
                        .append('S');
            }
        }
        return duration.toString();
    }

    private static void add(StringBuilder duration, long count, char unit) {
        if (count != 0) {
            duration.append(count).append(unit);
        }
    }
}
