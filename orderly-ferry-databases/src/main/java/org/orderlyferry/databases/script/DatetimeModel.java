package org.orderlyferry.databases.script;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;

/**
 * Oracle's datetime format model, such as {@code YYYY-MM-DD HH24:MI:SS}: reads what is written by one. English names of
 * months; a year of two digits is the nearest of those from 1950 to 2049 where the model says RR, and of this century
 * where it says YY. One instance reads one text.
 */
final class DatetimeModel {

    /** Longer ones first, since an element is the longest that fits. */
    private static final List<String> ELEMENTS = List.of(
            "SYYYY", "YYYY", "RRRR", "HH24", "HH12", "MONTH", "A.M.", "P.M.", "SSSSS", "TZH", "TZM", "TZR", "MON",
            "DDD", "XFF", "YYY", "FF", "YY", "RR", "MM", "DD", "HH", "MI", "SS", "AM", "PM", "FX", "FM", "X", "Y");

    private static final List<String> MONTHS =
            List.of("JAN", "FEB", "MAR", "APR", "MAY", "JUN", "JUL", "AUG", "SEP", "OCT", "NOV", "DEC");
    private static final List<String> LONG_MONTHS = List.of(
            "JANUARY",
            "FEBRUARY",
            "MARCH",
            "APRIL",
            "MAY",
            "JUNE",
            "JULY",
            "AUGUST",
            "SEPTEMBER",
            "OCTOBER",
            "NOVEMBER",
            "DECEMBER");
    private static final int HALF = 50;
    private static final int CENTURY = 100;
    private static final int NOON = 12;
    private static final int NANO_DIGITS = 9;

    private final String model;
    private String text = "";
    private int at;
    private int year = 1;
    private int month = 1;
    private int day = 1;
    private int hour;
    private int minute;
    private int second;
    private int nano;
    private boolean twelve;
    private boolean afternoon;
    private String zone = "";
    private int zoneHour;
    private int zoneMinute;
    private boolean zoned;

    DatetimeModel(String model) {
        this.model = model;
    }

    /**
     * The value's text.
     *
     * @throws IllegalArgumentException if it isn't written by the model, or the model has what isn't known here
     */
    String value(String written) {
        text = written.strip();
        String upper = model.toUpperCase(Locale.ROOT);
        int i = 0;
        while (i < model.length() && at < text.length()) {
            char c = model.charAt(i);
            if (c == '"') {
                int end = model.indexOf('"', i + 1);
                i = skip(
                        end < 0 ? model.substring(i + 1) : model.substring(i + 1, end),
                        end < 0 ? model.length() : end + 1);
                continue;
            }
            int from = i;
            String element = ELEMENTS.stream()
                    .filter(e -> upper.startsWith(e, from))
                    .findFirst()
                    .orElse("");
            if (element.isEmpty()) {
                must(!Character.isLetterOrDigit(c));
                // any punctuation stands for any other
                at += at < text.length() && !Character.isLetterOrDigit(text.charAt(at)) ? 1 : 0;
                i++;
                continue;
            }
            i += element.length();
            // FF3 says how many digits are shown
            i += element.endsWith("FF") && i < model.length() && Character.isDigit(model.charAt(i)) ? 1 : 0;
            take(element);
        }
        must(at == text.length());
        return result();
    }

    private int skip(String literal, int further) {
        must(text.regionMatches(true, at, literal, 0, literal.length()));
        at += literal.length();
        return further;
    }

    private void take(String element) {
        switch (element) {
            case "SYYYY", "YYYY", "RRRR" -> year = year(element);
            case "RR", "YY" -> {
                int two = number(2);
                year = element.equals("RR") && two >= HALF ? 19 * CENTURY + two : 20 * CENTURY + two;
            }
            case "MM" -> month = number(2);
            case "MON" -> month = name(MONTHS);
            case "MONTH" -> month = name(LONG_MONTHS);
            case "DD" -> day = number(2);
            case "HH24" -> hour = number(2);
            case "HH", "HH12" -> {
                hour = number(2);
                twelve = true;
            }
            case "MI" -> minute = number(2);
            case "SS" -> second = number(2);
            case "SSSSS" -> {
                int all = number(5);
                hour = all / 3600;
                minute = all / 60 % 60;
                second = all % 60;
            }
            case "AM", "PM", "A.M.", "P.M." -> {
                String said = text.substring(at, Math.min(text.length(), at + element.length()))
                        .toUpperCase(Locale.ROOT);
                must(said.startsWith("A") || said.startsWith("P"));
                afternoon = said.startsWith("P");
                at += element.length();
            }
            case "X" -> at++;
            case "XFF" -> {
                at++;
                fraction();
            }
            case "FF" -> fraction();
            case "TZH" -> {
                zoned = true;
                boolean minus = text.charAt(at) == '-';
                at += minus || text.charAt(at) == '+' ? 1 : 0;
                zoneHour = (minus ? -1 : 1) * number(2);
            }
            case "TZM" -> zoneMinute = number(2);
            case "TZR" -> {
                zoned = true;
                int end = text.indexOf(' ', at) < 0 ? text.length() : text.indexOf(' ', at);
                zone = text.substring(at, end);
                at = end;
            }
            case "FX", "FM" -> {
                // how exactly blanks and zeros are written
            }
            default -> must(false);
        }
    }

    private int year(String element) {
        boolean minus = element.equals("SYYYY") && text.charAt(at) == '-';
        at += minus || text.charAt(at) == '+' ? 1 : 0;
        int from = at;
        int given = number(4);
        boolean two = element.equals("RRRR") && at - from <= 2;
        return two ? given + (given >= HALF ? 19 : 20) * CENTURY : minus ? -given : given;
    }

    private int number(int most) {
        int from = at;
        while (at < text.length() && at - from < most && text.charAt(at) >= '0' && text.charAt(at) <= '9') {
            at++;
        }
        must(at > from);
        return Integer.parseInt(text.substring(from, at));
    }

    private void fraction() {
        int from = at;
        while (at < text.length() && Character.isDigit(text.charAt(at))) {
            at++;
        }
        String digits = text.substring(from, at);
        must(!digits.isEmpty() && digits.length() <= NANO_DIGITS);
        nano = Integer.parseInt((digits + "0".repeat(NANO_DIGITS)).substring(0, NANO_DIGITS));
    }

    private int name(List<String> names) {
        for (int i = 0; i < names.size(); i++) {
            String name = names.get(i);
            if (text.regionMatches(true, at, name, 0, name.length())) {
                at += name.length();
                return i + 1;
            }
        }
        throw wrong();
    }

    private void must(boolean so) {
        if (!so) {
            throw wrong();
        }
    }

    private IllegalArgumentException wrong() {
        return new IllegalArgumentException("has a date that can't be read by " + model + ": " + text);
    }

    private String result() {
        int hours = twelve ? hour % NOON + (afternoon ? NOON : 0) : hour;
        try {
            var moment = LocalDate.of(year, month, day).atTime(LocalTime.of(hours, minute, second, nano));
            if (!zoned) {
                return moment.format(DateTimeFormatter.ISO_LOCAL_DATE_TIME);
            }
            if (!zone.isEmpty()) {
                return moment.atZone(ZoneId.of(zone)).format(DateTimeFormatter.ISO_OFFSET_DATE_TIME);
            }
            ZoneOffset offset = ZoneOffset.ofHoursMinutes(zoneHour, zoneHour < 0 ? -zoneMinute : zoneMinute);
            return moment.atOffset(offset).format(DateTimeFormatter.ISO_OFFSET_DATE_TIME);
        } catch (DateTimeException e) {
            throw new IllegalArgumentException("has a date that is none: " + text, e);
        }
    }
}
